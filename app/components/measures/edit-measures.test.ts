import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { parseTheory, type Measure } from "../../../core";
import {
  addMeasure,
  formed,
  freeFactors,
  freeName,
  itemsFor,
  measuresMade,
  reliable,
  removeMeasure,
  renameMeasure,
  rewriteMeasure,
  scaled,
  turnItem,
  VARIANCE,
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

/** A line as it stands after a change, which must be readable. */
function after(line: string, change: (measure: Measure) => Measure): string {
  const theory = rewriteMeasure(line, change(first(line)));
  expect(parseTheory(theory, COLUMNS).complaints).toEqual([]);
  return theory;
}

describe("a measure that is made otherwise", () => {
  const WAYS = [
    "measure a averages a1, a2 on 1 to 5 with 60 % answered",
    "measure a sums a1, reversed a2 on 1 to 5",
    "measure a combines a1, a2 weighted by regression signed by a2",
    "measure a combines a1, a2 weighted equally",
    "measure a reflects a1, a2 signed by a1 scaled by a2",
    "measure a reflects a1, a2 with variance 1",
    "measure a reflects a1 with reliability 0.8",
  ];
  const FORMS = ["averages", "sums", "reflects", "combines"] as const;
  it.each(WAYS.flatMap((line) => FORMS.map((form) => [line, form] as const)))(
    "%s: %s",
    (line, form) => {
      const made = after(line, (measure) => formed(measure, form));
      expect(made).toContain(`measure a ${form} a1`);
      if (line.includes(` ${form} `)) expect(made).toBe(line);
    },
  );

  it("keeps its direction where both kinds have one, and nothing else of its kind", () => {
    expect(after(WAYS[2]!, (m) => formed(m, "reflects"))).toBe(
      "measure a reflects a1, a2 signed by a2",
    );
    expect(after(WAYS[4]!, (m) => formed(m, "combines"))).toBe(
      "measure a combines a1, a2 signed by a1",
    );
  });
});

describe("the scale of a factor", () => {
  const line = "measure a reflects a1, a2, a3";
  it("comes from an item, from a variance of one, or from the settings again", () => {
    const byItem = after(line, (m) => scaled(m, "a2"));
    expect(byItem).toBe(`${line} scaled by a2`);
    const byVariance = after(byItem, (m) => scaled(m, VARIANCE));
    expect(byVariance).toBe(`${line} with variance 1`);
    expect(after(byVariance, (m) => scaled(m, ""))).toBe(line);
  });

  it("is that of a single item with the reliability it is known to have, until there is another", () => {
    const single = "measure a reflects a1";
    const known = after(single, (m) => reliable(m, 0.75));
    expect(known).toBe(`${single} with reliability 0.75`);
    expect(after(known, (m) => reliable(m, null))).toBe(single);
    expect(after(known, (m) => withItem(m, "a2"))).toBe("measure a reflects a1, a2");
  });
});

describe("what may become an item", () => {
  const theory = [
    "measure a reflects a1, a2",
    "measure b reflects b1, b2",
    "measure c reflects a, a3",
    "measure d averages x, y",
  ].join("\n");
  const measures = measuresOf(theory);
  const named = (name: string): Measure => measures.find((m) => m.name.name === name)!;

  it("is a free column, and for a factor another factor that belongs to none yet", () => {
    expect(itemsFor(named("b"), measures, ["two words"])).toEqual(["two words", "c"]);
    expect(itemsFor(named("c"), measures, ["two words"])).toEqual(["two words", "b"]);
    expect(itemsFor(named("d"), measures, ["two words"])).toEqual(["two words"]);
  });

  it("are factors of no other for a new one of second order", () => {
    expect(freeFactors(measures)).toEqual(["b", "c"]);
    const made = addMeasure(theory, measures, "whole", ["b", "c"], "reflects");
    expect(parseTheory(made, COLUMNS).complaints).toEqual([]);
    expect(made.split("\n")[4]).toBe("measure whole reflects b, c");
  });

  it("is never a factor that the measure stands behind, by whatever way", () => {
    expect(itemsFor(named("a"), measures, [])).toEqual(["b"]);
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

describe("measures made of factors", () => {
  const theory = [
    "measure belonging averages b1, b2, b3",
    "measure trust averages t1, t2",
    "H1: hours raises trust through belonging",
  ].join("\n");
  const { statements } = parseTheory(theory, ["b1", "b2", "b3", "t1", "t2", "x", "hours"]);
  const measures = statements.filter((s) => s.kind === "measure");
  const item = (name: string, reversed = false) => ({ item: name, reversed });

  it("an item leaves its measure, a name that stays keeps its place, what is reversed has its scale", () => {
    const made = [
      { name: "trust", items: [item("t1"), item("t2", true), item("b3")] },
      { name: "other", items: [item("x"), item("b1")] },
    ];
    expect(measuresMade(theory, measures, made, "averages", () => [1, 5])).toBe(
      [
        "measure belonging averages b2",
        "measure trust averages t1, reversed t2, b3 on 1 to 5",
        "measure other averages x, b1",
        "H1: hours raises trust through belonging",
      ].join("\n"),
    );
  });

  it("a measure that is left without items goes", () => {
    const made = [{ name: "all", items: ["b1", "b2", "b3"].map((name) => item(name)) }];
    expect(measuresMade(theory, measures, made, "reflects", () => null).split("\n")).toEqual([
      "measure trust averages t1, t2",
      "measure all reflects b1, b2, b3",
      "H1: hours raises trust through belonging",
    ]);
  });
});
