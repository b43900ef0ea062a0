import { describe, expect, it } from "vitest";
import type { Kernel } from "../model";
import { falseDiscovery, johnsonNeyman, type LinearSlope } from "./johnson-neyman";
import { groupedScheme, Resampler, strataOf, type ReplicateBlock, type Scheme } from "./resampling";

/** Twelve rows: five in one stratum, seven in the other; six clusters of two. */
const N = 12;
const Z = Float64Array.from({ length: N }, (_, i) => Math.sin(3 * i + 1));

/**
 * A model whose parameters are the weights of the rows, then what it was told of the sums of a
 * column, of its square and of an extra column, and the total.
 */
const weights: Kernel = {
  n: N,
  size: N + 4,
  columns: { width: 1, values: Z, extra: Z.map((z) => z ** 3) },
  firstFixed: N + 4,
  refit(resample, out, at) {
    out.set(resample.weights(), at);
    out.set([resample.sums[0]!, resample.cross[0]!, resample.extra[0]!, resample.total], at + N);
    return resample.weights()[0]! < 4;
  },
};

const STRATA = groupedScheme(
  "strata",
  Array.from({ length: N }, (_, i) => (i < 5 ? 7 : 3)),
);
const CLUSTERS = groupedScheme(
  "clusters",
  Array.from({ length: N }, (_, i) => Math.floor(i / 2)),
);
const SCHEMES: Scheme[] = [{ kind: "rows" }, STRATA, CLUSTERS];

const resampler = (scheme: Scheme, seed = 9): Resampler =>
  new Resampler(weights, { scheme, seed, studentised: null });
const rowsOf = ({ values, size, count }: ReplicateBlock): number[][] =>
  Array.from({ length: count }, (_, r) => [...values.subarray(r * size, (r + 1) * size)]);
const fitted = (block: ReplicateBlock): number[][] =>
  rowsOf(block).filter((row) => !Number.isNaN(row[0]!));

describe.each(SCHEMES)("drawing by $kind", (scheme) => {
  it("tells a model the weights and the sums that belong to them", () => {
    for (const block of [resampler(scheme).replicates(0, 60), resampler(scheme).jackknife()]) {
      for (const row of fitted(block)) {
        const sum = (f: (z: number) => number): number =>
          Z.reduce((all, z, i) => all + row[i]! * f(z), 0);
        expect(row[N]).toBeCloseTo(
          sum((z) => z),
          10,
        );
        expect(row[N + 1]).toBeCloseTo(
          sum((z) => z * z),
          10,
        );
        expect(row[N + 2]).toBeCloseTo(
          sum((z) => z ** 3),
          10,
        );
        expect(row[N + 3]).toBeCloseTo(
          sum(() => 1),
          12,
        );
      }
    }
  });

  it("draws every case once on average, the first and the last of each group among them", () => {
    const always: Kernel = { ...weights, refit: (r, out, at) => (weights.refit(r, out, at), true) };
    const rows = rowsOf(
      new Resampler(always, { scheme, seed: 9, studentised: null }).replicates(0, 3000),
    );
    for (let i = 0; i < N; i++)
      expect(Math.abs(rows.reduce((all, row) => all + row[i]!, 0) / 3000 - 1)).toBeLessThan(0.09);
  });

  it("marks a failed replicate in every parameter, and no other", () => {
    const rows = rowsOf(resampler(scheme, 5).replicates(0, 800));
    const failed = rows.filter((row) => row.some(Number.isNaN));
    expect(failed.length).toBeGreaterThan(0);
    expect(failed.length).toBeLessThan(200);
    for (const row of failed) expect(row.every(Number.isNaN)).toBe(true);
  });

  it("does not depend on how replicates are split", () => {
    const whole = resampler(scheme).replicates(0, 40).values;
    const parts = [
      ...resampler(scheme).replicates(0, 13).values,
      ...resampler(scheme).replicates(13, 27).values,
    ];
    expect([...whole]).toEqual(parts);
  });
});

