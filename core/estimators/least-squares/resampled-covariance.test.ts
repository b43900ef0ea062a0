import { equationsOf } from "../../evidence";
import { describe, expect, it } from "vitest";
import { ERRORS } from "../../study";
import { RandomStream } from "../../numerics/random";
import { prepare, type Prepared } from "../../preparation";
import { analyseMade, madeStudy, normals, type MadeStudy } from "../../test-kit";
import { equationOf, withoutCrossBlocks } from "../../model";
import type { RefitProblem } from "./refit-problem";
import { ResampledCovariance } from "./resampled-covariance";

const N = 60;
const [a, b, c, d] = [1, 2, 3, 4].map((seed) => normals(N, seed)) as [
  number[],
  number[],
  number[],
  number[],
];
const x = a.map((v) => 50 + 4 * v);
const w = b.map((v) => 3 + v);
const g = x.map((_, i) => "abc"[i % 3]!);
const m = x.map((v, i) => 0.2 * v + w[i]! + 0.1 * v * w[i]! + (i % 3) + 3 * c[i]!);
const y = m.map((v, i) => 0.5 * v - 0.1 * x[i]! + 4 * d[i]! * (1 + 0.3 * Math.abs(a[i]!)));
const COLUMNS = { x, w, g, m, y };
const THEORIES = [
  "H1: x raises y through m\nadjust m, y for g",
  "H1: w strengthens x to y through m on x to m\nadjust y for w",
];

const prepared = (
  theory: string,
  settings: MadeStudy["settings"],
  counts?: Float64Array,
): Prepared => {
  const again = <T>(column: T[]): T[] =>
    counts ? column.flatMap((v, i) => new Array<T>(counts[i]!).fill(v)) : column;
  const columns = Object.fromEntries(
    Object.entries(COLUMNS).map(([name, column]) => [name, again<number | string>(column)]),
  );
  const { definition, table } = madeStudy({
    columns,
    theory,
    settings: settings ?? {},
    variables: { g: { level: "categorical" } },
  });
  return prepare(definition, table);
};

describe("the covariance of coefficients in a resample", () => {
  const counts = new Float64Array(N);
  new RandomStream(9, 3).countDraws(counts, N, N);

  it.each(THEORIES)("is that of a full analysis of the repeated rows: %s", (theory) => {
    for (const centring of ["none", "standardised"] as const) {
      const refit = prepared(theory, { centring }).fit.kernelData() as RefitProblem;
      const own = prepared(theory, { centring }, counts);
      for (const kind of ERRORS) {
        for (const crossEquations of ["joint", "zero"] as const) {
          const found = new ResampledCovariance(refit, { kind, crossEquations });
          expect(found.find(counts)).toBe(true);
          const joint = own.fit.covariances[kind];
          const wanted =
            crossEquations === "zero"
              ? withoutCrossBlocks(joint, (at) => equationOf(own.fit.parameters, at))
              : joint;
          const sd = (i: number): number => Math.sqrt(wanted.values[i * wanted.size + i]!);
          found.values.forEach((value, at) => {
            // Products are fitted about the means of the whole sample, so lower-order terms are
            // other parameters there.
            const terms = [Math.floor(at / found.size), at % found.size];
            if (theory.includes("strengthens") && centring === "none" && terms.some((t) => t < 3))
              return;
            const scale = sd(terms[0]!) * sd(terms[1]!);
            expect(
              Math.abs(value - wanted.values[at]!),
              `${kind} ${centring} ${own.fit.parameters.labels[terms[0]!]} ${own.fit.parameters.labels[terms[1]!]}`,
            ).toBeLessThan(1e-8 * scale);
          });
        }
      }
    }
  });

  it("does not exist where a row has a leverage of one under HC3, nor where columns collapse", () => {
    const refit = prepared(THEORIES[0]!, {}).fit.kernelData() as RefitProblem;
    const single = Float64Array.from(counts, (count, i) =>
      i % 3 === 2 ? (i === 2 ? 1 : 0) : count,
    );
    expect(
      new ResampledCovariance(refit, { kind: "HC3", crossEquations: "joint" }).find(single),
    ).toBe(false);
    expect(
      new ResampledCovariance(refit, { kind: "HC1", crossEquations: "joint" }).find(single),
    ).toBe(true);
    const lost = Float64Array.from(counts, (count, i) => (i % 3 === 2 ? 0 : count));
    expect(
      new ResampledCovariance(refit, { kind: "HC1", crossEquations: "joint" }).find(lost),
    ).toBe(false);
  });
});

describe("bootstrap-t intervals", () => {
  const study = {
    columns: COLUMNS,
    theory: THEORIES[0]!,
    variables: { g: { level: "categorical" as const } },
  };
  const run = () =>
    analyseMade({ ...study, settings: { interval: "bootstrap_t", replications: 2000 } });

  it("are near Student's in a simple regression", () => {
    const simple = analyseMade({
      ...study,
      theory: "H1: w raises m",
      settings: { interval: "bootstrap_t", replications: 4000, errors: "HC3" },
    });
    const slope = equationsOf(simple)[0]!.coefficients.find((k) => k.term === "w")!;
    const { bootstrapT } = slope.bootstrap!;
    const student = slope.errors.HC3!;
    expect(Math.abs(bootstrapT!.lower - student.lower) / student.se).toBeLessThan(0.35);
    expect(Math.abs(bootstrapT!.upper - student.upper) / student.se).toBeLessThan(0.35);
  });

  it("are shown where chosen, with the delta error; standardised effects, which have none, keep the percentile interval", () => {
    const evidence = run();
    const indirect = evidence.effects.find((e) => e.kind === "specific_indirect")!;
    expect(indirect.shown).toMatchObject({
      method: "bootstrap_t",
      provisional: false,
      se: indirect.delta.joint.classical!.se,
    });
    expect([indirect.shown!.lower, indirect.shown!.upper]).toEqual([
      indirect.bootstrap!.bootstrapT!.lower,
      indirect.bootstrap!.bootstrapT!.upper,
    ]);
    const scaled = evidence.effects.find(
      (e) => e.kind === "completely_standardised" && e.of === indirect.id,
    )!;
    expect(scaled.bootstrap!.bootstrapT).toBeNull();
    expect(scaled.shown).toMatchObject({ method: "percentile", provisional: true });
  });

  it("leave every other number of the run as it is", () => {
    const evidence = run();
    const plain = analyseMade({ ...study, settings: { interval: "bca", replications: 2000 } });
    plain.effects.forEach((e, i) => {
      expect(evidence.effects[i]!.bootstrap!.bca).toEqual(e.bootstrap!.bca);
      expect(e.bootstrap!.bootstrapT).toBeNull();
    });
  });
});
