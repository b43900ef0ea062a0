import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  fisherQuantile,
  normalP,
  phi,
  studentQuantile,
  zQuantile,
} from "../numerics/distributions";
import { RandomStream } from "../numerics/random";
import { normalTest, quadraticForm } from "../model";
import { deltaTest } from "./delta";
import { bootstrapSummary } from "./intervals";
import {
  boundaries,
  johnsonNeyman,
  pointwiseCritical,
  simultaneousCritical,
  slopeAt,
  varianceAt,
  type LinearSlope,
} from "./johnson-neyman";
import { monteCarloIntervals } from "./monte-carlo";

const values = Float64Array.from({ length: 50 }, (_, i) => i / 10);
const slope = (b1: number, b3: number, v11: number, v13: number, v33: number): LinearSlope => ({
  b1,
  b3,
  v11,
  v13,
  v33,
  centre: 2,
  df: 40,
});
const ratio = (s: LinearSlope, w: number): number =>
  Math.abs(slopeAt(s, w)) / Math.sqrt(varianceAt(s, w));

describe("regions of significance", () => {
  it("read slope and variance about the centre", () => {
    const s = slope(1, 0.5, 0.2, 0.03, 0.1);
    expect(slopeAt(s, 5)).toBeCloseTo(1 + 0.5 * 3, 12);
    expect(varianceAt(s, 5)).toBeCloseTo(0.2 + 2 * 3 * 0.03 + 9 * 0.1, 12);
    expect(varianceAt(s, 0)).toBeCloseTo(0.2 - 2 * 2 * 0.03 + 4 * 0.1, 12);
  });

  it("have the critical values of t and of Potthoff's F", () => {
    expect(pointwiseCritical(40, 0.95)).toBeCloseTo(studentQuantile(0.975, 40), 12);
    expect(simultaneousCritical(40, 0.95)).toBeCloseTo(
      Math.sqrt(2 * fisherQuantile(0.95, 2, 40)),
      12,
    );
    expect(simultaneousCritical(40, 0.95)).toBeGreaterThan(pointwiseCritical(40, 0.95));
  });

  const slopes = fc.record({
    b1: fc.double({ min: -2, max: 2, noNaN: true }),
    b3: fc.double({ min: -2, max: 2, noNaN: true }),
    v11: fc.double({ min: 0.02, max: 0.5, noNaN: true }),
    v33: fc.double({ min: 0.02, max: 0.5, noNaN: true }),
    r: fc.double({ min: -0.8, max: 0.8, noNaN: true }),
  });

  it("agree with a walk along the moderator: a value is significant where its ratio passes the critical one", () =>
    fc.assert(
      fc.property(slopes, ({ b1, b3, v11, v33, r }) => {
        const s = slope(b1, b3, v11, r * Math.sqrt(v11 * v33), v33);
        const found = johnsonNeyman(s, 2, values);
        for (const region of found.regions) {
          for (const share of [0.1, 0.5, 0.9]) {
            const w = region.from + share * (region.to - region.from);
            if (Math.abs(ratio(s, w) - 2) > 1e-6) expect(ratio(s, w) > 2).toBe(region.significant);
          }
          expect(region.sign).toBe(Math.sign(slopeAt(s, (region.from + region.to) / 2)));
        }
        const share = (100 * values.filter((w) => ratio(s, w) > 2).length) / 50;
        expect(Math.abs(found.percentSignificant - share)).toBeLessThan(2.1);
        expect(found.range).toEqual([0, 4.9]);
        expect(found.rootsInRange).toEqual(found.rootsAll.filter((w) => w >= 0 && w <= 4.9));
      }),
    ));

  it("name their outcome by the roots within the observed values", () => {
    const of = (s: LinearSlope) => johnsonNeyman(s, 2, values).outcome;
    expect(of(slope(0, 1, 0.05, 0, 0.01))).toBe("two_roots");
    expect(of(slope(1.2, 0.6, 0.05, 0, 0.02))).toBe("one_root");
    expect(of(slope(5, 0.1, 0.05, 0, 0.001))).toBe("none_always");
    expect(of(slope(0, 0.01, 1, 0, 1))).toBe("none_never");
  });

  it("count cases by where they lie, the first region with its left end", () => {
    const found = johnsonNeyman(slope(0, 1, 0.05, 0, 0.01), 2, values);
    const shares = found.regions.map(
      ({ from, to }, i) =>
        values.filter((v) => (i === 0 ? v >= from : v > from) && v <= to).length * 2,
    );
    expect(found.regions.map((r) => r.percent)).toEqual(shares.map((s) => expect.closeTo(s, 10)));
    expect(found.percentSignificant).toBeCloseTo(shares[0]! + shares[2]!, 10);
  });

  it("have one boundary where the quadratic is a line, symmetrical ones where it has no linear part, none where it has no root", () => {
    expect(boundaries({ ...slope(1, 0.2, 0.1, 0, 0.01) }, 2)).toHaveLength(1);
    const [a, b] = boundaries(slope(0, 1, 0.05, 0, 0.01), 2);
    expect([a! - 2, b! - 2]).toEqual([
      expect.closeTo(-Math.sqrt(0.2 / 0.96), 10),
      expect.closeTo(Math.sqrt(0.2 / 0.96), 10),
    ]);
    expect(boundaries(slope(0, 0, 1, 0, 1), 2)).toEqual([]);
    expect(boundaries(slope(0, 0.2, 0, 0, 0.01), 2)).toEqual([]);
  });
});