it("strata keep their sizes, clusters stay whole", () => {
  for (const row of fitted(resampler(STRATA).replicates(0, 50))) {
    expect(row.slice(0, 5).reduce((a, b) => a + b)).toBe(5);
    expect(row.slice(5, N).reduce((a, b) => a + b)).toBe(7);
  }
  for (const row of fitted(resampler(CLUSTERS).replicates(0, 50)))
    for (let g = 0; g < N / 2; g++) expect(row[2 * g]).toBe(row[2 * g + 1]);
  expect([...strataOf(STRATA, N)!]).toEqual(Array.from({ length: N }, (_, i) => (i < 5 ? 0 : 1)));
  expect(strataOf({ kind: "rows" }, N)).toBeNull();
  expect(strataOf(CLUSTERS, N)).toBeNull();
});

it("leaving one out takes the row, or the whole cluster, out", () => {
  for (const scheme of [{ kind: "rows" as const }, STRATA]) {
    const rows = rowsOf(resampler(scheme).jackknife());
    expect(rows.map((row) => row.slice(0, N))).toEqual(
      rows.map((_, r) => Array.from({ length: N }, (__, i) => (i === r ? 0 : 1))),
    );
    expect(rows).toHaveLength(N);
  }
  const part = resampler(STRATA);
  part.jackknife(7, 2);
  expect(rowsOf(part.jackknife(3, 4))).toEqual(rowsOf(resampler(STRATA).jackknife()).slice(3, 7));
  const rows = rowsOf(resampler(CLUSTERS).jackknife());
  expect(rows).toHaveLength(N / 2);
  rows.forEach((row, g) =>
    expect(row.slice(0, N)).toEqual(
      Array.from({ length: N }, (_, i) => (Math.floor(i / 2) === g ? 0 : 1)),
    ),
  );
});

it("seeds that differ in their high bits alone draw differently", () => {
  const at = (seed: number) => [...resampler({ kind: "rows" }, seed).replicates(0, 5).values];
  expect(at(5)).toEqual(at(5));
  expect(at(5)).not.toEqual(at(5 + 2 ** 32));
  expect(at(5 + 2 ** 32)).not.toEqual(at(5 + 2 ** 33));
});

it("a model without errors of its own cannot be studentised", () => {
  const studentised = {
    rule: { kind: "classical" as const, crossEquations: "joint" as const },
    functions: [],
  };
  expect(() => new Resampler(weights, { scheme: { kind: "rows" }, seed: 1, studentised })).toThrow(
    /no standard errors/,
  );
});

describe("false discoveries along a moderator", () => {
  const values = Float64Array.from({ length: 41 }, (_, i) => i / 10);
  const slope = (b1: number, b3: number, v: number): LinearSlope => ({
    b1,
    b3,
    v11: v,
    v13: 0,
    v33: v / 4,
    centre: 2,
    df: 38,
  });
  it("nothing found is nothing significant, whatever the quadratic says between grid points", () => {
    const none = falseDiscovery(slope(0.02, 0.01, 1), 0.95, values);
    expect(none).toMatchObject({
      kStar: 0,
      outcome: "none_never",
      percentSignificant: 0,
      rootsInRange: [],
    });
    expect(none.regions).toHaveLength(1);
    expect(none.regions[0]).toMatchObject({ significant: false, percent: 100 });
    expect(none.criticalP).toBeCloseTo(0.05 / none.gridPoints, 12);
  });
  it("clear effects are found with a critical value between the pointwise and the strictest", () => {
    const some = falseDiscovery(slope(1, 0.6, 0.05), 0.95, values);
    expect(some.kStar).toBeGreaterThan(0);
    const pointwise = johnsonNeyman(slope(1, 0.6, 0.05), 2.0244, values);
    expect(some.critical).toBeGreaterThan(2.02);
    expect(some.percentSignificant).toBeLessThanOrEqual(pointwise.percentSignificant + 1e-9);
    expect(some.criticalP).toBeCloseTo((some.kStar * 0.05) / some.gridPoints, 12);
  });
  it("few distinct values are the grid themselves", () => {
    const few = Float64Array.from({ length: 60 }, (_, i) => i % 4);
    expect(falseDiscovery(slope(1, 0.5, 0.02), 0.95, few).gridPoints).toBe(4);
    expect(falseDiscovery(slope(1, 0.5, 0.02), 0.95, values).gridPoints).toBe(101);
  });
});
