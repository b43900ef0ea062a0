import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { Phi, zQuantile } from "../numerics/distributions";
import { RandomStream } from "../numerics/random";
import { bootstrapLimits, bootstrapSummary, percentileOf } from "./intervals";
import { nominalTail, adjustedTail, type Adjustment } from "./adjustment";
import { bootstrapP } from "./bootstrap-p";

/** Every interval method once more, by its formula on a plain sorted list. */
const draws = (n: number, seed: number, skew = 0.3): number[] => {
  const stream = new RandomStream(seed, 0);
  return Array.from({ length: n }, () => {
    const z = stream.normal();
    return 0.5 + z + skew * (z * z - 1);
  });
};
const sortedOf = (values: readonly number[]): number[] => [...values].sort((a, b) => a - b);
/** Hyndman and Fan's sixth definition, from its words. */
function q6(sorted: readonly number[], q: number): number {
  const B = sorted.length;
  const g = (B + 1) * q;
  const j = Math.floor(g);
  if (j < 1) return sorted[0]!;
  if (j >= B) return sorted[B - 1]!;
  return sorted[j - 1]! + (g - j) * (sorted[j]! - sorted[j - 1]!);
}
const mean = (v: readonly number[]): number => v.reduce((a, b) => a + b, 0) / v.length;
const sd = (v: readonly number[]): number =>
  Math.sqrt(v.reduce((a, b) => a + (b - mean(v)) ** 2, 0) / (v.length - 1));

const t = draws(799, 5);
const sorted = sortedOf(t);
const estimate = 0.42;
const left = draws(60, 77, 0.4).map((v) => v / 50);
const input = { estimate, replicates: Float64Array.from(t), jackknife: left, level: 0.9 };
/** Made within each test, so that a tool that changes lines sees which test notices. */
const summary = () => bootstrapSummary(input);

