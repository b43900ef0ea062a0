import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { RandomStream } from "../numerics/random";
import { bootstrapSummary, deltaTest, monteCarloIntervals, type BootstrapInterval } from ".";

function replicates(n: number, seed: number, centre: number, skew = 0): Float64Array {
  const stream = new RandomStream(seed, 0);
  return Float64Array.from({ length: n }, () => {
    const z = stream.normal();
    return centre + z + skew * (z * z - 1);
  });
}
const jackknife = (seed: number): Float64Array => replicates(80, seed + 1000, 0, 0.2);

describe("bootstrap intervals", () => {
  const cases = fc.record({
    seed: fc.nat(500),
    centre: fc.double({ min: -3, max: 3, noNaN: true }),
    skew: fc.double({ min: -0.3, max: 0.3, noNaN: true }),
    level: fc.constantFrom(0.8, 0.9, 0.95, 0.99),
  });

  it("leave zero out exactly when the p value is below the error rate", () => {
    fc.assert(
      fc.property(cases, ({ seed, centre, skew, level }) => {
        const s = bootstrapSummary({
          estimate: centre,
          replicates: replicates(999, seed, centre, skew),
          jackknife: jackknife(seed),
          level,
        });
        for (const i of [s.percentile, s.bc, s.bca].filter(
          (x): x is BootstrapInterval => x !== null,
        )) {
          const excludes = i.lower > 0 || i.upper < 0;
          // At equality either reading is right; a p value that is only a bound says less than the
          // interval.
          if (!i.pIsBound && Math.abs(i.pTwoSided - (1 - level)) > 1e-9)
            expect(excludes).toBe(i.pTwoSided < 1 - level);
          if (i.pIsBound) expect(excludes).toBe(true);
        }
      }),
    );
  });

  it("widen with the level and hold its one-sided bounds", () => {
    fc.assert(
      fc.property(cases, ({ seed, centre, skew }) => {
        const at = (level: number) =>
          bootstrapSummary({
            estimate: centre,
            replicates: replicates(499, seed, centre, skew),
            jackknife: jackknife(seed),
            level,
          }).bca!;
        const [narrow, wide] = [at(0.8), at(0.9)];
        expect(wide.lower).toBeLessThanOrEqual(narrow.lower);
        expect(wide.upper).toBeGreaterThanOrEqual(narrow.upper);
        expect(wide.oneSidedLower).toBeCloseTo(narrow.lower, 12);
        expect(wide.oneSidedUpper).toBeCloseTo(narrow.upper, 12);
      }),
    );
  });

  it("move with the unit: scaling the replicates scales every limit, and z0, acceleration and p stay", () => {
    const t = replicates(499, 3, 0.4, 0.2);
    const left = jackknife(3);
    const make = (k: number) =>
      bootstrapSummary({
        estimate: 0.5 * k,
        replicates: t.map((v) => v * k),
        jackknife: left.map((v) => v * k),
        level: 0.95,
      });
    const [one, many] = [make(1), make(1000)];
    expect(many.bca!.lower).toBeCloseTo(1000 * one.bca!.lower, 8);
    expect(many.bca!.mcseUpper).toBeCloseTo(1000 * one.bca!.mcseUpper, 8);
    expect([many.z0, many.bca!.pTwoSided]).toEqual([one.z0, one.bca!.pTwoSided]);
    expect(many.acceleration).toBeCloseTo(one.acceleration!, 12);
  });

  it("agree when there is neither bias nor acceleration", () => {
    const half = replicates(500, 9, 0).map(Math.abs);
    const symmetric = Float64Array.from([...half, ...half.map((v) => -v)]);
    const s = bootstrapSummary({
      estimate: 0,
      replicates: symmetric,
      jackknife: Float64Array.from([-1, 1]),
      level: 0.95,
    });
    expect(s.z0).toBe(0);
    expect(s.bc!.lower).toBeCloseTo(s.percentile!.lower, 12);
    expect(s.bca!.upper).toBeCloseTo(s.percentile!.upper, 12);
  });

  it("their Monte Carlo error is the spread over seeds, within a factor", () => {
    const runs = Array.from({ length: 200 }, (_, seed) =>
      bootstrapSummary({
        estimate: 0,
        replicates: replicates(999, seed + 1, 0),
        jackknife: [],
        level: 0.95,
      }),
    );
    const lowers = runs.map((r) => r.percentile!.lower);
    const mean = lowers.reduce((a, b) => a + b) / 200;
    const spread = Math.sqrt(lowers.reduce((s, v) => s + (v - mean) ** 2, 0) / 199);
    const claimed = runs.reduce((s, r) => s + r.percentile!.mcseLower, 0) / 200;
    expect(claimed / spread).toBeGreaterThan(0.75);
    expect(claimed / spread).toBeLessThan(1.35);
  });

  it("one replicate has no SE", () => {
    const s = bootstrapSummary({
      estimate: 1,
      replicates: Float64Array.from([1.2]),
      jackknife: [],
      level: 0.95,
    });
    expect([s.se, s.normal, s.acceleration, s.bca]).toEqual([null, null, null, null]);
  });
});

describe("delta method and Monte Carlo", () => {
  const v = { size: 2, values: Float64Array.from([0.04, 0.01, 0.01, 0.09]) };
  it("agree for a sum, which is normal", () => {
    const test = deltaTest(3, Float64Array.from([1, 1]), v, 0.95)!;
    expect(test.se).toBeCloseTo(Math.sqrt(0.15), 12);
    const [drawn] = monteCarloIntervals(
      Float64Array.from([1, 2]),
      v,
      [(t) => t[0]! + t[1]!],
      40_000,
      2,
      0.95,
    );
    expect(Math.abs(drawn!.lower - test.lower)).toBeLessThan(0.02);
    expect(Math.abs(drawn!.upper - test.upper)).toBeLessThan(0.02);
  });
  it("a function of an SD has no delta error", () =>
    expect(deltaTest(1, Float64Array.from([1, 0, 0.5]), v, 0.95)).toBeNull());
  it("draws from a singular covariance", () => {
    const singular = { size: 2, values: Float64Array.from([1, 1, 1, 1]) };
    const [difference] = monteCarloIntervals(
      Float64Array.from([5, 3]),
      singular,
      [(t) => t[0]! - t[1]!],
      500,
      2,
      0.95,
    );
    expect(difference!.lower).toBeCloseTo(2, 10);
  });
});