describe("the delta method", () => {
  const v = { size: 2, values: Float64Array.of(0.04, 0.01, 0.01, 0.09) };
  it("is g'Vg with its z test", () => {
    const g = Float64Array.of(2, -3);
    expect(quadraticForm(g, v)).toBeCloseTo(4 * 0.04 - 12 * 0.01 + 9 * 0.09, 12);
    const test = deltaTest(1.2, g, v, 0.9)!;
    expect(test.se).toBeCloseTo(Math.sqrt(0.85), 12);
    expect(test.z).toBeCloseTo(1.2 / Math.sqrt(0.85), 12);
    expect(test.p).toBeCloseTo(normalP(1.2 / Math.sqrt(0.85)), 12);
    expect(test.lower).toBeCloseTo(1.2 - zQuantile(0.95) * test.se, 12);
    expect(test.upper).toBeCloseTo(1.2 + zQuantile(0.95) * test.se, 12);
    expect(normalTest(1.2, 0.85, 0.9)).toEqual(test);
  });
  it("has no answer where parameters without a covariance enter, unless they are taken as fixed", () => {
    expect(deltaTest(1, Float64Array.of(1, 0, 0.5, 0), v, 0.95)).toBeNull();
    expect(deltaTest(1, Float64Array.of(1, 0, 0, 0.5), v, 0.95)).toBeNull();
    expect(deltaTest(1, Float64Array.of(1, 0, 0, 0.5), v, 0.95, 3)!.se).toBeCloseTo(0.2, 12);
    expect(deltaTest(1, Float64Array.of(1, 0, 0.5, 0.5), v, 0.95, 3)).toBeNull();
    expect(
      deltaTest(1, Float64Array.of(1, 0), { size: 2, values: Float64Array.of(NaN, 0, 0, 1) }, 0.95),
    ).toBeNull();
    expect(deltaTest(NaN, Float64Array.of(1, 0), v, 0.95)).toBeNull();
    // What no parameter can change cannot be tested.
    expect(deltaTest(1, Float64Array.of(0, 0), v, 0.95)).toBeNull();
  });
});

describe("Monte Carlo intervals", () => {
  const theta = Float64Array.of(0.5, 0.4, 3);
  const v = { size: 2, values: Float64Array.of(0.01, 0.006, 0.006, 0.04) };
  const run = (seed: number) =>
    monteCarloIntervals(
      theta,
      v,
      [
        (t, o) => t[o]!,
        (t, o) => t[o]! + t[o + 1]!,
        (t, o) => t[o + 2]!,
        null,
        (t, o) => Math.log(t[o]! - 0.5),
      ],
      20_000,
      seed,
      0.95,
    );
  it("have the limits of the normal distribution where the function is linear, covariance included", () => {
    const [first, sum, fixed, none, rare] = run(4);
    expect(first!.lower).toBeCloseTo(0.5 - 1.96 * 0.1, 1.8);
    expect(first!.upper).toBeCloseTo(0.5 + 1.96 * 0.1, 1.8);
    expect((sum!.upper - sum!.lower) / (2 * 1.96 * Math.sqrt(0.01 + 0.04 + 0.012))).toBeCloseTo(
      1,
      1.5,
    );
    expect([fixed!.lower, fixed!.upper]).toEqual([3, 3]);
    expect([none, rare]).toEqual([null, null]);
    expect(first!.draws).toBe(20_000);
    expect(first!.pTwoSided).toBeLessThan(0.001);
  });
  it("depend on the seed alone, and on no other function beside", () => {
    expect(run(4)).toEqual(run(4));
    expect(run(4)[0]!.lower).not.toBe(run(5)[0]!.lower);
    expect(monteCarloIntervals(theta, v, [(t, o) => t[o]!], 20_000, 4, 0.95)[0]).toEqual(run(4)[0]);
  });
  it("draw from a singular covariance too: what is one variable stays one", () => {
    const [gap] = monteCarloIntervals(
      Float64Array.of(1, 2),
      { size: 2, values: Float64Array.of(0.04, 0.08, 0.08, 0.16) },
      [(t, o) => t[o + 1]! - 2 * t[o]!],
      500,
      3,
      0.95,
    );
    expect(gap!.lower).toBeCloseTo(0, 10);
    expect(gap!.upper).toBeCloseTo(0, 10);
  });
});

