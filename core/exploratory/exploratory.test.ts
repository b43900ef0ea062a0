import { describe, expect, it } from "vitest";
import { RandomStream } from "../numerics/random";
import { extractFactors, mostFactors, oneFactor } from "../measures";
import expected from "./expected.json";
import {
  halfOf,
  minimumAveragePartial,
  parallelAnalysis,
  rotate,
  solutionOf,
  type Rotation,
} from ".";
import { amount } from "../test-kit";

const { r, n } = expected;

/** Columns of `found` in the order and with the signs of `wanted`. */
function aligned(found: number[][], wanted: number[][]): number[][] {
  const order = wanted[0]!.map((_, t) => {
    const inner = found[0]!.map((__, s) =>
      wanted.reduce((sum, row, i) => sum + row[t]! * found[i]![s]!, 0),
    );
    const s = inner.reduce((best, x, at) => (Math.abs(x) > Math.abs(inner[best]!) ? at : best), 0);
    return [s, Math.sign(inner[s]!)] as const;
  });
  return found.map((row) => order.map(([s, sign]) => sign * row[s]!));
}

function expectClose(found: number[][], wanted: number[][], within: number): void {
  const gap = Math.max(
    ...found.flatMap((row, i) => row.map((x, j) => Math.abs(x - wanted[i]![j]!))),
  );
  expect(gap).toBeLessThan(within);
}

describe("extraction", () => {
  it.each(["maximum_likelihood", "minimum_residual"] as const)(
    "%s comes to the minimum that a general minimiser finds",
    (by) => {
      const found = extractFactors(r, 3, n, by)!;
      expect(found.converged).toBe(true);
      expectClose([found.uniquenesses], [expected[by].psi], 2e-5);
      expect(found.fit.test!.chiSquare).toBeCloseTo(expected[by].chi, 5);
      expect(found.fit.test!.df).toBe(12);
    },
  );

  it("one factor is that of omega", () => {
    const found = extractFactors(r, 1, n, "maximum_likelihood")!;
    const omega = oneFactor(r, n)!;
    expectClose(
      [found.loadings.map((row) => Math.abs(row[0]!))],
      [omega.loadings.map(Math.abs)],
      1e-7,
    );
    expect(found.fit.test!.chiSquare).toBeCloseTo(omega.test!.chiSquare, 7);
  });

  it("finds a structure that holds exactly, by both ways", () => {
    const pattern = [
      [0.8, 0],
      [0.7, 0],
      [0.6, 0],
      [0, 0.7],
      [0, 0.5],
      [0, 0.9],
    ];
    const exact = pattern.map((a, i) =>
      pattern.map((b, j) =>
        i === j ? 1 : a[0]! * b[0]! + a[1]! * b[1]! + 0.3 * (a[0]! * b[1]! + a[1]! * b[0]!),
      ),
    );
    for (const by of ["maximum_likelihood", "minimum_residual"] as const) {
      const found = extractFactors(exact, 2, 200, by)!;
      expect(found.fit.rmsr).toBeLessThan(1e-7);
      const turned = rotate(found.loadings, "oblimin", 1);
      expectClose(aligned(turned.loadings, pattern), pattern, 1e-5);
      expect(Math.abs(turned.correlations[0]![1]!)).toBeCloseTo(0.3, 5);
    }
  });

  it("has no more factors than degrees of freedom allow", () => {
    expect([3, 4, 5, 6, 9].map(mostFactors)).toEqual([1, 1, 2, 3, 5]);
  });

  it("says null where items repeat one another", () => {
    const copy = [...r.map((row) => [...row, row[0]!]), [...r[0]!, 1]];
    expect(extractFactors(copy, 2, n, "maximum_likelihood")).toBeNull();
  });
});

