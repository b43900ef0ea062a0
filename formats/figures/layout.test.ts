import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { compileTheory, parseTheory } from "../../core";
import { layoutDiagram } from "./layout";
import type { Box } from "./shapes";

const NAMES = ["x", "z", "m1", "m2", "m3", "y", "w"];
function layout(theory: string, width = 740, height = 600) {
  const { paths, roles } = compileTheory(parseTheory(theory, NAMES).statements);
  return layoutDiagram(
    { paths: paths.map((p) => ({ ...p, effects: [], moderators: [] })), roles },
    width,
    height,
  );
}
const apart = (a: Box, b: Box): boolean =>
  a.x + a.width <= b.x || b.x + b.width <= a.x || a.y + a.height <= b.y || b.y + b.height <= a.y;
const edges = fc.uniqueArray(
  fc.tuple(fc.nat(6), fc.nat(6)).filter(([a, b]) => a < b),
  { selector: ([a, b]) => `${a} ${b}`, minLength: 1, maxLength: 9 },
);

describe("the diagram", () => {
  it("draws every path once and every card apart from the others, whatever the model", () => {
    fc.assert(
      fc.property(edges, fc.integer({ min: 500, max: 1400 }), (list, width) => {
        const drawn = layout(
          list.map(([a, b]) => `also ${NAMES[a]} to ${NAMES[b]}`).join("\n"),
          width,
        );
        expect(drawn.arrows).toHaveLength(list.length);
        for (const [i, a] of drawn.boxes.entries())
          for (const b of drawn.boxes.slice(i + 1)) expect(apart(a, b)).toBe(true);
        for (const box of drawn.boxes) {
          expect(box.x).toBeGreaterThanOrEqual(0);
          expect(box.x + box.width).toBeLessThanOrEqual(width + 1);
          expect(box.y).toBeGreaterThanOrEqual(0);
        }
      }),
    );
  });

  it("stands causes left of effects, and every final outcome in the last column", () => {
    const { boxes } = layout("x raises y through m1\nz raises y\nx raises w", 1000);
    const at = (name: string): number => boxes.find((b) => b.name === name)!.x;
    expect(at("x")).toBeLessThan(at("m1"));
    expect(at("m1")).toBeLessThan(at("y"));
    expect(at("w")).toBe(at("y"));
    expect(at("z")).toBe(at("x"));
  });

  it("keeps labels off cards and off each other in the usual models", () => {
    for (const theory of [
      "x raises y through m1",
      "x raises y through m1 and m2",
      "x raises y through m1 then m2\nz lowers y",
      "x raises y through m1 and m2 and m3",
    ]) {
      const { arrows, boxes } = layout(theory);
      const areas = arrows.map((a): Box => ({
        name: "",
        x: a.label.x - 34,
        y: a.label.y - 15,
        width: 68,
        height: 30,
      }));
      for (const [i, area] of areas.entries()) {
        for (const box of boxes) expect(apart(area, box)).toBe(true);
        for (const other of areas.slice(i + 1)) expect(apart(area, other)).toBe(true);
      }
    }
  });

  it("leads the direct path around the mediators' cards", () => {
    const { arrows, boxes } = layout("x raises y through m1 and m2 and m3");
    const direct = arrows.find((a) => a.from === "x" && a.to === "y")!;
    const points = [...direct.d.matchAll(/([\d.]+) ([\d.]+)/g)].map((m) => ({
      x: Number(m[1]),
      y: Number(m[2]),
    }));
    const mediators = boxes.filter((b) => b.name.startsWith("m"));
    const hits = points.filter((p) =>
      mediators.some((b) => p.x > b.x && p.x < b.x + b.width && p.y > b.y && p.y < b.y + b.height),
    );
    expect(hits).toEqual([]);
  });
});
