import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { fisherP, Phi, studentP, studentQuantile, zQuantile } from "./distributions";
import { correlation, mean, standardDeviation } from "./moments";
import { inverseGram, orthogonalFactor, solveUpper, dot } from "./orthogonal";
import { choleskyInPlace, choleskySolveInPlace } from "./cholesky";
import { quantile6 } from "./quantile";
import { RandomStream } from "./random";
import { countUntil, sortedCopy } from "./sort";
import { quantilesOf } from "./select";

const column = (n: number, seed: number): Float64Array => {
  const stream = new RandomStream(seed, 0);
  return Float64Array.from({ length: n }, () => stream.normal());
};

describe("quantiles without sorting", () => {
  it("are those of the sorted values, whatever the order and however many are alike", () => {
    const values = fc.oneof(
      fc.array(fc.integer({ min: -3, max: 3 }), { minLength: 1, maxLength: 60 }),
      fc.array(fc.double({ noNaN: true, noDefaultInfinity: true }), {
        minLength: 1,
        maxLength: 60,
      }),
      fc.nat(500).map((seed) => [...column(700, seed)]),
      fc.nat(500).map((seed) => [...column(900, seed).map((v) => v ** 9), 1e12]),
    );
    fc.assert(
      fc.property(
        values,
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 1, maxLength: 6 }),
        (list, tails) => {
          const sorted = Float64Array.from(list).sort();
          const found = quantilesOf(Float64Array.from(list), tails);
          // Selection does not tell -0 from 0.
          expect(found.map((v) => v + 0)).toEqual(tails.map((q) => quantile6(sorted, q) + 0));
        },
      ),
      { numRuns: 500 },
    );
  });
});

describe("sorting", () => {
  const lists = fc.oneof(
    fc.array(fc.double({ noNaN: true, noDefaultInfinity: true }), { maxLength: 90 }),
    fc
      .tuple(fc.nat(500), fc.integer({ min: 1, max: 1500 }))
      .map(([seed, n]) => [...column(n, seed)]),
    fc.nat(500).map((seed) => [...column(400, seed).map((v) => Math.round(v))]),
    fc.nat(500).map((seed) => [...column(400, seed).map((v) => v ** 7)]),
  );
  it("gives what the engine's own sort gives, and leaves the values as they are", () => {
    fc.assert(
      fc.property(lists, (list) => {
        const values = Float64Array.from(list);
        expect([...sortedCopy(values)].map((v) => v + 0)).toEqual(
          [...Float64Array.from(list).sort()].map((v) => v + 0),
        );
        expect([...values]).toEqual(list);
      }),
      { numRuns: 300 },
    );
  });
  it("finds where a condition begins to hold", () => {
    fc.assert(
      fc.property(lists, fc.double({ noNaN: true }), (list, limit) => {
        const sorted = Float64Array.from(list).sort();
        expect(countUntil(sorted, (v) => v >= limit)).toBe(list.filter((v) => v < limit).length);
      }),
    );
  });
});

describe("random streams", () => {
  it("depend on seed and index alone", () => {
    fc.assert(
      fc.property(fc.nat(2 ** 31), fc.nat(100_000), (seed, index) => {
        const a = new RandomStream(seed, index);
        const b = new RandomStream(1, 1);
        for (let i = 0; i < 5; i++) b.normal();
        b.key(seed, index);
        for (let i = 0; i < 8; i++) expect(a.uniform()).toBe(b.uniform());
      }),
    );
  });

  it("differ between neighbouring seeds and indices, high seeds included", () => {
    const first = (seed: number, index: number): number => new RandomStream(seed, index).next();
    const draws = [
      first(1, 0),
      first(1, 1),
      first(2, 0),
      first(2 ** 40 + 1, 0),
      first(2 ** 40 + 1, 1),
      first(0, 0),
    ];
    expect(new Set(draws).size).toBe(draws.length);
  });

  it("draw uniformly: counts over many streams stay within five standard errors", () => {
    const counts = new Float64Array(10);
    for (let r = 0; r < 2000; r++) new RandomStream(5, r).countDraws(counts, 10, 10);
    for (const count of counts)
      expect(Math.abs(count - 2000)).toBeLessThan(5 * Math.sqrt(20_000 * 0.1 * 0.9));
  });

  it("count the same draws as drawing one by one", () => {
    const counts = new Float64Array(7);
    new RandomStream(3, 9).countDraws(counts, 7, 50);
    const one = new RandomStream(3, 9);
    const expected = new Float64Array(7);
    for (let i = 0; i < 50; i++) expected[one.below(7)]! += 1;
    expect([...counts]).toEqual([...expected]);
  });

  it("give normals with mean 0 and SD 1", () => {
    const x = column(20_000, 4);
    expect(Math.abs(mean(x))).toBeLessThan(0.036);
    expect(Math.abs(standardDeviation(x) - 1)).toBeLessThan(0.025);
  });
});