describe("rotation", () => {
  const { loadings } = extractFactors(r, 3, n, "maximum_likelihood")!;

  it.each(["oblimin", "geomin", "varimax"] as const)(
    "%s comes to the lowest of many starts of another minimiser",
    (by: Rotation) => {
      const found = rotate(loadings, by, 1);
      expect(found.criterion).toBeLessThan(expected[by].crit + 1e-8);
      expectClose(aligned(found.loadings, expected[by].loadings), expected[by].loadings, 2e-4);
    },
  );

  it("changes neither communalities nor what the factors imply", () => {
    for (const by of ["oblimin", "geomin", "varimax"] as const) {
      const { loadings: turned, correlations: phi } = rotate(loadings, by, 3);
      const implied = (i: number, j: number): number =>
        turned[i]!.reduce(
          (sum, x, s) => sum + x * turned[j]!.reduce((one, y, t) => one + phi[s]![t]! * y, 0),
          0,
        );
      for (let i = 0; i < 9; i++)
        for (let j = 0; j <= i; j++)
          expect(implied(i, j)).toBeCloseTo(
            loadings[i]!.reduce((sum, x, t) => sum + x * loadings[j]![t]!, 0),
            9,
          );
    }
  });

  it("a negative item is reversed, factors point to where most of their items do", () => {
    const extracted = extractFactors(r, 3, n, "maximum_likelihood")!;
    const items = r.map((_, i) => `i${i + 1}`);
    const { rows, correlations } = solutionOf(
      items,
      extracted,
      rotate(extracted.loadings, "oblimin", 1),
    );
    expect(rows.filter((row) => row.reversed).map((row) => row.item)).toEqual(["i6"]);
    const together = (item: string): string[] => {
      const at = rows.find((row) => row.item === item)!.factor;
      return rows.flatMap((row) => (row.factor === at ? [row.item] : [])).sort();
    };
    expect(together("i1")).toEqual(["i1", "i2", "i3"]);
    expect(together("i4")).toEqual(["i4", "i5", "i6"]);
    expect(together("i7")).toEqual(["i7", "i8", "i9"]);
    expect(Math.min(...correlations.flat())).toBeGreaterThan(0);
  });
});

describe("how many factors", () => {
  it("averages partial correlations as computed elsewhere", () => {
    expectClose([minimumAveragePartial(r).averages], [expected.map], 1e-7);
  });

  /** Likert answers of 300 people: three factors of five items, loadings .5 to .75, r = .3. */
  function answers(seed: number): Float64Array[] {
    const stream = new RandomStream(seed, 0);
    const columns = Array.from({ length: 15 }, () => new Float64Array(300));
    for (let row = 0; row < 300; row++) {
      const common = stream.normal();
      const factors = [0, 1, 2].map(
        () => Math.sqrt(0.3) * common + Math.sqrt(0.7) * stream.normal(),
      );
      columns.forEach((column, j) => {
        const loading = 0.5 + 0.0625 * (j % 5);
        const y =
          loading * factors[Math.floor(j / 5)]! + Math.sqrt(1 - loading ** 2) * stream.normal();
        column[row] = 1 + [-1.3, -0.4, 0.5, 1.4].filter((cut) => y > cut).length;
      });
    }
    return columns;
  }

  it("finds the three factors of Likert answers in at least 95 of 100 samples", () => {
    const samples = amount(8, 100);
    const right = Array.from({ length: samples }, (_, s) =>
      parallelAnalysis(answers(s + 1), 1),
    ).filter((found) => found.factors === 3 && found.factorsNormal === 3).length;
    expect(right).toBeGreaterThanOrEqual(Math.floor(0.95 * samples));
  });

  it("is the same for a seed and finds nothing where there is nothing", () => {
    const stream = new RandomStream(5, 0);
    const noise = Array.from({ length: 6 }, () =>
      Float64Array.from({ length: 200 }, () => stream.normal()),
    );
    const found = parallelAnalysis(noise, 7);
    expect(parallelAnalysis(noise, 7)).toEqual(found);
    expect(found.factors).toBeLessThan(2);
  });
});

it("halves share nobody and miss nobody", () => {
  const [first, second] = [halfOf(101, 1, 9), halfOf(101, 2, 9)];
  expect([first.length, second.length]).toEqual([51, 50]);
  expect([...first, ...second].sort((a, b) => a - b)).toEqual(
    Array.from({ length: 101 }, (_, i) => i),
  );
});