describe("Monte Carlo errors of limits", () => {
  const stream = new RandomStream(15, 0);
  const t = Float64Array.from(
    { length: 599 },
    () => 0.3 + stream.normal() + 0.2 * stream.normal() ** 2,
  );
  const jackknife = Array.from({ length: 50 }, () => stream.normal() ** 3 / 50);
  const strata = Array.from({ length: 50 }, (_, i) => Number(i % 3 === 0));
  const sorted = [...t].sort((a, b) => a - b);
  const B = 599;
  const q6 = (q: number): number => {
    const g = (B + 1) * q;
    const j = Math.floor(g);
    return j < 1
      ? sorted[0]!
      : j >= B
        ? sorted[B - 1]!
        : sorted[j - 1]! + (g - j) * (sorted[j]! - sorted[j - 1]!);
  };
  const errorAt = (r: number, k: number, P: number): number => {
    const spread = Math.sqrt(
      (k * k * P * (1 - P) + r * (1 - r) - 2 * k * (Math.min(P, r) - P * r)) / B,
    );
    return (q6(Math.min(r + spread, B / (B + 1))) - q6(Math.max(r - spread, 1 / (B + 1)))) / 2;
  };
  it("follow the formula for percentile, BC and BCa, both limits, both sides", () => {
    const s = bootstrapSummary({ estimate: 0.55, replicates: t, jackknife, level: 0.9 });
    const [z0, a, P] = [s.z0!, s.acceleration!, s.below];
    for (const [q, two, one] of [
      [0.05, "mcseLower", null],
      [0.95, "mcseUpper", null],
      [0.1, null, "mcseOneSidedLower"],
      [0.9, null, "mcseOneSidedUpper"],
    ] as const) {
      const name = two ?? one!;
      const z = zQuantile(q);
      expect(s.percentile![name]).toBeCloseTo(errorAt(q, 0, P), 10);
      const bc = s.bc!;
      expect(bc[name]).toBeCloseTo(
        errorAt(normalCdf(2 * z0 + z), (2 * phi(2 * z0 + z)) / phi(z0), P),
        9,
      );
      const w = z0 + z;
      const d = 1 - a * w;
      expect(s.bca![name]).toBeCloseTo(
        errorAt(normalCdf(z0 + w / d), (phi(z0 + w / d) * (1 + 1 / (d * d))) / phi(z0), P),
        9,
      );
    }
  });
  it("the acceleration with strata takes each stratum about its own mean", () => {
    const found = bootstrapSummary({
      estimate: 0.55,
      replicates: t,
      jackknife,
      strata,
      level: 0.9,
    }).acceleration!;
    const means = [0, 1].map((g) => {
      const own = jackknife.filter((_, i) => strata[i] === g);
      return own.reduce((x, y) => x + y, 0) / own.length;
    });
    const d = jackknife.map((v, i) => means[strata[i]!]! - v);
    expect(found).toBeCloseTo(
      d.reduce((x, y) => x + y ** 3, 0) / (6 * d.reduce((x, y) => x + y * y, 0) ** 1.5),
      12,
    );
  });
});

/** The normal distribution function from its tail p. */
const normalCdf = (z: number): number => (z < 0 ? normalP(z) / 2 : 1 - normalP(z) / 2);
