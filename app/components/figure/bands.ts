import type { Point } from "./pen";

interface Corner {
  x: number;
  y: number;
  value: number;
}

/**
 * The part of a polygon where the value, linear along its edges, is on the inner side of a level.
 */
function clipped(corners: Corner[], inner: (value: number) => number): Corner[] {
  return corners.flatMap((a, i) => {
    const b = corners[(i + 1) % corners.length]!;
    const [u, v] = [inner(a.value), inner(b.value)];
    const kept = u >= 0 ? [a] : [];
    if (u >= 0 === v >= 0) return kept;
    const t = u / (u - v);
    return [
      ...kept,
      {
        x: a.x + (b.x - a.x) * t,
        y: a.y + (b.y - a.y) * t,
        value: a.value + (b.value - a.value) * t,
      },
    ];
  });
}

const cornersOf = (grid: readonly (readonly number[])[], i: number, j: number): Corner[] =>
  [
    [i, j],
    [i + 1, j],
    [i + 1, j + 1],
    [i, j + 1],
  ].map(([a, b]) => ({ x: a!, y: b!, value: grid[a!]![b!]! }));

/**
 * The area of a grid of values between two levels, as polygons in units of the grid (first index to
 * the right, second upwards). Whole cells of a column are joined; cells that a level runs through
 * are cut along it.
 */
export function bandPolygons(
  grid: readonly (readonly number[])[],
  low: number,
  high: number,
): Point[][] {
  const found: Point[][] = [];
  for (let i = 0; i + 1 < grid.length; i++) {
    let from = -1;
    const close = (j: number): void => {
      if (from >= 0)
        found.push([
          [i, from],
          [i + 1, from],
          [i + 1, j],
          [i, j],
        ]);
      from = -1;
    };
    for (let j = 0; j + 1 < grid[i]!.length; j++) {
      const corners = cornersOf(grid, i, j);
      if (corners.every((c) => c.value >= low && c.value <= high)) {
        if (from < 0) from = j;
        continue;
      }
      close(j);
      const part = clipped(
        clipped(corners, (v) => v - low),
        (v) => high - v,
      );
      if (part.length > 2) found.push(part.map(({ x, y }) => [x, y] as const));
    }
    close(grid[i]!.length - 1);
  }
  return found;
}

/**
 * Where the values of a grid cross a level: short lines, one or two in each cell it runs through.
 */
export function contourLines(
  grid: readonly (readonly number[])[],
  level: number,
): [Point, Point][] {
  const lines: [Point, Point][] = [];
  for (let i = 0; i + 1 < grid.length; i++) {
    for (let j = 0; j + 1 < grid[i]!.length; j++) {
      const corners = cornersOf(grid, i, j);
      const cuts = corners.flatMap((a, k): Point[] => {
        const b = corners[(k + 1) % 4]!;
        const [u, v] = [a.value - level, b.value - level];
        if (u >= 0 === v >= 0) return [];
        const t = u / (u - v);
        return [[a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t]];
      });
      for (let k = 0; k + 1 < cuts.length; k += 2) lines.push([cuts[k]!, cuts[k + 1]!]);
    }
  }
  return lines;
}

/** The value between the points of a grid, by the four around it. */
export function valueBetween(grid: readonly (readonly number[])[], x: number, y: number): number {
  const i = Math.min(grid.length - 2, Math.max(0, Math.floor(x)));
  const j = Math.min(grid[0]!.length - 2, Math.max(0, Math.floor(y)));
  const [u, v] = [x - i, y - j];
  const at = (a: number, b: number): number => grid[i + a]![j + b]!;
  return (1 - u) * ((1 - v) * at(0, 0) + v * at(0, 1)) + u * ((1 - v) * at(1, 0) + v * at(1, 1));
}
