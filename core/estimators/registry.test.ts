import { afterAll, describe, expect, it } from "vitest";
import { analyse } from "../analysis";
import { Analysis } from "../analysis";
import {
  Averages,
  buildDesign,
  columnsByKey,
  regressionParameters,
  regressionSlope,
  regressionVector,
  type Design,
  type Equation,
} from "../design";
import { effectsCsv } from "../../formats";
import { byCovariance, type Covariance, type Kernel } from "../model";
import { choleskyInPlace, choleskySolveInPlace } from "../numerics/cholesky";
import { ReplicateMaker } from "../preparation/replicate-maker";
import { ReplicatePool } from "../analysis/replicate-pool";
import { madeStudy, normals, problemOf } from "../test-kit";
import type { Engine, Fit, ModelData } from "./engine";
import { engineOf, engines, registerEngine } from "./registry";

/**
 * A stranger's engine: least absolute deviations, each equation by weighted least squares with
 * weights 1 / |residual| (Schlossmacher 1973, JASA 68). It knows no errors of its own, so
 * everything rests on resampling.
 */
interface LadData {
  equations: { y: Float64Array; columns: Float64Array[] }[];
  size: number;
  averages: Float64Array;
}

const SMALLEST = 1e-6;

function leastAbsolute(
  { y, columns }: LadData["equations"][number],
  counts: ArrayLike<number>,
  rounds: number,
): Float64Array | null {
  const x = [new Float64Array(y.length).fill(1), ...columns];
  const p = x.length;
  let weights = Float64Array.from(counts);
  let b: Float64Array | null = null;
  for (let round = 0; round < rounds; round++) {
    const gram = new Float64Array(p * p);
    const rhs = new Float64Array(p);
    for (let i = 0; i < y.length; i++) {
      for (let j = 0; j < p; j++) {
        rhs[j]! += weights[i]! * x[j]![i]! * y[i]!;
        for (let k = 0; k <= j; k++) gram[j * p + k]! += weights[i]! * x[j]![i]! * x[k]![i]!;
      }
    }
    if (!(choleskyInPlace(gram, p, p) > 1e-12)) return null;
    choleskySolveInPlace(gram, p, p, rhs);
    b = rhs;
    weights = weights.map(
      (_, i) =>
        counts[i]! /
        Math.max(
          SMALLEST,
          Math.abs(y[i]! - x.reduce((sum, column, j) => sum + b![j]! * column[i]!, 0)),
        ),
    );
  }
  return b;
}

class LadFit implements Fit<LadData & { rounds: number }> {
  readonly parameters;
  readonly columns;
  readonly codings;
  readonly products = [];
  readonly standardised = false;
  readonly coefficients = [];
  readonly covariances;
  readonly warnings = [];
  private readonly averages;

  constructor(
    private readonly design: Design,
    private readonly rounds: number,
  ) {
    this.parameters = regressionParameters(design);
    this.columns = columnsByKey(design);
    this.codings = design.codings;
    this.averages = new Averages(this.parameters);
    const { covered: size } = this.parameters;
    // It has no errors outside the bootstrap, and says so.
    const none = (): Covariance => ({ size, values: new Float64Array(size * size).fill(NaN) });
    this.covariances = byCovariance(none) as Record<"classical", Covariance> as Fit["covariances"];
  }

  slope = (outcome: string, key: string) =>
    regressionSlope(this.design, this.parameters, outcome, key);
  average = (columns: readonly string[]): number => this.averages.at(columns);
  vector(): Float64Array {
    const ones = new Float64Array(this.design.n).fill(1);
    const b = this.equations().map((e) => leastAbsolute(e, ones, this.rounds)!);
    return regressionVector(this.design, this.parameters, this.averages, b);
  }
  kernelData = () => ({
    equations: this.equations(),
    size: this.parameters.labels.length,
    averages: this.averages.rows(this.design),
    rounds: this.rounds,
  });
  sections = () => [
    {
      kind: "table" as const,
      title: "Deviations",
      columns: [{ key: "outcome", label: "outcome" }],
      rows: this.design.equations.map((e) => ({ outcome: e.outcome })),
      note: "",
    },
  ];
  private equations = (): LadData["equations"] =>
    this.design.equations.map((e: Equation) => ({
      y: e.y,
      columns: e.columns.map((c) => c.values),
    }));
}

const lad: Engine<LadData & { rounds: number }> = {
  id: "least_absolute_deviations",
  label: "least absolute deviations",
  errors: ["classical"],
  options: [
    { name: "rounds", label: "rounds", help: "How often the weights are found anew.", initial: 30 },
  ],
  suits: (theory, { momentsOnly }: ModelData) =>
    momentsOnly
      ? { suits: false, reason: "Least absolute deviations need the rows of the data." }
      : theory.moderated.length > 0
        ? { suits: false, reason: "Least absolute deviations know no products here." }
        : { suits: true },
  fit: (theory, { typed, variables, sample }, { options }) =>
    new LadFit(buildDesign(theory.equations, typed, variables, sample), Number(options.rounds)),
  kernel(data): Kernel {
    const { equations, size, rounds } = data;
    return {
      n: equations[0]!.y.length,
      size,
      columns: null,
      firstFixed: size,
      refit({ weights }, out, at) {
        let next = at;
        for (const equation of equations) {
          const b = leastAbsolute(equation, weights(), rounds);
          if (!b) return false;
          out.set(b, next);
          next += b.length;
        }
        return true;
      },
    };
  },
};
// Tests of other files know nothing of it.
afterAll(registerEngine(lad as Engine));

