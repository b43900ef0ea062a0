import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Evidence } from "../../evidence";
import { analyseMade, normals, problemOf } from "../../test-kit";
import type { NaturalEffectsEvidence, ResponseSection } from "./types";
import { Estimation } from "./estimation";
import { Base, designOf, splitByAll } from "./terms";
import type { Functional } from "./functional";
import { estimatedOn, gradientByDifferences } from "./means-kit";

const N = 140;

/** A treatment, two mediators whose errors go together, a covariate, and outcomes. */
function columnsOf(seed: number): Record<string, number[]> {
  const e = Array.from({ length: 6 }, (_, at) => normals(N, seed * 60 + at));
  const x = e[0]!.map((v) => (v > 0 ? 1 : 0));
  const c = e[1]!;
  const m1 = x.map((v, i) => 0.6 * v + 0.3 * c[i]! + e[2]![i]!);
  const m2 = x.map((v, i) => 0.4 * v + 0.5 * e[2]![i]! + e[3]![i]!);
  const eta = x.map((v, i) => -0.3 + 0.2 * v + 0.5 * m1[i]! + 0.4 * m2[i]!);
  return {
    x,
    c,
    m1,
    m2,
    y: eta.map((v, i) => v + e[4]![i]!),
    yes: eta.map((v, i) => (v + 1.7 * e[5]![i]! > 0 ? 1 : 0)),
  };
}

const run = (columns: Record<string, number[]>, theory: string, settings = {}): Evidence =>
  analyseMade({
    columns,
    theory,
    settings: { engine: "generalised", interval: "delta", ...settings },
  });
const sectionOf = ({ sections }: Evidence): ResponseSection =>
  sections.find((s) => s.kind === "responses")!;
const naturalOf = (e: Evidence): NaturalEffectsEvidence => sectionOf(e).natural[0]!;
const effect = (n: NaturalEffectsEvidence, name: string): number =>
  n.effects.difference!.find((f) => f.name === name)!.estimate;

const BLOCK = "H1: x raises yes through m1 and m2\nadjust m1, m2, yes for c";
const seeds = fc.integer({ min: 1, max: 300 });

describe("several mediators as one block", () => {
  it("adds up as the effects of one mediator do, on the way to a yes/no response", () =>
    fc.assert(
      fc.property(seeds, (seed) => {
        const n = naturalOf(run(columnsOf(seed), BLOCK));
        expect(n.mediator).toBe("m1 and m2");
        const total = effect(n, "total_effect");
        expect(effect(n, "pure_natural_direct") + effect(n, "total_natural_indirect")).toBeCloseTo(
          total,
          10,
        );
        expect(effect(n, "total_natural_direct") + effect(n, "pure_natural_indirect")).toBeCloseTo(
          total,
          10,
        );
      }),
      { numRuns: 6 },
    ));

  it("is the sum of the paths where everything is a straight line", () =>
    fc.assert(
      fc.property(seeds, (seed) => {
        const evidence = run(
          columnsOf(seed),
          "H1: x raises y through m1 and m2\nadjust m1, m2, y for c\nmodel y as linear",
        );
        const joint = evidence.effects.find((f) => f.id === "total indirect x > y")!;
        const n = naturalOf(evidence);
        expect(effect(n, "total_natural_indirect")).toBeCloseTo(joint.estimate!, 9);
        const own = n.effects.difference!.find((f) => f.name === "total_natural_indirect")!;
        expect(own.model!.se).toBeCloseTo(joint.delta.joint.classical!.se, 8);
        expect(own.robust!.se).toBeCloseTo(joint.delta.joint.HC0!.se, 8);
      }),
      { numRuns: 6 },
    ));

  it("does not depend on the order in which mediators are named", () => {
    const columns = columnsOf(12);
    const [a, b] = [BLOCK, BLOCK.replace("m1 and m2", "m2 and m1")].map((t) =>
      naturalOf(run(columns, t)),
    );
    const own = (n: NaturalEffectsEvidence) =>
      n.effects.difference!.find((f) => f.name === "total_natural_indirect")!;
    expect(own(b!).estimate).toBeCloseTo(own(a!).estimate, 12);
    expect(own(b!).model!.se).toBeCloseTo(own(a!).model!.se, 9);
  });

  it("tells single paths in log odds and says so, everything else in probabilities", () => {
    const evidence = run(columnsOf(3), BLOCK);
    const of = (id: string): number => evidence.effects.find((f) => f.id === id)!.estimate!;
    const b = new Map(
      sectionOf(evidence).models.flatMap((m) =>
        m.coefficients.map((c) => [`${m.outcome} ${c.term}`, c.estimate] as const),
      ),
    );
    expect(of("indirect x > m1 > yes")).toBeCloseTo(b.get("m1 x")! * b.get("yes m1")!, 10);
    expect(evidence.warnings.map((w) => w.code)).toContain("paths_on_link_scale");
    const natural = (name: string): number =>
      naturalOf(evidence).effects.difference!.find((f) => f.name === name)!.estimate;
    expect(of("direct x > yes")).toBeCloseTo(natural("pure_natural_direct"), 12);
    expect(of("total indirect x > yes")).toBeCloseTo(natural("total_natural_indirect"), 12);
    expect(of("total x > yes")).toBeCloseTo(natural("total_effect"), 12);
    // Nothing is said in SDs of what has no common scale, and every product is called one.
    expect(
      evidence.effects.filter((f) => f.id.startsWith("upsilon indirect x > m1 > yes")),
    ).toEqual([]);
    const single = evidence.effects.find((f) => f.id === "indirect x > m1 > yes")!;
    expect(single.label).toBe("x on yes through m1, as a product of coefficients");
    expect(single.linkScale).toBe(true);
  });

  it("a claim through all of them is about the block, one through some about products", () => {
    const [all] = run(columnsOf(3), BLOCK).hypotheses;
    expect(all).toMatchObject({
      quantity: "total natural indirect effect",
      measure: "difference in probability",
    });
    const natural = naturalOf(run(columnsOf(3), BLOCK)).effects.difference!;
    expect(all!.claim!.estimate).toBeCloseTo(
      natural.find((f) => f.name === "total_natural_indirect")!.estimate,
      12,
    );
    expect(all!.reason).toContain("what changes if m1 and m2 alone are as under");
    const [one] = run(
      columnsOf(3),
      "H1: x raises yes through m1\nH2: x raises yes through m2",
    ).hypotheses;
    expect(one).toMatchObject({ measure: "product of coefficients", named: null });
  });

  it("is refused in words where a mediator is no straight line, or two stand in one product", () => {
    const columns = { ...columnsOf(4), some: columnsOf(4).m2!.map((v) => (v > 0 ? 1 : 0)) };
    const told = (theory: string): string => problemOf({ columns, theory }).message;
    expect(told("H1: x raises yes through m1 and some")).toContain("one block");
    expect(told("H1: x raises yes through m1 and m2\nH2: m2 alters m1 to yes")).toContain(
      "one block",
    );
  });
});