describe("the summary of replicates", () => {
  it("SE, bias, share below and z0", () => {
    const s = summary();
    expect(s.se).toBeCloseTo(sd(t), 12);
    expect(s.bias).toBeCloseTo(mean(t) - estimate, 12);
    expect(s.below).toBeCloseTo(t.filter((v) => v < estimate).length / 799, 12);
    expect(Phi(s.z0!)).toBeCloseTo(s.below, 12);
    expect([s.used, s.missing]).toEqual([799, 0]);
  });

  it("the share below counts ties half, to twelve digits of the largest value", () => {
    const tied = bootstrapSummary({
      ...input,
      estimate: 1,
      replicates: Float64Array.from([0, 1, 1 + 1e-14, 1 + 1e-10, 5]),
    });
    expect(tied.below).toBeCloseTo((1 + 0.5 + 0.5) / 5, 12);
  });

  it("the acceleration from the cubes of the leave-one-out values", () => {
    const s = summary();
    const d = left.map((v) => mean(left) - v);
    const a =
      d.reduce((sum, v) => sum + v ** 3, 0) / (6 * d.reduce((sum, v) => sum + v ** 2, 0) ** 1.5);
    expect(s.acceleration).toBeCloseTo(a, 12);
    const constant = bootstrapSummary({ ...input, jackknife: [2, 2, 2] });
    expect([constant.acceleration, constant.accelerationZero, s.accelerationZero]).toEqual([
      0,
      true,
      false,
    ]);
    expect(bootstrapSummary({ ...input, jackknife: [] }).bca).toBeNull();
  });

  it("percentile limits, two-sided at half the error and one-sided at the whole", () => {
    const s = summary();
    expect(s.percentile!.lower).toBe(q6(sorted, 0.05));
    expect(s.percentile!.upper).toBe(q6(sorted, 0.95));
    expect([s.percentile!.oneSidedLower, s.percentile!.oneSidedUpper]).toEqual([
      expect.closeTo(q6(sorted, 0.1), 12),
      expect.closeTo(q6(sorted, 0.9), 12),
    ]);
  });

  it("BC and BCa limits at their adjusted probabilities", () => {
    const s = summary();
    const z0 = s.z0!;
    const a = s.acceleration!;
    for (const [at, z] of [
      ["lower", zQuantile(0.05)],
      ["upper", zQuantile(0.95)],
    ] as const) {
      expect(s.bc![at]).toBeCloseTo(q6(sorted, Phi(2 * z0 + z)), 10);
      expect(s.bca![at]).toBeCloseTo(q6(sorted, Phi(z0 + (z0 + z) / (1 - a * (z0 + z)))), 10);
    }
    expect(s.bca!.adjusted[0]).toBeCloseTo(
      Phi(z0 + (z0 + zQuantile(0.05)) / (1 - a * (z0 + zQuantile(0.05)))),
      12,
    );
  });

  it("basic limits mirror the percentile ones, their errors and p likewise", () => {
    const s = summary();
    expect(s.basic!.lower).toBeCloseTo(2 * estimate - q6(sorted, 0.95), 10);
    expect(s.basic!.upper).toBeCloseTo(2 * estimate - q6(sorted, 0.05), 10);
    expect(s.basic!.mcseLower).toBeCloseTo(s.percentile!.mcseUpper, 10);
    expect(s.basic!.oneSidedLower).toBeCloseTo(2 * estimate - s.percentile!.oneSidedUpper, 10);
    // Zero lies where 2 estimate lies among the replicates.
    const rank = bootstrapP(Float64Array.from(sorted), 2 * estimate, { kind: "percentile" });
    expect([s.basic!.pGreater, s.basic!.pLess]).toEqual([
      expect.closeTo(rank.pLess, 10),
      expect.closeTo(rank.pGreater, 10),
    ]);
  });

  it("normal limits about the estimate less bias, with the error of mean and SE", () => {
    const s = summary();
    const centre = estimate - (mean(t) - estimate);
    const z = zQuantile(0.95);
    expect(s.normal!.lower).toBeCloseTo(centre - z * sd(t), 10);
    expect(s.normal!.oneSidedUpper).toBeCloseTo(centre + zQuantile(0.9) * sd(t), 10);
    expect(s.normal!.mcseUpper).toBeCloseTo(
      (Math.sqrt(1 + (z * z) / 2) * sd(t)) / Math.sqrt(799),
      10,
    );
    expect(s.normal!.pTwoSided).toBeCloseTo(2 * Phi(-Math.abs(centre / sd(t))), 12);
    expect(s.normal!.pGreater).toBeCloseTo(Phi(-centre / sd(t)), 12);
    expect(s.normal!.pGreater + s.normal!.pLess).toBeCloseTo(1, 12);
  });

  it("bootstrap-t limits from quantiles of t, rows without an error left out", () => {
    const se = 0.9;
    const errors = t.map((_, i) => (i % 50 === 0 ? 0 : 0.8 + 0.001 * (i % 300)));
    const found = bootstrapSummary({ ...input, se, replicateSe: errors }).bootstrapT!;
    const ratios = sortedOf(
      t.flatMap((v, i) => (errors[i]! > 0 ? [(v - estimate) / errors[i]!] : [])),
    );
    expect(found.lower).toBeCloseTo(estimate - q6(ratios, 0.95) * se, 10);
    expect(found.upper).toBeCloseTo(estimate - q6(ratios, 0.05) * se, 10);
    const spread = Math.sqrt((0.95 * 0.05) / ratios.length);
    expect(found.mcseLower).toBeCloseTo(
      (se * (q6(ratios, 0.95 + spread) - q6(ratios, 0.95 - spread))) / 2,
      10,
    );
    expect(bootstrapSummary({ ...input, se }).bootstrapT).toBeNull();
    expect(bootstrapSummary({ ...input, se, replicateSe: t.map(() => NaN) }).bootstrapT).toBeNull();
  });

  it("limits alone are those of the summary", () => {
    const s = summary();
    const only = bootstrapLimits(input);
    for (const kind of ["percentile", "bc", "bca"] as const)
      expect(only[kind]).toEqual([
        expect.closeTo(s[kind]!.lower, 12),
        expect.closeTo(s[kind]!.upper, 12),
      ]);
    const oneSide = bootstrapLimits({ ...input, estimate: 99 });
    expect([oneSide.bc, oneSide.bca]).toEqual([null, null]);
    expect(bootstrapLimits({ ...input, jackknife: [] }).bca).toBeNull();
  });

  it("more than a tenth of missing replicates leaves no limits, a tenth does", () => {
    const kinds = ["percentile", "bc", "bca", "basic", "normal"] as const;
    const at = (missing: number) =>
      bootstrapSummary({ ...input, replicates: Float64Array.from(t.slice(0, 90)), missing });
    for (const kind of kinds) {
      expect(at(10)[kind]).not.toBeNull();
      expect(at(11)[kind]).toBeNull();
    }
    expect(at(11)).toMatchObject({ used: 90, missing: 11 });
  });

  it("a tail beyond the replicates is marked", () => {
    const few = bootstrapSummary({ ...input, replicates: Float64Array.from(t.slice(0, 15)) });
    expect(few.percentile!.tooFewReplicates).toBe(true);
    expect(few.percentile!.lower).toBe(Math.min(...t.slice(0, 15)));
    expect(
      bootstrapSummary({ ...input, replicates: Float64Array.from(t.slice(0, 25)) }).percentile!
        .tooFewReplicates,
    ).toBe(false);
  });

  it("the number of replicates that would settle a limit grows with the square of its error over its distance", () => {
    const near = percentileOf(
      Float64Array.from(sorted.map((v) => v - q6(sorted, 0.05) + 0.002)),
      0.1,
    );
    expect(near.unsettled).toBe(true);
    expect(near.suggested).toBe(
      Math.ceil(799 * ((2 * near.mcseLower) / Math.abs(near.lower)) ** 2),
    );
    const far = percentileOf(Float64Array.from(sorted.map((v) => v + 50)), 0.1);
    expect([far.unsettled, far.suggested]).toEqual([false, null]);
  });

  it("a stated null value moves p and the settling of a limit, and no limit", () => {
    const moved = bootstrapSummary({ ...input, nullValue: 0.3 });
    const shifted = bootstrapSummary({
      ...input,
      estimate: estimate - 0.3,
      replicates: Float64Array.from(t, (v) => v - 0.3),
    });
    for (const kind of ["percentile", "bc", "bca", "basic", "normal"] as const) {
      expect(moved[kind]!.pTwoSided).toBeCloseTo(shifted[kind]!.pTwoSided, 10);
      expect(moved[kind]!.lower).toBeCloseTo(shifted[kind]!.lower + 0.3, 10);
      expect(moved[kind]!.unsettled).toBe(shifted[kind]!.unsettled);
    }
  });
});