const [a, b, c] = [normals(80, 1), normals(80, 2), normals(80, 3)] as [
  number[],
  number[],
  number[],
];
const x = a;
// A few wild values that move a mean, and hardly a median.
const m = x.map((v, i) => 0.6 * v + 0.5 * b[i]! + (i % 20 === 0 ? 25 : 0));
const y = m.map((v, i) => 0.5 * v + 0.2 * x[i]! + 0.5 * c[i]!);
const THEORY = "H1: x raises y through m\nH2: x raises y";
const made = (settings = {}) =>
  madeStudy({
    columns: { x, m, y },
    theory: THEORY,
    settings: { engine: lad.id, replications: 300, ...settings },
  });

describe("an engine that a stranger adds", () => {
  const { definition, table } = made();
  const evidence = analyse(definition, table);
  const effect = (id: string) => evidence.effects.find((e) => e.id === id)!;

  it("is one line in the registry", () => {
    expect(engines().map((e) => e.id)).toContain(lad.id);
    expect(engineOf(lad.id)).toBe(lad);
    expect(evidence.estimator).toEqual({ id: lad.id, label: "least absolute deviations" });
    expect(
      problemOf({ columns: { x, y }, theory: "H1: x raises y", settings: { engine: "nonsense" } }),
    ).toMatchObject({
      code: "invalid_setting",
      message: expect.stringMatching(/least_squares, .*least_absolute_deviations/),
    });
  });

  it("minimises what it says: no other line is nearer to the points", () => {
    const at = (slope: number, intercept: number): number =>
      m.reduce((sum, v, i) => sum + Math.abs(v - intercept - slope * x[i]!), 0);
    const slope = effect("direct x > m").estimate!;
    const intercept = [...m.map((v, i) => v - slope * x[i]!)].sort((p, q) => p - q)[40]!;
    for (const d of [-0.05, 0.05])
      expect(at(slope + d, intercept)).toBeGreaterThan(at(slope, intercept) * 0.9999);
    // The wild values pull the least-squares slope about, this one stays near the truth.
    expect(slope).toBeGreaterThan(0.4);
    expect(slope).toBeLessThan(0.8);
  });

  it("gets direct, indirect and total effects, intervals, verdicts and the sentence for the paper", () => {
    const [direct, indirect, total] = [
      effect("direct x > y"),
      effect("indirect x > m > y"),
      effect("total x > y"),
    ];
    expect(indirect.estimate).toBeCloseTo(
      effect("direct x > m").estimate! * effect("direct m > y").estimate!,
      12,
    );
    expect(total.estimate).toBeCloseTo(direct.estimate! + indirect.estimate!, 12);
    for (const e of [direct, indirect, total]) {
      expect(e.shown!.reference).toBe("bootstrap");
      expect(e.shown!.lower).toBeLessThan(e.estimate!);
      expect(e.shown!.upper).toBeGreaterThan(e.estimate!);
      expect(e.delta.joint.classical).toBeNull();
    }
    expect(evidence.hypotheses.map((h) => h.verdict)).toEqual(["supported", "supported"]);
    expect(evidence.hypotheses[0]!.report).toContain("indirect effect");
    expect(evidence.hypotheses[0]!.pattern?.kind).toBe("complementary");
    expect(evidence.bootstrap).toMatchObject({ done: 300, failed: 0 });
  });

  it("brings its own section, and its effects are exported like any others", () => {
    expect(evidence.sections).toEqual([
      {
        kind: "table",
        title: "Deviations",
        columns: [{ key: "outcome", label: "outcome" }],
        rows: [{ outcome: "m" }, { outcome: "y" }],
        note: "",
      },
    ]);
    const csv = effectsCsv(evidence);
    expect(csv).toContain("x on y through m");
    expect(JSON.parse(JSON.stringify(evidence))).toEqual(evidence);
  });

  it("runs on any number of threads to the same digits", async () => {
    const thread = () => {
      const maker = new ReplicateMaker();
      return {
        ask: async (request: Parameters<ReplicateMaker["answer"]>[0]) =>
          maker.answer(structuredClone(request)),
        end: () => undefined,
      };
    };
    const split = await Analysis.of(definition, table).completeOn(new ReplicatePool(thread, 3));
    expect(split.evidence()).toEqual(evidence);
  });

  it("reads its option, and says in words what it cannot do", () => {
    const few = made({ options: { rounds: 1 }, replications: 0 });
    const once = analyse(few.definition, few.table).effects.find((e) => e.id === "direct x > m")!;
    const squares = made({ engine: "least_squares", replications: 0 });
    // One round with equal weights is least squares.
    expect(once.estimate).toBeCloseTo(
      analyse(squares.definition, squares.table).effects.find((e) => e.id === "direct x > m")!
        .estimate!,
      10,
    );
    expect(
      problemOf({
        columns: { x, m, y },
        theory: "H1: m strengthens x to y",
        settings: { engine: lad.id },
      }),
    ).toMatchObject({
      code: "not_available",
      message: "Least absolute deviations know no products here.",
    });
    const refused = (settings: object) =>
      problemOf({
        columns: { x, m, y },
        theory: THEORY,
        settings: { engine: lad.id, ...settings },
      });
    expect(refused({ options: { round: 3 } })).toMatchObject({
      code: "invalid_setting",
      message: "least absolute deviations has no option “round”. Its options: rounds.",
    });
    expect(refused({ options: { rounds: "many" } }).message).toContain("it must be a number");
    expect(refused({ interval: "bootstrap_t", replications: 50 })).toMatchObject({
      code: "invalid_setting",
      message: expect.stringContaining("which least absolute deviations does not know"),
    });
    const strange = { engine: "least_squares", options: { rounds: 3 } };
    expect(
      problemOf({ columns: { x, y }, theory: "H1: x raises y", settings: strange }).message,
    ).toContain("It has none.");
  });
});
