import { describe, expect, it } from "vitest";
import { bootstrapSummary } from "../inference";
import { studentP, studentQuantile, zQuantile } from "../numerics/distributions";
import { normals } from "../test-kit";
import type { IntervalKind } from "../study";
import { excludes, readInterval, type Sources } from "./reading";

const t = Float64Array.from(normals(500, 3), (v) => 1 + v);
const bootstrap = bootstrapSummary({
  estimate: 1,
  replicates: t,
  jackknife: normals(40, 4),
  level: 0.95,
});
const linear = {
  se: 0.5,
  t: 2,
  df: 12,
  p: studentP(2, 12),
  lower: 1 - 0.5 * studentQuantile(0.975, 12),
  upper: 1 + 0.5 * studentQuantile(0.975, 12),
};
const sources: Sources = {
  estimate: 1,
  linear: null,
  delta: { se: 0.6 },
  bootstrap,
  monteCarlo: null,
};
const read = (interval: IntervalKind, change: Partial<Sources> = {}, side: -1 | 0 | 1 = 0) =>
  readInterval({ ...sources, ...change }, { interval, level: 0.95 }, side);

describe("the interval that is shown", () => {
  it("is the bootstrap interval asked for, with its p and its errors", () => {
    for (const kind of ["bca", "bc", "percentile", "basic", "normal"] as const)
      expect(read(kind)).toMatchObject({
        method: kind,
        reference: "bootstrap",
        lower: bootstrap[kind]!.lower,
        upper: bootstrap[kind]!.upper,
        p: bootstrap[kind]!.pTwoSided,
        mcseLower: bootstrap[kind]!.mcseLower,
        se: bootstrap.se,
        provisional: false,
      });
  });

  it("on one side is the bound at the whole error and the p of that side", () => {
    const bca = bootstrap.bca!;
    expect(read("bca", {}, 1)).toMatchObject({
      lower: bca.oneSidedLower,
      upper: null,
      p: bca.pGreater,
      mcseLower: bca.mcseOneSidedLower,
      mcseUpper: 0,
    });
    expect(read("bca", {}, -1)).toMatchObject({
      lower: null,
      upper: bca.oneSidedUpper,
      p: bca.pLess,
      mcseLower: 0,
      mcseUpper: bca.mcseOneSidedUpper,
    });
    expect(bca.oneSidedLower).toBeGreaterThan(bca.lower);
  });

  it("is the percentile interval, marked, where the one asked for does not exist", () => {
    const without = { ...bootstrap, bca: null, bootstrapT: null };
    expect(read("bca", { bootstrap: without })).toMatchObject({
      method: "percentile",
      provisional: true,
    });
    expect(read("bootstrap_t", { bootstrap: without })).toMatchObject({
      method: "percentile",
      provisional: true,
    });
    const none = { ...without, percentile: null };
    expect(read("bca", { bootstrap: none })).toMatchObject({
      lower: null,
      upper: null,
      p: null,
      se: bootstrap.se,
    });
  });

  it("by t for single coefficients wherever nothing is simulated, by z for everything else", () => {
    expect(read("delta", { linear })).toMatchObject({
      method: "delta",
      reference: "t",
      df: 12,
      provisional: false,
    });
    expect(read("delta", { linear }).lower).toBeCloseTo(linear.lower, 12);
    expect(read("delta", { linear }).p).toBeCloseTo(linear.p, 12);
    expect(read("delta").lower).toBeCloseTo(1 - 0.6 * zQuantile(0.975), 12);
    expect(read("delta")).toMatchObject({ reference: "z", df: null });
    expect(read("bca", { bootstrap: null, linear })).toMatchObject({
      reference: "t",
      provisional: true,
    });
    expect(read("monte_carlo", { bootstrap: null, linear })).toMatchObject({
      reference: "t",
      provisional: false,
    });
    expect(read("monte_carlo", { bootstrap: null })).toMatchObject({
      reference: "z",
      provisional: true,
    });
    expect(read("delta", { delta: null })).toMatchObject({ lower: null, p: null });
  });

  it("one tail of t and z: half of p on the stated side, the rest on the other", () => {
    const up = read("delta", { linear }, 1);
    expect(up.lower).toBeCloseTo(1 - 0.5 * studentQuantile(0.95, 12), 12);
    expect([up.upper, up.p]).toEqual([null, expect.closeTo(linear.p / 2, 12)]);
    expect(read("delta", { linear }, -1).p).toBeCloseTo(1 - linear.p / 2, 12);
    expect(read("delta", {}, -1).upper).toBeCloseTo(1 + 0.6 * zQuantile(0.95), 12);
    const negative = read("delta", { estimate: -1 }, -1);
    expect(negative.p).toBeLessThan(0.5);
  });

  it("draws of the Monte Carlo interval, and their p", () => {
    const monteCarlo = { ...bootstrap.percentile!, draws: 500 };
    expect(read("monte_carlo", { monteCarlo })).toMatchObject({
      method: "monte_carlo",
      reference: "monte_carlo",
      se: 0.6,
      p: monteCarlo.pTwoSided,
    });
  });

  it("a p at the floor of the simulation is its own two-sided p, on the side where all replicates lie", () => {
    const far = bootstrapSummary({
      estimate: 9,
      replicates: t.map((v) => v + 8),
      jackknife: normals(40, 4),
      level: 0.95,
    });
    // By its own method: never below what so many replicates can tell, and above it where z0 or the
    // acceleration say so.
    const { pTwoSided, pGreater } = far.bca!;
    const told = [Math.max(pTwoSided, 2 / 501), Math.max(pGreater, 1 / 501)];
    expect(read("bca", { bootstrap: far })).toMatchObject({ p: told[0], pIsBound: true });
    expect(read("bca", { bootstrap: far }, 1)).toMatchObject({ p: told[1], pIsBound: true });
    expect(read("percentile", { bootstrap: far }).p).toBeCloseTo(2 / 501, 12);
    expect(read("bca", { bootstrap: far }, -1)).toMatchObject({
      pIsBound: false,
      p: far.bca!.pLess,
    });
  });

  it("excludes a value only beyond its limits, an open end excludes nothing", () => {
    expect([
      excludes({ lower: 0.1, upper: 1 }, 0),
      excludes({ lower: -1, upper: -0.1 }, 0),
      excludes({ lower: -1, upper: 1 }, 0),
    ]).toEqual([true, true, false]);
    expect([
      excludes({ lower: 0.1, upper: null }, 0),
      excludes({ lower: null, upper: 0.1 }, 0),
      excludes({ lower: null, upper: null }, 0),
    ]).toEqual([true, false, null]);
    expect(excludes({ lower: 0, upper: 1 }, 0)).toBe(false);
  });
});
