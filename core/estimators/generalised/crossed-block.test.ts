import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { analyseMade, normals, problemOf } from "../../test-kit";
import type { NaturalEffectsEvidence, ResponseSection } from "./types";
import { Estimation } from "./estimation";
import type { Functional } from "./functional";
import { estimatedOn, gradientByDifferences } from "./means-kit";
import { Base, designOf, splitByAll, splitCross } from "./terms";

const N = 150;

/**
 * A treatment and two mediators that strengthen each other; the second follows the first, or their
 * errors go together.
 */
function columnsOf(seed: number, chained: boolean): Record<string, number[]> {
  const e = Array.from({ length: 5 }, (_, at) => normals(N, seed * 50 + at));
  const x = e[0]!.map((v) => (v > 0 ? 1 : 0));
  const c = e[1]!;
  const m1 = x.map((v, i) => 0.6 * v + 0.3 * c[i]! + e[2]![i]!);
  const m2 = x.map((v, i) => 0.4 * v + 0.5 * (chained ? m1[i]! : e[2]![i]!) + e[3]![i]!);
  const y = x.map(
    (v, i) => 0.2 * v + 0.5 * m1[i]! + 0.4 * m2[i]! + 0.3 * m1[i]! * m2[i]! + e[4]![i]!,
  );
  return { x, c, m1, m2, y };
}

const THEORY = "H1: x raises y through m1 and m2\nH2: m2 alters m1 to y\nadjust m1, m2, y for c";

/** The outcome under treatment with both mediators as without it, m1 m2 and x m2 in its model. */
function planOf(seed: number, chained: boolean): Estimation {
  const columns = columnsOf(seed, chained);
  const base = new Base(Object.entries(columns).map(([k, v]) => [k, Float64Array.from(v)]));
  const terms = [
    [[], ["x"], ["c"]],
    chained ? [[], ["x"], ["m1"], ["x", "m1"]] : [[], ["x"]],
    [[], ["x"], ["m1"], ["m2"], ["m1", "m2"], ["x", "m1", "m2"], ["c"]],
  ];
  const set = (x: number) => new Map([["x", x]]);
  const block = ["m1", "m2"];
  const crossed: Functional = {
    kind: "crossed",
    outcome: 2,
    ...splitByAll(terms[2]!, block, base, N, set(1)),
    crosses: [
      { first: 0, second: 1, design: splitCross(terms[2]!, ["m1", "m2"], block, base, N, set(1)) },
    ],
    mediators: [0, 1].map((e) => {
      const own = splitByAll(terms[e]!, e === 1 ? ["m1"] : [], base, N, set(0));
      return { equation: e, base: own.base, before: own.slopes };
    }),
  };
  return new Estimation(
    {
      n: N,
      equations: ["m1", "m2", "y"].map((name, e) => ({
        family: "linear" as const,
        design: designOf(terms[e]!, base, N),
        columns: terms[e]!.length,
        y: Float64Array.from(columns[name]!),
        offset: null,
      })),
      functionals: [crossed],
      ...(chained ? {} : { together: [[0, 1]], related: [[0, 1]] }),
    },
    true,
  );
}

describe("the mean over mediators of which two stand in one product", () => {
  it.each([true, false])("has the gradient of its differences, chained %s", (chained) => {
    const estimation = planOf(5, chained);
    const theta = estimatedOn(estimation, N);
    const { classical } = estimation.covariances(theta);
    const { size, estimated: count } = estimation;
    const g = gradientByDifferences(estimation, theta);
    for (let k = 0; k < count; k++) {
      let covariance = 0;
      for (let j = 0; j < count; j++) covariance += g[j]! * classical[j * size + k]!;
      expect(classical[count * size + k]!).toBeCloseTo(covariance, 8);
    }
  });

  it.each([true, false])("is the mean over mediators drawn one by one, chained %s", (chained) => {
    const estimation = planOf(6, chained);
    const theta = estimatedOn(estimation, N);
    const { start, variance, covariance } = estimation.shape;
    const { c } = columnsOf(6, chained);
    const [s1, s2] = [theta[variance[0]!]!, theta[variance[1]!]!];
    const s12 = chained ? 0 : theta[covariance.get("0 1")!]!;
    const draws = 4000;
    const [z1, z2] = [normals(draws, 77), normals(draws, 78)];
    const at = (e: number, k: number): number => theta[start[e]! + k]!;
    let sum = 0;
    for (let i = 0; i < N; i++)
      for (let r = 0; r < draws; r++) {
        const e1 = Math.sqrt(s1) * z1[r]!;
        const m1 = at(0, 0) + at(0, 2) * c![i]! + e1;
        const m2 =
          at(1, 0) +
          (chained ? at(1, 2) * m1 : 0) +
          (s12 / s1) * e1 +
          Math.sqrt(s2 - (s12 * s12) / s1) * z2[r]!;
        sum +=
          at(2, 0) +
          at(2, 1) +
          at(2, 2) * m1 +
          at(2, 3) * m2 +
          (at(2, 4) + at(2, 5)) * m1 * m2 +
          at(2, 6) * c![i]!;
      }
    expect(sum / (N * draws)).toBeCloseTo(theta[estimation.estimated]!, 1);
  });
});