describe("adjusted and nominal tails", () => {
  const methods: fc.Arbitrary<Adjustment> = fc.oneof(
    fc.constant<Adjustment>({ kind: "percentile" }),
    fc.record({
      kind: fc.constant("bc" as const),
      z0: fc.double({ min: -1, max: 1, noNaN: true }),
    }),
    fc.record({
      kind: fc.constant("bca" as const),
      z0: fc.double({ min: -0.6, max: 0.6, noNaN: true }),
      a: fc.double({ min: -0.15, max: 0.15, noNaN: true }),
    }),
  );
  it("undo each other", () =>
    fc.assert(
      fc.property(methods, fc.double({ min: 0.01, max: 0.99, noNaN: true }), (method, q) => {
        const tail = adjustedTail(q, method);
        fc.pre(tail !== null && tail > 1e-6 && tail < 1 - 1e-6);
        expect(nominalTail(tail!, method)).toBeCloseTo(q, 8);
      }),
    ));
  it("have limits at the ends, where a BCa map stops short of 0 or 1", () => {
    expect(nominalTail(0, { kind: "bca", z0: 0.1, a: 0.1 })).toBe(0);
    expect(nominalTail(1, { kind: "bca", z0: 0.1, a: 0.1 })).toBeCloseTo(Phi(10 - 0.1), 12);
    expect(nominalTail(0, { kind: "bca", z0: 0.1, a: -0.5 })).toBeCloseTo(Phi(-2 - 0.1), 12);
    expect(nominalTail(1, { kind: "bca", z0: 0.1, a: -0.5 })).toBe(1);
    expect(adjustedTail(0.999, { kind: "bca", z0: 0.5, a: 0.3 })).toBeNull();
    // Beyond the pole of the inverse the whole tail, or none, is left.
    expect(nominalTail(0.0001, { kind: "bca", z0: 0, a: 0.5 })).toBe(0);
    expect(nominalTail(0.9999, { kind: "bca", z0: 0, a: -0.5 })).toBe(1);
  });
});

describe("the bootstrap p", () => {
  const p = (values: number[], at = 0) =>
    bootstrapP(Float64Array.from(sortedOf(values)), at, { kind: "percentile" });
  it("interpolates between the replicates beside the null", () => {
    const found = p([-1, 1, 2, 3]);
    // Rank 1.5 of five gaps.
    expect([found.pGreater, found.pLess, found.pTwoSided]).toEqual([0.3, 0.7, 0.6]);
    expect(found.pIsBound).toBe(false);
  });
  it("is a bound where all replicates lie on one side", () => {
    expect(p([1, 2, 3])).toMatchObject({ pGreater: 0.25, pLess: 0.75, pIsBound: true });
    expect(p([-1, -2, -3])).toMatchObject({ pGreater: 0.75, pLess: 0.25, pIsBound: true });
  });
  it("takes replicates at the null for both sides", () => {
    expect(p([-2, 0, 0, 1])).toMatchObject({
      pGreater: 0.6,
      pLess: expect.closeTo(0.6, 12),
      pTwoSided: 1,
      pIsBound: false,
    });
    expect(p([0, 1, 2])).toMatchObject({ pLess: 1, pIsBound: false });
    expect(p([-2, -1, 0])).toMatchObject({ pGreater: 1, pIsBound: false });
  });
});
