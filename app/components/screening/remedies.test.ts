import { describe, expect, it } from "vitest";
import { newDefinition, type StudyDefinition } from "../../../core";
import { withFilter } from "../data/filters";
import { remedyPatch } from "./remedies";

/** What people read; it changes nothing. */
const SAID = { words: "", why: "" };
const COLUMNS = ["a1", "a2", "x"];
const definition: StudyDefinition = {
  ...newDefinition(
    "",
    COLUMNS.map((name) => ({
      name,
      level: "continuous" as const,
      missing: name === "x" ? ["-99"] : [],
    })),
  ),
  theory: "measure a averages a1, a2\nH1: x raises a",
  filters: [{ name: "twice answered", active: false, rule: { kind: "rows", rows: [5, 9] } }],
};

describe("a remedy", () => {
  it("leaves rows out by a named filter; one of the same name takes them in and is active again", () => {
    const fresh = remedyPatch(
      { kind: "exclude", filter: "too fast", rows: [3], ...SAID },
      definition,
      COLUMNS,
    );
    expect(fresh.filters).toEqual([
      ...definition.filters,
      { name: "too fast", active: true, rule: { kind: "rows", rows: [3] } },
    ]);
    const joined = remedyPatch(
      { kind: "exclude", filter: "twice answered", rows: [9, 2], ...SAID },
      definition,
      COLUMNS,
    );
    expect(joined.filters).toEqual([
      { name: "twice answered", active: true, rule: { kind: "rows", rows: [2, 5, 9] } },
    ]);
  });

  it("does not touch a filter of that name that works by a condition", () => {
    const filters = withFilter(
      [{ name: "young", active: true, rule: { kind: "condition", formula: "x < 20" } }],
      "young",
      {
        kind: "rows",
        rows: [1],
      },
    );
    expect(filters.map((f) => f.name)).toEqual(["young", "young 2"]);
    expect(
      withFilter(filters, "young", { kind: "condition", formula: "x < 18" }).map((f) => f.name),
    ).toEqual(["young", "young 2", "young 3"]);
  });

  it("declares missing codes once, beside those known", () => {
    const { variables } = remedyPatch(
      { kind: "missing_codes", variable: "x", codes: ["-99", "999"], ...SAID },
      definition,
      COLUMNS,
    );
    expect(variables!.find((v) => v.name === "x")!.missing).toEqual(["-99", "999"]);
    expect(variables!.find((v) => v.name === "a1")).toBe(definition.variables[0]);
  });

  it("makes a variable, or makes it anew", () => {
    const remedy = {
      kind: "derive" as const,
      name: "log_x",
      recipe: { kind: "log" as const, of: "x", base: "e" as const, add: 0 },
      ...SAID,
    };
    const once = remedyPatch(remedy, definition, COLUMNS).derived!;
    expect(remedyPatch(remedy, { ...definition, derived: once }, COLUMNS).derived).toEqual([
      { name: "log_x", recipe: remedy.recipe },
    ]);
  });

  it("turns an item of a measure round in the theory, and does nothing when the measure has gone", () => {
    expect(
      remedyPatch({ kind: "reverse", measure: "a", item: "a2", ...SAID }, definition, COLUMNS)
        .theory,
    ).toBe("measure a averages a1, reversed a2\nH1: x raises a");
    expect(
      remedyPatch({ kind: "reverse", measure: "gone", item: "a2", ...SAID }, definition, COLUMNS),
    ).toEqual({});
  });
});
