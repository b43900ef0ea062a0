import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { bandPolygons, contourLines, valueBetween } from "./bands";
import type { Point } from "./pen";

const areaOf = (points: readonly Point[]): number =>
  Math.abs(
    points.reduce((sum, [x, y], i) => {
      const [u, v] = points[(i + 1) % points.length]!;
      return sum + x * v - u * y;
    }, 0) / 2,
  );

const plane = (n: number, a: number, b: number, c = 0): number[][] =>
  Array.from({ length: n + 1 }, (_, i) =>
    Array.from({ length: n + 1 }, (__, j) => a * i + b * j + c * i * j),
  );

describe("areas between levels", () => {
  it("fill the whole map without overlap, however it is cut", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -2, max: 2, noNaN: true }),
        fc.double({ min: -2, max: 2, noNaN: true }),
        fc.array(fc.double({ min: -12, max: 12, noNaN: true }), { maxLength: 5 }),
        (a, b, cuts) => {
          const levels = [-Infinity, ...[...new Set(cuts)].sort((x, y) => x - y), Infinity];
          const grid = plane(6, a, b);
          const areas = levels
            .slice(1)
            .map((high, i) =>
              bandPolygons(grid, levels[i]!, high).reduce((sum, p) => sum + areaOf(p), 0),
            );
          // Where a level runs through a flat, both neighbours hold it; otherwise areas add up.
          fc.pre(Math.abs(a) > 0.01 || Math.abs(b) > 0.01);
          expect(areas.reduce((x, y) => x + y, 0)).toBeCloseTo(36, 6);
        },
      ),
    );
  });

  it("have the size that geometry gives", () => {
    // x + y < 4 on a square of side 4 is half of it.
    expect(
      bandPolygons(plane(4, 1, 1), -Infinity, 4).reduce((sum, p) => sum + areaOf(p), 0),
    ).toBeCloseTo(8, 10);
    expect(bandPolygons(plane(4, 1, 0), 1, 2).reduce((sum, p) => sum + areaOf(p), 0)).toBeCloseTo(
      4,
      10,
    );
    expect(bandPolygons(plane(3, 1, 1), 10, 20)).toEqual([]);
  });
});

describe("contour lines", () => {
  it("lie where the value is the level", () => {
    const grid = plane(8, 1, -0.5, 0.3);
    const lines = contourLines(grid, 2.2);
    expect(lines.length).toBeGreaterThan(3);
    for (const [[x, y]] of lines) expect(valueBetween(grid, x, y)).toBeCloseTo(2.2, 10);
  });

  it("join from cell to cell", () => {
    const lines = contourLines(plane(5, 1, 1), 4.5);
    const ends = lines.flat().map((p) => p.map((v) => v.toFixed(6)).join());
    const loose = [...new Set(ends)].filter((end) => ends.filter((e) => e === end).length === 1);
    expect(loose).toHaveLength(2);
  });
});
