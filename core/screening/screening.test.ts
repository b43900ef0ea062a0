import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { RandomStream } from "../numerics/random";
import {
  correlations,
  describe as describeColumn,
  littleTest,
  mahalanobis,
  mardia,
  missingPatterns,
  robustOutliers,
} from ".";
import { midRanks } from "../numerics/ranks";

const column = (name: string, values: number[]) => ({ name, values: Float64Array.from(values) });

function sample(n: number, seed: number, gaps = 0) {
  const rows = Array.from({ length: n }, (_, i) => {
    const r = new RandomStream(seed, i);
    const [a, b, c] = [r.normal(), r.normal(), r.normal()];
    const row = [a, 0.6 * a + b, 1e4 + 100 * (0.3 * a + 0.4 * b + c)];
    return row.map((v) => (r.uniform() < gaps ? NaN : v));
  });
  return ["a", "b", "c"].map((name, j) =>
    column(
      name,
      rows.map((row) => row[j]!),
    ),
  );
}

describe("describing", () => {
  it("gives null where a number is not defined", () => {
    expect(describeColumn(Float64Array.from([NaN, NaN]))).toMatchObject({
      n: 0,
      missing: 2,
      mean: null,
      sd: null,
      median: null,
      skewness: null,
    });
    expect(describeColumn(Float64Array.from([7]))).toMatchObject({
      n: 1,
      mean: 7,
      sd: null,
      zeroVariance: true,
    });
    expect(describeColumn(new Float64Array(30).fill(0.1))).toMatchObject({
      zeroVariance: true,
      sd: 0,
      skewness: null,
      excessKurtosis: null,
    });
  });
  it("keeps its digits far from zero, and shape does not depend on place or unit", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -50, max: 50 }), { minLength: 8, maxLength: 60 }),
        (values) => {
          fc.pre(new Set(values).size > 2);
          const near = describeColumn(Float64Array.from(values));
          const far = describeColumn(Float64Array.from(values, (v) => 1e6 + 4 * v));
          expect(far.skewness).toBeCloseTo(near.skewness!, 8);
          expect(far.excessKurtosis).toBeCloseTo(near.excessKurtosis!, 8);
          expect(far.sd! / 4).toBeCloseTo(near.sd!, 8);
        },
      ),
    );
  });
});

describe("outliers", () => {
  it("uses the mean distance when more than half the values are equal, and flags nothing when all are", () => {
    const many = robustOutliers(Float64Array.from([...new Array<number>(20).fill(0), 1, 9]));
    expect([many.rule, many.rows]).toEqual(["mean_absolute_deviation", [21]]);
    expect(robustOutliers(new Float64Array(9).fill(3))).toMatchObject({
      rule: "none",
      rows: [],
      scale: null,
    });
  });
  it("distances sum to (n - 1) p, whatever the units", () => {
    fc.assert(
      fc.property(fc.nat(1000), fc.constantFrom(1, 1e-6, 1e6), (seed, unit) => {
        const columns = sample(30, seed).map((c) => ({
          ...c,
          values: c.values.map((v) => v * unit),
        }));
        expect(mahalanobis(columns).sum).toBeCloseTo(29 * 3, 6);
      }),
      { numRuns: 20 },
    );
  });
  it.each([
    ["collinear", [1, 2, 4, 8, 5, 9], [2, 4, 8, 16, 10, 18], /“x”, “y” determine one another/],
    ["constant", [1, 2, 4, 8, 5, 9], [3, 3, 3, 3, 3, 3], /“y” never varies/],
    [
      "nothing there",
      [1, 2, 4, 8, 5, 9],
      [NaN, NaN, NaN, NaN, NaN, NaN],
      /more than 2 complete rows; there are 0/,
    ],
  ])("refuses %s", (_, x, y, message) =>
    expect(() => mahalanobis([column("x", x), column("y", y)])).toThrow(message),
  );
});

describe("Mardia's coefficients", () => {
  it("equal the double sum over pairs of rows", () => {
    const columns = sample(25, 3);
    const n = 25;
    const found = mardia(columns);
    // One variable: b1 is the squared skewness, b2 the kurtosis.
    const one = mardia([columns[0]!]);
    const x = columns[0]!.values;
    const m = x.reduce((a, b) => a + b, 0) / n;
    const moment = (k: number): number => x.reduce((a, v) => a + (v - m) ** k, 0) / n;
    expect(one.skewness).toBeCloseTo((moment(3) / moment(2) ** 1.5) ** 2, 10);
    expect(one.kurtosis).toBeCloseTo(moment(4) / moment(2) ** 2, 10);
    expect(found.skewnessDf).toBe(10);
  });
});

describe("correlations", () => {
  it("shares ranks among ties and leaves gaps out", () => {
    expect([...midRanks(Float64Array.from([5, 1, 5, NaN, 2]))]).toEqual([3.5, 1, 3.5, NaN, 2]);
  });
  it("a perfect correlation has no t, a p of 0 and itself as interval; three rows have no interval", () => {
    const perfect = correlations(
      [column("x", [1, 2, 3, 5]), column("y", [-1, -2, -3, -5])],
      "pairwise",
      0.95,
    ).cells[0]!.pearson!;
    expect(perfect).toEqual({ r: -1, n: 4, t: null, p: 0, ci: [-1, -1] });
    const three = correlations([column("x", [1, 2, 3]), column("y", [2, 1, 4])], "pairwise", 0.95)
      .cells[0]!.pearson!;
    expect(three.ci).toBeNull();
  });
  it("says what is lacking", () => {
    const { cells } = correlations(
      [column("x", [1, 2, 3, 4]), column("y", [2, 2, 2, 2])],
      "pairwise",
      0.95,
    );
    expect(cells[0]).toMatchObject({ pearson: null, lacking: { constant: ["y"], n: 4 } });
  });
});

describe("missing values", () => {
  it("counts patterns, the most frequent first", () => {
    const found = missingPatterns([column("x", [1, NaN, 3, 4]), column("y", [1, 2, NaN, 4])]);
    expect(found.patterns).toEqual([
      { key: "11", count: 2 },
      { key: "10", count: 1 },
      { key: "01", count: 1 },
    ]);
  });
  it("without gaps the estimates are the moments with divisor n", () => {
    const [a] = sample(40, 5);
    const found = littleTest([a!]);
    const n = 40;
    const m = a!.values.reduce((s, v) => s + v, 0) / n;
    expect(found.emMean[0]).toBeCloseTo(m, 10);
    expect(found.emCovariance[0]![0]).toBeCloseTo(
      a!.values.reduce((s, v) => s + (v - m) ** 2, 0) / n,
      10,
    );
    expect(found.warnings[0]!.code).toBe("no_missing");
  });
  it("does not depend on units, and drops rows with nothing", () => {
    const columns = sample(80, 9, 0.15);
    const base = littleTest(columns);
    const scaled = littleTest(
      columns.map((c, j) => ({ ...c, values: c.values.map((v) => v * 10 ** (3 * j) - 7) })),
    );
    expect(scaled.d2).toBeCloseTo(base.d2, 6);
    const blank = littleTest(
      columns.map((c) => ({ ...c, values: Float64Array.from([...c.values, NaN]) })),
    );
    expect(blank.rowsAllMissing).toBe(base.rowsAllMissing + 1);
    expect(blank.d2).toBeCloseTo(base.d2, 9);
  });
  it("refuses variables that determine one another", () => {
    const [a] = sample(30, 2);
    expect(() => littleTest([a!, { name: "twice", values: a!.values.map((v) => 2 * v) }])).toThrow(
      /“a”, “twice”/,
    );
  });
});