describe("the mean over a block", () => {
  /**
   * x, m1, m2 of which the second follows the first and does more under treatment, and a response.
   */
  function planOf(seed: number, family: "logistic" | "probit" | "poisson", chained: boolean) {
    const columns = columnsOf(seed);
    const base = new Base(Object.entries(columns).map(([k, v]) => [k, Float64Array.from(v)]));
    const y =
      family === "poisson" ? columns.m1!.map((v) => Math.max(0, Math.round(v + 1))) : columns.yes!;
    const terms = [
      { name: "m1", family: "linear" as const, terms: [[], ["x"], ["c"]], y: columns.m1! },
      {
        name: "m2",
        family: "linear" as const,
        terms: chained ? [[], ["x"], ["m1"], ["x", "m1"]] : [[], ["x"]],
        y: columns.m2!,
      },
      { name: "y", family, terms: [[], ["x"], ["m1"], ["m2"], ["x", "m2"], ["c"]], y },
    ];
    const set = (x: number) => new Map([["x", x]]);
    const split = splitByAll(terms[2]!.terms, ["m1", "m2"], base, N, set(1));
    const block: Functional = {
      kind: "block",
      outcome: 2,
      ...split,
      mediators: [0, 1].map((e) => {
        const own = splitByAll(terms[e]!.terms, e === 1 ? ["m1"] : [], base, N, set(0));
        return { equation: e, base: own.base, before: own.slopes };
      }),
    };
    return new Estimation(
      {
        n: N,
        equations: terms.map((t) => ({
          family: t.family,
          design: designOf(t.terms, base, N),
          columns: t.terms.length,
          y: Float64Array.from(t.y),
          offset: null,
        })),
        functionals: [block],
        ...(chained ? {} : { together: [[0, 1]], related: [[0, 1]] }),
      },
      true,
    );
  }

  it.each([
    ["logistic", true],
    ["logistic", false],
    ["probit", false],
    ["poisson", true],
  ] as const)("has the gradient of its differences: %s, chained %s", (family, chained) => {
    const estimation = planOf(5, family, chained);
    const theta = estimatedOn(estimation, N);
    const { classical } = estimation.covariances(theta);
    const { size, estimated } = estimation;
    // The variance of the mean is g V g'; the same from central differences.
    const g = gradientByDifferences(estimation, theta);
    let variance = 0;
    for (let j = 0; j < estimated; j++)
      for (let k = 0; k < estimated; k++) variance += g[j]! * g[k]! * classical[j * size + k]!;
    expect(classical[estimated * size + estimated]! / variance).toBeCloseTo(1, 5);
  });

  it.each([true, false])("is the mean over mediators drawn one by one, chained %s", (chained) => {
    const estimation = planOf(5, "logistic", chained);
    const theta = new Float64Array(estimation.size);
    estimation.estimate(new Float64Array(N).fill(1), N, theta, 0);
    const { start, variance, covariance } = estimation.shape;
    const c = columnsOf(5).c!;
    const [s1, s2] = [theta[variance[0]!]!, theta[variance[1]!]!];
    const s12 = chained ? 0 : theta[covariance.get("0 1")!]!;
    const draws = 2000;
    const [z1, z2] = [normals(draws, 77), normals(draws, 78)];
    const at = (e: number, k: number): number => theta[start[e]! + k]!;
    let sum = 0;
    for (let i = 0; i < N; i++)
      for (let r = 0; r < draws; r++) {
        const e1 = Math.sqrt(s1) * z1[r]!;
        const e2 = (s12 / s1) * e1 + Math.sqrt(s2 - (s12 * s12) / s1) * z2[r]!;
        const m1 = at(0, 0) + at(0, 2) * c[i]! + e1;
        const m2 = at(1, 0) + (chained ? at(1, 2) * m1 : 0) + e2;
        const eta =
          at(2, 0) + at(2, 1) + at(2, 2) * m1 + (at(2, 3) + at(2, 4)) * m2 + at(2, 5) * c[i]!;
        sum += 1 / (1 + Math.exp(-eta));
      }
    expect(sum / (N * draws)).toBeCloseTo(theta[estimation.estimated]!, 2);
  });
});
