import { describe, expect, it } from "vitest";
import { analyseMade, normals } from "../../test-kit";
import { NormalEquations } from "./normal-equations";
import { effectsAlong, regressionFrom } from "./structural";

/** Corrected correlations that are no correlations of anything: one lies beyond 1. */
const names = ["A", "B", "C"];
const matrix = (ab: number): Float64Array =>
  Float64Array.from([1, ab, 0.8, ab, 1, 0.7, 0.8, 0.7, 1]);

describe("equations of corrected correlations beyond 1", () => {
  it.each([1.3, -1.2, 3])("have the coefficients that solve them: r = %d", (ab) => {
    // b = (r_cA - r r_cB) / (1 - r²) and the other way round, whatever r.
    const [a, b] = [(0.8 - ab * 0.7) / (1 - ab * ab), (0.7 - ab * 0.8) / (1 - ab * ab)];
    const found = regressionFrom({ names, values: matrix(ab) }, "C", ["A", "B"], 100)!;
    expect(found.coefficients[0]).toBeCloseTo(a, 12);
    expect(found.coefficients[1]).toBeCloseTo(b, 12);
    expect(found.r2).toBeCloseTo(0.8 * a + 0.7 * b, 12);
    const out = new Float64Array(3);
    const tolerance = new NormalEquations(2).solve(matrix(ab), 3, [0, 1], 2, out, 1);
    expect([...out]).toEqual([0, expect.closeTo(a, 12), expect.closeTo(b, 12)]);
    expect(tolerance).toBeCloseTo(Math.abs(1 - ab * ab), 12);
  });

  it("have none where they are singular, whichever way it is seen", () => {
    for (const ab of [1, -1, 1 + 1e-10]) {
      expect(regressionFrom({ names, values: matrix(ab) }, "C", ["A", "B"], 100)).toBeNull();
      const out = new Float64Array(2);
      expect(new NormalEquations(2).solve(matrix(ab), 3, [0, 1], 2, out, 0) >= 1e-8).toBe(false);
    }
  });

  it("are solved where a zero stands on the way: rows change places", () => {
    const zero = Float64Array.from([1, 2, 1, 0.5, 2, 1, 0, 0.1, 1, 0, 1, 0.2, 0.5, 0.1, 0.2, 1]);
    const out = new Float64Array(3);
    new NormalEquations(3).solve(zero, 4, [0, 1, 2], 3, out, 0);
    for (const i of [0, 1, 2])
      expect([0, 1, 2].reduce((sum, j) => sum + zero[4 * i + j]! * out[j]!, 0)).toBeCloseTo(
        zero[4 * i + 3]!,
        12,
      );
  });
});

it("totals leave out whom a route without a value leads to, instead of summing the others", () => {
  const { total, totalIndirect } = effectsAlong([
    { outcome: "B", predictors: ["A"], coefficients: [NaN] },
    { outcome: "C", predictors: ["A", "B"], coefficients: [0.4, 0.5] },
    { outcome: "D", predictors: ["B"], coefficients: [0.2] },
  ]);
  expect(total).toEqual({ "B -> C": 0.5, "B -> D": 0.2 });
  expect(totalIndirect).toEqual({});
});

it("estimates beyond what correlations can be keep their values, and their warnings stand at the verdict", () => {
  const n = 60;
  const g = normals(n, 2);
  const item = (k: number) => normals(n, 2000 + k).map((e, i) => 0.6 * g[i]! + e);
  const items = ["a1", "a2", "a3", "b1", "b2", "b3", "c1", "c2", "c3"];
  const { effects, hypotheses } = analyseMade({
    columns: Object.fromEntries(items.map((name, k) => [name, item(k + 1)])),
    theory: [
      ...["a", "b", "c"].map((x) => `measure ${x.toUpperCase()} reflects ${x}1, ${x}2, ${x}3`),
      "H1: A raises C through B",
      "H2: A raises C",
    ].join("\n"),
    settings: { engine: "composites", replications: 100, options: { folds: 0 } },
  });
  const of = (id: string) => effects.find((e) => e.id === id)!.estimate!;
  expect(of("direct A > B")).toBeGreaterThan(1);
  expect(of("total A > C")).toBeCloseTo(of("direct A > C") + of("indirect A > B > C"), 10);
  const told = hypotheses[0]!.cautions.map((caution) => caution.code);
  for (const code of [
    "corrected_correlation_above_one",
    "corrected_matrix_not_pd",
    "r2_out_of_range",
  ])
    expect(told).toContain(code);
  // Nobody is sent to an interval that is not offered here.
  const liberal = hypotheses[0]!.cautions.find((caution) => caution.code === "bc_liberal")!;
  expect(liberal.message).not.toContain("percentile");
});
