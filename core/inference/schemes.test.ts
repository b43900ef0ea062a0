import { describe, expect, it } from "vitest";
import type { RefitProblem } from "../estimators/least-squares";
import { falseDiscovery, johnsonNeyman, type LinearSlope } from "./johnson-neyman";
import { groupedScheme, Resampler, strataOf, type Scheme } from "./resampling";

/** Indicators of single rows: the SD of one in a resample tells how often its row was drawn. */
const N = 12;
const ROWS = [0, 4, 5, 11];
const problem: RefitProblem = {
  n: N,
  width: ROWS.length + 1,
  z: Float64Array.from({ length: N * (ROWS.length + 1) }, (_, at) => {
    const [i, j] = [Math.floor(at / (ROWS.length + 1)), at % (ROWS.length + 1)];
    return j < ROWS.length ? Number(i === ROWS[j]) : Math.sin(3 * i);
  }),
  means: new Float64Array(ROWS.length + 1),
  sds: new Float64Array(ROWS.length + 1).fill(1),
  equations: [],
  sdTargets: Int32Array.from([1, 2, 3, 4, 5]),
  size: 6,
  averages: { count: 0, first: 6, rows: new Float64Array(0), rules: null },
  restandardise: null,
};

/** From SD^2 = c (n - c) / (n (n - 1)), for counts below half. */
const countOf = (sd: number, n: number): number => (n - Math.sqrt(Math.max(0, n * n - 4 * n * (n - 1) * sd * sd))) / 2;

function meanCounts(scheme: Scheme, draws = 3000): number[] {
  const block = new Resampler({ refit: problem, scheme, seed: 9, studentised: null }).replicates(0, draws);
  return ROWS.map(
    (_, j) => Array.from({ length: draws }, (__, r) => countOf(block.values[r * 6 + 1 + j]!, N)).reduce((a, b) => a + b) / draws,
  );
}

describe("every case is drawn once on average", () => {
  // Counts above half of n are read as their mirror, which happens too rarely to matter.
  const close = (counts: number[]) => counts.forEach((count) => expect(Math.abs(count - 1)).toBeLessThan(0.09));
  it("from all rows, the first and the last among them", () => close(meanCounts({ kind: "rows" })));
  it("within strata, the last of each among them", () =>
    close(
      meanCounts(
        groupedScheme(
          "strata",
          Array.from({ length: N }, (_, i) => (i < 5 ? 0 : 1)),
        ),
      ),
    ));
  it("in clusters, the last cluster among them", () =>
    close(
      meanCounts(
        groupedScheme(
          "clusters",
          Array.from({ length: N }, (_, i) => Math.floor(i / 2)),
        ),
      ),
    ));
});

it("strata keep their sizes in every resample", () => {
  const stratum = Array.from({ length: N }, (_, i) => (i < 5 ? 7 : 3));
  const scheme = groupedScheme("strata", stratum);
  const indicator = {
    ...problem,
    width: 2,
    z: Float64Array.from({ length: 2 * N }, (_, at) => (at % 2 ? Math.sin(at) : Number(at / 2 < 5))),
    sdTargets: Int32Array.from([1, 2]),
  };
  const block = new Resampler({ refit: indicator, scheme, seed: 2, studentised: null }).replicates(0, 50);
  for (let r = 0; r < 50; r++) expect(countOf(block.values[r * 6 + 1]!, N)).toBeCloseTo(5, 9);
  expect([...strataOf(scheme, N)!]).toEqual(stratum.map((s) => (s === 7 ? 0 : 1)));
  expect(strataOf({ kind: "rows" }, N)).toBeNull();
});

it("leaving one out takes the row, or the whole cluster, out of every sum", () => {
  const one = new Resampler({ refit: problem, scheme: { kind: "rows" }, seed: 1, studentised: null }).jackknife();
  expect(one.count).toBe(N);
  for (let i = 0; i < N; i++)
    ROWS.forEach((row, j) => expect(countOf(one.values[i * 6 + 1 + j]!, N - 1)).toBeCloseTo(row === i ? 0 : 1, 9));
  const pairs = new Resampler({
    refit: problem,
    scheme: groupedScheme(
      "clusters",
      Array.from({ length: N }, (_, i) => Math.floor(i / 2)),
    ),
    seed: 1,
    studentised: null,
  }).jackknife();
  expect(pairs.count).toBe(N / 2);
  for (let g = 0; g < N / 2; g++)
    ROWS.forEach((row, j) => expect(countOf(pairs.values[g * 6 + 1 + j]!, N - 2)).toBeCloseTo(Math.floor(row / 2) === g ? 0 : 1, 9));
});

it("seeds that differ in their high bits alone draw differently", () => {
  const at = (seed: number) => [
    ...new Resampler({ refit: problem, scheme: { kind: "rows" }, seed, studentised: null }).replicates(0, 5).values,
  ];
  expect(at(5)).toEqual(at(5));
  expect(at(5)).not.toEqual(at(5 + 2 ** 32));
  expect(at(5 + 2 ** 32)).not.toEqual(at(5 + 2 ** 33));
});

describe("false discoveries along a moderator", () => {
  const values = Float64Array.from({ length: 41 }, (_, i) => i / 10);
  const slope = (b1: number, b3: number, v: number): LinearSlope => ({ b1, b3, v11: v, v13: 0, v33: v / 4, centre: 2, df: 38 });
  it("nothing found is nothing significant, whatever the quadratic says between grid points", () => {
    const none = falseDiscovery(slope(0.02, 0.01, 1), 0.95, values);
    expect(none).toMatchObject({ kStar: 0, outcome: "none_never", percentSignificant: 0, rootsInRange: [] });
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
