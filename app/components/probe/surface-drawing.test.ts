import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Ink, Pen, Point } from "../figure/pen";
import { PLANE } from "./plane-map";
import { drawSurface, type Surface } from "./surface-drawing";

/** A pen that only remembers. */
function memory() {
  const shapes: { points: readonly Point[]; closed: boolean; ink: Ink }[] = [];
  const dots: Point[] = [];
  const words: { text: string; at: Point }[] = [];
  const pen: Pen = {
    circle: (x, y) => void dots.push([x, y]),
    shape: (points, closed, ink) => void shapes.push({ points, closed, ink }),
    text: (x, y, text) => void words.push({ text, at: [x, y] }),
  };
  return { pen, shapes, dots, words };
}

const COLOURS: Record<string, string> = {
  "--sheet": "#ffffff",
  "--petrol": "#0f5c66",
  "--quiet": "#666666",
  "--line": "#cccccc",
  "--ink": "#111111",
  "--rust": "#a04020",
};
const style = {
  color: "#000000",
  getPropertyValue: (name: string) => COLOURS[name] ?? "",
} as CSSStyleDeclaration;
const surface: Surface = {
  xName: "hours",
  yName: "support",
  zName: "confidence",
  xRange: [0, 10],
  yRange: [1, 5],
  at: (x, y) => 2 + 0.1 * x * (y - 2),
  people: { x: [1, 9, 5], y: [2, 4, 3], z: [0, 8, 2.2] },
  edges: [2.5],
};

describe("the surface that turns", () => {
  it("stays in its frame from every side, people included", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -7, max: 7, noNaN: true }),
        fc.double({ min: 0, max: Math.PI / 2, noNaN: true }),
        (turn, tilt) => {
          const { pen, shapes, dots, words } = memory();
          drawSurface(pen, style, surface, turn, tilt);
          const drawn = [...dots, ...shapes.flatMap((s) => s.points)];
          const beyond = drawn.filter(
            ([x, y]) => x < 0 || x > PLANE.width || y < 0 || y > PLANE.height,
          );
          expect(beyond).toEqual([]);
          expect(
            words.filter(
              ({ at: [x, y] }) => x < 20 || x > PLANE.width - 20 || y < 11 || y > PLANE.height - 3,
            ),
          ).toEqual([]);
          expect(dots).toHaveLength(3);
        },
      ),
    );
  });

  it("draws people above the surface in ink and below in rust, tied to what is predicted for them", () => {
    const { pen, shapes } = memory();
    drawSurface(pen, style, surface, 0.6, 0.5);
    const threads = shapes.filter((s) => !s.closed && s.ink.opacity === 0.4);
    expect(threads.map((s) => s.ink.stroke).sort()).toEqual(["#111111", "#a04020", "#a04020"]);
    for (const { points } of threads) expect(points[0]![0]).toBeCloseTo(points[1]![0], 9);
  });

  it("marks the edge of significance across the surface, names the axes and survives a flat surface", () => {
    const { pen, shapes, words } = memory();
    drawSurface(pen, style, surface, 0.6, 0.5);
    expect(shapes.filter((s) => s.ink.width === 2.2)).toHaveLength(22);
    expect(words.map((w) => w.text)).toEqual(
      expect.arrayContaining(["hours", "support", "confidence"]),
    );
    const flat = memory();
    drawSurface(flat.pen, style, { ...surface, at: () => 3, people: null, edges: [] }, 0, 0.5);
    expect(
      flat.shapes
        .flatMap((s) => s.points)
        .flat()
        .every(Number.isFinite),
    ).toBe(true);
  });
});
