import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { RandomStream } from "../numerics/random";
import { holmAdjusted, jointBootstrapTest, jointDeltaTest } from "./joint";

const stream = new RandomStream(8, 0);
const B = 400;
const base = [0, 1, 2].map(() => Float64Array.from({ length: B }, () => stream.normal()));
const columns = [
  base[0]!,
  base[1]!.map((v, i) => 0.7 * base[0]![i]! + v),
  base[2]!.map((v, i) => v - 0.4 * base[1]![i]!),
];
const estimates = [0.8, 1.9, -0.6];
const centred = columns.map((c, j) => c.map((v) => v + estimates[j]!));

describe("a joint bootstrap test", () => {
  it("is the squared distance in the replicates' covariance, by the inverse written out for two", () => {
    const [a, b] = [centred[0]!, centred[1]!];
    const mean = (v: Float64Array): number => v.reduce((s, x) => s + x, 0) / B;
    const cov = (u: Float64Array, v: Float64Array): number =>
      u.reduce((s, x, i) => s + (x - mean(u)) * (v[i]! - mean(v)), 0) / (B - 1);
    const [aa, bb, ab] = [cov(a, a), cov(b, b), cov(a, b)];
    const distance = (x: number, y: number): number =>
      (bb * x * x - 2 * ab * x * y + aa * y * y) / (aa * bb - ab * ab);
    const two = jointBootstrapTest(estimates.slice(0, 2), centred.slice(0, 2))!;
    expect(two.statistic).toBeCloseTo(distance(0.8, 1.9), 10);
    const beyond = a.reduce(
      (count, x, i) => count + (distance(x - 0.8, b[i]! - 1.9) >= two.statistic ? 1 : 0),
      0,
    );
    expect(two.p).toBeCloseTo((1 + beyond) / (B + 1), 12);
    expect(two.mcse).toBeCloseTo(Math.sqrt((two.p * (1 - two.p)) / B), 12);
    expect(two).toMatchObject({ reference: "bootstrap", df1: 2, df2: null });
  });

  it("is the same for any invertible mixture of the quantities", () =>
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -2, max: 2, noNaN: true }), { minLength: 9, maxLength: 9 }),
        (w) => {
          const rows = [0, 1, 2].map((i) =>
            w.slice(3 * i, 3 * i + 3).map((v, j) => v + (i === j ? 3 : 0)),
          );
          const [r0, r1, r2] = rows as [number[], number[], number[]];
          const det =
            r0[0]! * (r1[1]! * r2[2]! - r1[2]! * r2[1]!) -
            r0[1]! * (r1[0]! * r2[2]! - r1[2]! * r2[0]!) +
            r0[2]! * (r1[0]! * r2[1]! - r1[1]! * r2[0]!);
          fc.pre(Math.abs(det) > 1);
          const mix = (values: number[]): number[] =>
            rows.map((row) => row.reduce((s, v, j) => s + v * values[j]!, 0));
          const mixed = [0, 1, 2].map((i) =>
            Float64Array.from({ length: B }, (_, r) => mix(centred.map((c) => c[r]!))[i]!),
          );
          const found = jointBootstrapTest(estimates, centred)!;
          const other = jointBootstrapTest(mix(estimates), mixed)!;
          expect(other.statistic / found.statistic).toBeCloseTo(1, 7);
          expect(Math.abs(other.p - found.p)).toBeLessThan(1.5 / B);
        },
      ),
      { numRuns: 30 },
    ));

  it("leaves replicates with a missing value out, and has no answer where nothing is left or all is one line", () => {
    const holes = centred.map((c, j) => c.map((v, i) => (i % 10 === j ? NaN : v)));
    const kept = Array.from({ length: B }, (_, i) => i).filter((i) => i % 10 > 2);
    const fewer = jointBootstrapTest(estimates, holes)!;
    const same = jointBootstrapTest(
      estimates,
      centred.map((c) => Float64Array.from(kept, (i) => c[i]!)),
    )!;
    expect(fewer).toEqual(same);
    expect(jointBootstrapTest([1, 2], [centred[0]!, centred[0]!.map((v) => 2 * v)])).toBeNull();
    expect(
      jointBootstrapTest([1, 2], [Float64Array.of(1, 2, 3), Float64Array.of(3, 1, 2)]),
    ).toBeNull();
  });

  it("is unlikely where the estimate lies far out, likely where it lies among the replicates", () => {
    const at = (size: number) =>
      jointBootstrapTest(
        [size, size],
        [base[0]!.map((v) => v + size), base[1]!.map((v) => v + size)],
      )!.p;
    expect(at(5)).toBeCloseTo(1 / (B + 1), 12);
    expect(at(0)).toBe(1);
  });
});