describe("distributions", () => {
  // Values from published tables of the t, normal and F distributions.
  it("agree with tables", () => {
    expect(studentQuantile(0.975, 10)).toBeCloseTo(2.228138852, 8);
    expect(zQuantile(0.975)).toBeCloseTo(1.959963985, 8);
    expect(Phi(-1.644853627)).toBeCloseTo(0.05, 9);
    expect(fisherP(3.4928, 2, 20)).toBeCloseTo(0.05, 5);
  });
  it("keep small tails", () => {
    expect(studentP(40, 200)).toBeGreaterThan(0);
    expect(studentP(40, 200)).toBeLessThan(1e-90);
    expect(fisherP(500, 3, 400)).toBeGreaterThan(0);
  });
});

describe("orthogonal factor", () => {
  it("solves least squares: residuals are orthogonal to every column", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 6 }), fc.nat(1000), (k, seed) => {
        const columns = Array.from({ length: k }, (_, j) => column(60, seed * 10 + j));
        const y = column(60, seed * 10 + 9);
        const factor = orthogonalFactor(columns);
        const centre = mean(y);
        const rhs = factor.q.map((q) =>
          dot(
            q,
            y.map((v) => v - centre),
          ),
        );
        const b = solveUpper(factor.r, k, rhs);
        const residual = y.map(
          (v, i) =>
            v -
            centre -
            columns.reduce(
              (sum, x, j) => sum + (b[j]! / factor.lengths[j]!) * (x[i]! - factor.means[j]!),
              0,
            ),
        );
        for (const x of columns) expect(Math.abs(dot(residual, x))).toBeLessThan(1e-10);
      }),
    );
  });

  it("names a dependent column and its partners, and no bystander", () => {
    const [a, b, c] = [column(40, 1), column(40, 2), column(40, 3)];
    const sum = a.map((v, i) => 2 * v - c[i]! + 1e6);
    expect(orthogonalFactor([a, b, c, sum]).dependent).toEqual({ column: 3, partners: [0, 2] });
    expect(orthogonalFactor([a, b, c]).dependent).toBeNull();
  });

  it("weights count as repeated rows", () => {
    const x = column(12, 5);
    const w = x.map((_, i) => (i % 3) + 1);
    const repeated = Float64Array.from([...x].flatMap((v, i) => new Array<number>(w[i]!).fill(v)));
    const weighted = orthogonalFactor([x], w);
    const plain = orthogonalFactor([repeated]);
    expect(weighted.means[0]).toBeCloseTo(plain.means[0]!, 12);
    expect(weighted.lengths[0]).toBeCloseTo(plain.lengths[0]!, 12);
  });

  it("inverts the correlation matrix", () => {
    const a = column(50, 8);
    const b = a.map((v, i) => 0.6 * v + column(50, 9)[i]!);
    const factor = orthogonalFactor([a, b]);
    const r = correlation(a, b);
    expect(inverseGram(factor.r, 2)[0]).toBeCloseTo(1 / (1 - r * r), 10);
  });
});

it("the in-place Cholesky solver solves, and reports an indefinite matrix", () => {
  const a = Float64Array.from([4, 2, 2, 3]);
  const x = Float64Array.from([10, 9]);
  expect(choleskyInPlace(a, 2, 2)).toBeCloseTo(2 / 3, 12);
  choleskySolveInPlace(a, 2, 2, x);
  expect([...x].map((v) => Number(v.toFixed(10)))).toEqual([1.5, 2]);
  expect(choleskyInPlace(Float64Array.from([1, 2, 2, 1]), 2, 2)).toBeLessThanOrEqual(0);
});

it("the quantile is monotone and stays within the values", () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 50 }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      (values, p, q) => {
        const sorted = Float64Array.from(values).sort();
        const [low, high] = [quantile6(sorted, Math.min(p, q)), quantile6(sorted, Math.max(p, q))];
        expect(low).toBeLessThanOrEqual(high);
        expect(low).toBeGreaterThanOrEqual(sorted[0]!);
        expect(high).toBeLessThanOrEqual(sorted.at(-1)!);
      },
    ),
  );
});

it("moments survive large means", () => {
  const x = Float64Array.from({ length: 1000 }, (_, i) => 1e6 + (i % 2));
  expect(mean(x)).toBe(1e6 + 0.5);
  expect(standardDeviation(x)).toBeCloseTo(0.5 * Math.sqrt(1000 / 999), 12);
});
