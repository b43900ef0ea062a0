import { describe, expect, it } from "vitest";
import { monteCarloIntervals } from "./monte-carlo";
import { pointwiseCritical, simultaneousCritical } from "./johnson-neyman";

describe("Monte Carlo limits", () => {
  const theta = Float64Array.of(0.2, -0.4, 1);
  const draws = 20_000;
  /** Limits of a function of three parameters with this covariance. */
  const limits = (values: number[], of: (v: ArrayLike<number>) => number) =>
    monteCarloIntervals(
      theta,
      { size: 3, values: Float64Array.from(values) },
      [(v) => of(v as Float64Array)],
      draws,
      7,
      0.95,
    )[0]!;

  it.each([
    ["one parameter", [1, 0, 0]],
    ["a sum of all", [1, 1, 1]],
    ["differences, whose covariances count backwards", [1, -2, 0.5]],
    ["the last against the second", [0, -1, 1]],
  ])("of a linear function are those of the normal distribution: %s", (_, c) => {
    const V = [
      [1, 0.6, 0.3],
      [0.6, 2, -0.5],
      [0.3, -0.5, 1.5],
    ];
    const variance = c.reduce(
      (sum, ci, i) => sum + c.reduce((s, cj, j) => s + ci * cj * V[i]![j]!, 0),
      0,
    );
    const centre = c.reduce((sum, ci, i) => sum + ci * theta[i]!, 0);
    const found = limits(V.flat(), (v) => c.reduce((sum, ci, i) => sum + ci * v[i]!, 0));
    // A 2.5 % limit of so many draws has an error of about 1.9 % of an SD.
    expect((found.lower! - centre) / Math.sqrt(variance)).toBeCloseTo(-1.96, 0.9);
    expect((found.upper! - centre) / Math.sqrt(variance)).toBeCloseTo(1.96, 0.9);
    expect(Math.abs((found.upper! - found.lower!) / Math.sqrt(variance) - 3.92)).toBeLessThan(0.1);
    expect(found.draws).toBe(draws);
  });

  it("hold what does not vary where it is, though the covariance has no root", () => {
    // The second is the first again, the third is fixed.
    const singular = [1, 1, 0, 1, 1, 0, 0, 0, 0];
    const fixed = limits(singular, (v) => v[0]! - v[1]! + v[2]!);
    expect(fixed.lower).toBeCloseTo(1.6, 9);
    expect(fixed.upper).toBeCloseTo(1.6, 9);
  });

  it("are none where more than a tenth of the draws have no value", () => {
    const V = [1, 0, 0, 0, 1, 0, 0, 0, 1];
    expect(limits(V, (v) => (v[0]! > 1.1 ? NaN : v[1]!))).toBeNull();
    expect(limits(V, (v) => (v[0]! > 1.9 ? NaN : v[1]!))).not.toBeNull();
  });
});

describe("critical values of bands", () => {
  it("without residual degrees of freedom are those of normal and chi-squared", () => {
    // sqrt of the 95 % point of chi-squared with two degrees of freedom, 5.991465.
    expect(simultaneousCritical(Infinity, 0.95)).toBeCloseTo(Math.sqrt(5.991464547), 8);
    expect(simultaneousCritical(1e7, 0.95)).toBeCloseTo(Math.sqrt(5.991464547), 4);
    expect(pointwiseCritical(Infinity, 0.95)).toBeCloseTo(1.959963985, 8);
  });
});
