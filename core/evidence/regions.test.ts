import { describe, expect, it } from "vitest";
import { analyseMade, normals } from "../test-kit";

const N = 140;
const [x, w, e, f] = [71, 72, 73, 74].map((seed) => normals(N, seed)) as [
  number[],
  number[],
  number[],
  number[],
];
const m = x.map((v, i) => (0.5 + 0.4 * w[i]!) * v + e[i]!);
const y = m.map((v, i) => 0.6 * v + f[i]!);
const regionOf = (outcome: number[]) =>
  analyseMade({
    columns: { x, w, m, outcome },
    theory: "H1: w alters x to outcome through m on x to m",
    settings: { replications: 300, interval: "percentile" },
  }).regions[0]!;

describe("the band of a conditional indirect effect", () => {
  const there = regionOf(y);
  const back = regionOf(y.map((v) => -v));

  it("is mirrored when the outcome is, and its share counts both sides of zero", () => {
    there.grid.forEach((_, i) => {
      expect(back.estimate[i]).toBeCloseTo(-there.estimate[i]!, 10);
      expect(back.bands!.percentile.lower[i]).toBeCloseTo(-there.bands!.percentile.upper[i]!, 10);
    });
    expect(there.percentSignificant!.percentile).toBeGreaterThan(10);
    expect(back.percentSignificant!.percentile).toBe(there.percentSignificant!.percentile);
    back.bands!.percentile.boundaries.forEach((at, i) =>
      expect(at).toBeCloseTo(there.bands!.percentile.boundaries[i]!, 9),
    );
  });

  it("counts the cases whose limits, read between grid points, exclude zero", () => {
    const { grid, bands } = there;
    const { lower, upper } = bands!.percentile;
    const step = grid[1]! - grid[0]!;
    const read = (limit: (number | null)[], v: number): number => {
      const i = Math.min(grid.length - 2, Math.floor((v - grid[0]!) / step));
      return limit[i]! + ((limit[i + 1]! - limit[i]!) * (v - grid[i]!)) / step;
    };
    const share = w.filter((v) => read(lower, v) > 0 || read(upper, v) < 0).length / N;
    expect(there.percentSignificant!.percentile).toBeCloseTo(100 * share, 8);
  });

  it("has its boundaries where a limit crosses zero", () => {
    const { grid, bands } = there;
    for (const at of bands!.percentile.boundaries) {
      const i = grid.findIndex((g) => g >= at);
      const crosses = (limit: (number | null)[]): boolean => limit[i - 1]! * limit[i]! <= 0;
      expect(crosses(bands!.percentile.lower) || crosses(bands!.percentile.upper)).toBe(true);
    }
    expect(bands!.percentile.boundaries.length).toBeGreaterThan(0);
  });
});