describe("a block with a product of its mediators", () => {
  const naturalOf = (columns: Record<string, number[]>, theory = THEORY): NaturalEffectsEvidence =>
    analyseMade({
      columns,
      theory,
      settings: { engine: "generalised", interval: "delta" },
    }).sections.find((s): s is ResponseSection => s.kind === "responses")!.natural[0]!;
  const effect = (n: NaturalEffectsEvidence, name: string) =>
    n.effects.difference!.find((f) => f.name === name)!;

  it("adds up, and is the closed form of straight lines", () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 200 }), (seed) => {
        const columns = columnsOf(seed, false);
        const n = naturalOf(columns);
        const total = effect(n, "total_effect").estimate;
        const [direct, indirect] = ["pure_natural_direct", "total_natural_indirect"].map(
          (name) => effect(n, name).estimate,
        );
        expect(direct! + indirect!).toBeCloseTo(total, 10);
        // The product adds the same covariance of the mediators to both worlds: it leaves every
        // difference.
        const section = analyseMade({
          columns,
          theory: THEORY,
          settings: { engine: "generalised", interval: "delta" },
        }).sections.find((s): s is ResponseSection => s.kind === "responses")!;
        const b = (outcome: string, term: string): number =>
          section.models
            .find((m) => m.outcome === outcome)!
            .coefficients.find((c) => c.term.split(":").sort().join(":") === term)!.estimate;
        const mean = (outcome: string, x: number): number[] =>
          columns.c!.map(
            (c) => b(outcome, "(intercept)") + b(outcome, "x") * x + b(outcome, "c") * c,
          );
        const [up1, lo1, up2, lo2] = [mean("m1", 1), mean("m1", 0), mean("m2", 1), mean("m2", 0)];
        const by = columns.c!.map(
          (_, i) =>
            b("y", "m1") * (up1![i]! - lo1![i]!) +
            b("y", "m2") * (up2![i]! - lo2![i]!) +
            b("y", "m1:m2") * (up1![i]! * up2![i]! - lo1![i]! * lo2![i]!),
        );
        expect(indirect!).toBeCloseTo(by.reduce((a, v) => a + v, 0) / N, 9);
      }),
      { numRuns: 5 },
    ));

  it("is the same wherever the mediators have their zero", () => {
    const columns = columnsOf(8, true);
    const moved = { ...columns, m1: columns.m1!.map((v) => 1e3 + 2 * v) };
    const theory = `${THEORY}\nH3: x raises m2 through m1`;
    const [a, b] = [naturalOf(columns, theory), naturalOf(moved, theory)];
    for (const name of ["total_effect", "pure_natural_direct", "total_natural_indirect"]) {
      expect(effect(b, name).estimate).toBeCloseTo(effect(a, name).estimate, 8);
      expect(effect(b, name).model!.se).toBeCloseTo(effect(a, name).model!.se, 8);
      expect(effect(b, name).robust!.se).toBeCloseTo(effect(a, name).robust!.se, 8);
    }
  });

  it("is refused where the outcome is no straight line, in words", () => {
    const columns = columnsOf(4, false);
    const yes = columns.y!.map((v) => (v > 0.5 ? 1 : 0));
    const theory = "H1: x raises yes through m1 and m2\nH2: m2 alters m1 to yes";
    expect(problemOf({ columns: { ...columns, yes }, theory }).message).toContain("one block");
  });
});
