import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { parseTheory, type Measure } from "../../../core";
import {
  addMeasure,
  freeName,
  removeMeasure,
  renameMeasure,
  rewriteMeasure,
  turnItem,
  withItem,
  withoutItem,
} from "./edit-measures";

const COLUMNS = ["a1", "a2", "a3", "b1", "b2", "x", "y", "two words"];
const measuresOf = (theory: string): Measure[] =>
  parseTheory(theory, COLUMNS).statements.filter((s): s is Measure => s.kind === "measure");
const first = (theory: string): Measure => measuresOf(theory)[0]!;
const items = (measure: Measure): string[] => measure.items.map((i) => i.ref.name);

const HYPOTHESIS = "H1: x raises a";
const THEORY = `measure a averages a1, a2\n${HYPOTHESIS}`;

describe("an item that settles something else besides", () => {
  it.each([
    "measure a combines a1, a2, b1 weighted by regression signed by a2",
    "measure a reflects a1, a2, b1 scaled by a2",
    "measure a reflects a1, a2, b1 signed by a2",
  ])("leaves a measure that can be read when it goes: %s", (line) => {
    const theory = rewriteMeasure(line, withoutItem(first(line), "a2"));
    expect(parseTheory(theory, COLUMNS).complaints).toEqual([]);
    expect(theory).not.toContain("a2");
    const kept = rewriteMeasure(line, withoutItem(first(line), "b1"));
    expect(kept).toBe(line.replace(", b1", ""));
  });
});

describe("editing measures in the theory", () => {
  it("writes a new measure above the hypotheses, and removing it gives the theory back", () => {
    fc.assert(
      fc.property(
        fc.subarray(COLUMNS, { minLength: 2 }),
        fc.constantFrom("b", "my scale", "averages"),
        (chosen, name) => {
          const theory = addMeasure(THEORY, measuresOf(THEORY), name, chosen);
          const made = measuresOf(theory)[1]!;
          expect([made.name.name, items(made), made.line]).toEqual([name, chosen, 2]);
          expect(theory.split("\n").at(-1)).toBe(HYPOTHESIS);
          expect(removeMeasure(theory, made)).toBe(THEORY);
        },
      ),
    );
  });

  it("begins an empty theory", () =>
    expect(addMeasure(" ", [], "a", ["a1", "a2"])).toBe("measure a averages a1, a2"));

  it("adds an item once, takes it out again and leaves other lines alone", () => {
    const more = withItem(withItem(first(THEORY), "a3"), "a3");
    expect(items(more)).toEqual(["a1", "a2", "a3"]);
    expect(rewriteMeasure(THEORY, more)).toBe(`measure a averages a1, a2, a3\n${HYPOTHESIS}`);
    expect(rewriteMeasure(THEORY, withoutItem(more, "a3"))).toBe(THEORY);
  });

  it("turns an item round on the scale that was seen, and keeps a scale that was stated", () => {
    const turned = rewriteMeasure(THEORY, turnItem(first(THEORY), "a2", [1, 7]));
    expect(first(turned)).toMatchObject({
      scale: [1, 7],
      items: [{ reversed: false }, { reversed: true }],
    });
    const again = turnItem(first(turned), "a1", [2, 6]);
    expect(again.scale).toEqual([1, 7]);
    expect(turnItem(again, "a1", null).items[0]!.reversed).toBe(false);
  });

  it("renames a measure wherever it is named", () =>
    expect(renameMeasure(THEORY, first(THEORY), "courage")).toBe(
      "measure courage averages a1, a2\nH1: x raises courage",
    ));

  it("finds a name that is free", () => {
    expect(freeName("a", ["b"])).toBe("a");
    expect(freeName("a", ["a"])).toBe("a_scale");
    expect(freeName("a", ["a", "a_scale", "a_scale_2"])).toBe("a_scale_3");
  });
});