it("a joint delta test is a Wald chi-squared of the gradients' covariance", () => {
  const v = { size: 2, values: Float64Array.of(0.04, 0.01, 0.01, 0.09) };
  const found = jointDeltaTest([0.5, 0.6], [Float64Array.of(1, 0), Float64Array.of(0, 1)], v)!;
  const det = 0.04 * 0.09 - 0.01 * 0.01;
  const wanted = (0.09 * 0.25 - 2 * 0.01 * 0.3 + 0.04 * 0.36) / det;
  expect(found.statistic).toBeCloseTo(wanted, 10);
  expect(found.p).toBeCloseTo(Math.exp(-wanted / 2), 10);
  // A function of both coefficients takes their covariance along.
  const sum = jointDeltaTest([1.1], [Float64Array.of(1, 1)], v)!;
  expect(sum.statistic).toBeCloseTo(1.1 ** 2 / (0.04 + 0.09 + 0.02), 10);
  expect(jointDeltaTest([1, 2], [Float64Array.of(1, 0), Float64Array.of(2, 0)], v)).toBeNull();
});

describe("Holm's adjusted p", () => {
  it("multiplies by what is left, never falls, and stops at one", () => {
    const found = holmAdjusted([0.01, 0.04, 0.03, 0.005]);
    [0.03, 0.06, 0.06, 0.02].forEach((p, i) => expect(found[i]).toBeCloseTo(p, 12));
    expect(holmAdjusted([0.6, 0.7])).toEqual([1, 1]);
    expect(holmAdjusted([])).toEqual([]);
  });
  it("leaves out what has no p", () =>
    expect(holmAdjusted([null, 0.02, null, 0.5])).toEqual([null, 0.04, null, 0.5]));
  it("is never below p, keeps its order and is at most Bonferroni's", () =>
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 1, maxLength: 8 }),
        (ps) => {
          const adjusted = holmAdjusted(ps) as number[];
          ps.forEach((p, i) => {
            expect(adjusted[i]!).toBeGreaterThanOrEqual(p);
            expect(adjusted[i]!).toBeLessThanOrEqual(Math.min(1, p * ps.length) + 1e-12);
            ps.forEach((q, j) => p < q && expect(adjusted[i]!).toBeLessThanOrEqual(adjusted[j]!));
          });
        },
      ),
    ));
});

it("a joint test of four quantities agrees with a distance solved by elimination", () => {
  const four = [...columns, base[2]!.map((v, i) => v * 0.5 + base[0]![i]! ** 2 * 0.3)];
  const at = [0.4, -0.2, 0.3, 0.5];
  const found = jointBootstrapTest(
    at,
    four.map((c, j) => c.map((v) => v + at[j]!)),
  )!;
  const mean = (v: Float64Array): number => v.reduce((s, x) => s + x, 0) / B;
  const work = four.map((a, i) => [
    ...four.map((b) => a.reduce((s, x, r) => s + (x - mean(a)) * (b[r]! - mean(b)), 0) / (B - 1)),
    at[i]!,
  ]);
  for (let k = 0; k < 4; k++) {
    work[k] = work[k]!.map((v) => v / work[k]![k]!);
    for (let i = 0; i < 4; i++)
      if (i !== k) work[i] = work[i]!.map((v, j) => v - work[i]![k]! * work[k]![j]!);
  }
  expect(found.statistic).toBeCloseTo(
    work.reduce((s, row, i) => s + row[4]! * at[i]!, 0),
    9,
  );
});
