import { describe, expect, it } from "vitest";
import { analyse } from "../analysis";
import { cell, TableBuilder, type Table, type Variable } from "../data";
import { buildDataset, findVariable, usesOf } from "./dataset";
import { findCell, rowsWhere, sortRows } from "./view";
import { describeChange, withLog } from "../study/change-log";
import { replaceData } from "./replace-data";
import { newDefinition, type StudyDefinition } from "../study";

function table(names: string[], rows: string[][]): Table {
  const builder = new TableBuilder(names);
  for (const row of rows) builder.add(row);
  return builder.build();
}
const numeric = (name: string): Variable => ({ name, level: "continuous" });
const texts = (from: Table, name: string): string[] => {
  const column = from.columns.find((c) => c.name === name)!;
  return Array.from({ length: from.rows }, (_, i) => cell(column, i));
};

const raw = table(
  ["id", "x", "i1", "i2"],
  [
    ["a", "1", "1", "5"],
    ["b", "2", "2", "4"],
    ["c", "999", "3", ""],
    ["d", "4", "5", "1"],
    ["e", "5", "4", "2"],
  ],
);
const definition: StudyDefinition = {
  ...newDefinition("t", [
    { name: "id", level: "identifier" },
    numeric("x"),
    numeric("i1"),
    numeric("i2"),
  ]),
  theory: "measure scale averages i1, reversed i2 on 1 to 5 with 50 % answered\nH1: x raises scale",
};

describe("the dataset", () => {
  it("leaves the raw data alone, corrects cells and makes scores", () => {
    const before = JSON.stringify(raw);
    const built = buildDataset(
      { ...definition, corrections: [{ column: "x", row: 3, from: "999", to: "3" }] },
      raw,
    );
    expect(texts(built.table, "x")).toEqual(["1", "2", "3", "4", "5"]);
    expect(built.table.columns[1]!.dictionary).not.toContain("999");
    expect(texts(built.table, "scale")).toEqual(["1", "2", "3", "5", "4"]);
    expect(built.origins.get("scale")).toBe("measure");
    expect(JSON.stringify(raw)).toBe(before);
  });

  it("leaves rows out by number and by condition, and brings them back when a filter is off", () => {
    const filters = [
      { name: "slip", active: true, rule: { kind: "condition" as const, formula: "x > 100" } },
      { name: "by hand", active: true, rule: { kind: "rows" as const, rows: [1, 77] } },
    ];
    const built = buildDataset({ ...definition, filters }, raw);
    expect([...built.included]).toEqual([1, 3, 4]);
    expect(built.excluded).toEqual([
      { filter: "slip", rows: [2] },
      { filter: "by hand", rows: [0] },
    ]);
    expect([
      ...buildDataset(
        { ...definition, filters: filters.map((f) => ({ ...f, active: false })) },
        raw,
      ).included,
    ]).toEqual([0, 1, 2, 3, 4]);
    const faulty = buildDataset(
      {
        ...definition,
        filters: [{ name: "f", active: true, rule: { kind: "condition", formula: "nothing > 1" } }],
      },
      raw,
    );
    expect(faulty.problems[0]!.message).toMatch(/no column “nothing”/);
    expect(faulty.included).toHaveLength(5);
  });

  it("feeds the model: filters and corrections change its sample", () => {
    const settings = { ...definition.settings, replications: 0 };
    const evidence = analyse(
      {
        ...definition,
        settings,
        filters: [{ name: "slip", active: true, rule: { kind: "rows", rows: [3] } }],
      },
      raw,
    );
    expect(evidence.sample).toMatchObject({
      rowsRead: 5,
      n: 4,
      dropped: [],
      excluded: [{ filter: "slip", rows: [3] }],
    });
    expect(evidence.warnings.map((w) => w.code)).toContain("rows_excluded");
  });

  it("reverses only with a known scale, and says which cell lies beyond it", () => {
    const without = buildDataset(
      { ...definition, theory: "measure scale averages i1, reversed i2" },
      raw,
    );
    expect(without.problems[0]!.message).toMatch(
      /“i2” cannot be reversed before its scale is known/,
    );
    const ranged = definition.variables.map((v) =>
      v.name === "i2" ? { ...v, range: [0, 4] as [number, number] } : v,
    );
    expect(
      buildDataset(
        { ...definition, variables: ranged, theory: "measure scale averages i1, reversed i2" },
        raw,
      ).problems[0]!.message,
    ).toMatch(/“i2” is 5 in row 1, beyond its scale from 0 to 4/);
  });

  it("keeps factors and composites as they are stated", () => {
    const factor = "measure f reflects i1, i2\nH1: x raises f";
    expect(buildDataset({ ...definition, theory: factor }, raw).measures[0]!.form).toBe("reflects");
    const theory = "measure f combines i1, i2\nH1: x raises f";
    expect(buildDataset({ ...definition, theory }, raw).measures[0]!.form).toBe("combines");
  });

  it("knows what uses a column", () => {
    const study = {
      ...definition,
      derived: [{ name: "d", recipe: { kind: "formula" as const, formula: "x + 1" } }],
    };
    expect(usesOf(study, "x", ["x", "i1", "i2"])).toEqual([
      "the derived variable “d”",
      "“H1: x raises scale”",
    ]);
    expect(usesOf(study, "scale", ["x", "i1", "i2"])).toEqual(["“H1: x raises scale”"]);
  });
});

describe("looking around", () => {
  const built = buildDataset(definition, raw);
  it("finds rows by a condition", () =>
    expect([...rowsWhere(built, "x < 4 and not missing(i2)")]).toEqual([0, 1]));
  it("sorts numbers, words and gaps, and keeps ties in order", () => {
    const { column, variable } = findVariable(built, "i2")!;
    const all = Int32Array.from([0, 1, 2, 3, 4]);
    expect([...sortRows(all, column, variable, false)]).toEqual([3, 4, 1, 0, 2]);
    expect([...sortRows(all, column, variable, true)]).toEqual([0, 1, 4, 3, 2]);
  });
  it("finds the next cell with a text, and goes round", () => {
    const order = Int32Array.from([0, 1, 2, 3, 4]);
    const first = findCell(built, order, ["x", "i1"], "5", null);
    expect(first).toEqual({ row: 3, column: 1 });
    expect(findCell(built, order, ["x", "i1"], "5", first)).toEqual({ row: 4, column: 0 });
    expect(findCell(built, order, ["x", "i1"], "5", { row: 4, column: 0 })).toEqual(first);
    expect(findCell(built, order, ["x"], "zebra", null)).toBeNull();
  });
});

describe("newer data", () => {
  const study = {
    ...definition,
    corrections: [{ column: "x", row: 3, from: "999", to: "3" }],
    filters: [{ name: "by hand", active: true, rule: { kind: "rows" as const, rows: [2, 4] } }],
  };
  it("moves filters and corrections along by the identifier", () => {
    const newer = table(
      ["id", "x", "i1", "i2", "age"],
      [
        ["c", "999", "3", ""],
        ["b", "2", "2", "4"],
        ["z", "7", "1", "1"],
      ].map((row) => [...row, "30"]),
    );
    const { definition: fitted, misfits, notes } = replaceData(study, raw, newer);
    expect(fitted.corrections).toEqual([{ column: "x", row: 1, from: "999", to: "3" }]);
    expect(fitted.filters[0]).toMatchObject({ active: true, rule: { rows: [2] } });
    expect(misfits).toEqual(["1 of the rows of “by hand” are not in the newer file."]);
    expect(notes).toEqual(["New columns: age.", "3 rows instead of 5."]);
  });
  it("reads decimal marks as they are in that file, and says so", () => {
    const comma = table(
      ["id", "x", "i1", "i2"],
      [
        ["a", "1,5", "2", "3"],
        ["b", "2,25", "1", "4"],
      ],
    );
    const there = replaceData(study, raw, comma);
    expect(there.misfits.join()).not.toContain("“x” is continuous");
    expect(there.notes).toContain("“x” is written with decimal commas in the newer file.");
    const x = there.definition.variables.find((v) => v.name === "x")!;
    expect(x.decimal).toBe(",");
    const point = table(
      ["id", "x", "i1", "i2"],
      [
        ["a", "1.5", "2", "3"],
        ["b", "2.25", "1", "4"],
      ],
    );
    const back = replaceData(there.definition, comma, point);
    expect(back.definition.variables.find((v) => v.name === "x")!.decimal).toBeUndefined();
    expect(back.notes).toContain("“x” is written with decimal points in the newer file.");
  });
  it("lists what no longer fits, and switches row filters off without an identifier", () => {
    const newer = table(["x", "i1"], [["much", "1"]]);
    const { definition: fitted, misfits } = replaceData(study, raw, newer);
    expect(fitted.filters[0]!.active).toBe(false);
    expect(fitted.corrections).toEqual([]);
    expect(misfits.join(" ")).toMatch(
      /no column “id”.*no column “i2”, which is used by “measure scale averages.*“x” is continuous, but the newer file has “much”/,
    );
  });
});

describe("the log", () => {
  it("says what changed in data, variables and measures, and nothing of hypotheses", () => {
    const after: StudyDefinition = {
      ...definition,
      variables: definition.variables.map((v) =>
        v.name === "x" ? { ...v, level: "ordinal", missing: ["999"] } : v,
      ),
      derived: [{ name: "lx", recipe: { kind: "log", of: "x", base: "e", add: 0 } }],
      corrections: [{ column: "x", row: 3, from: "999", to: "3" }],
      filters: [{ name: "odd", active: true, rule: { kind: "rows", rows: [2] } }],
      theory: "measure scale averages i1, i2\nH1: x lowers scale",
    };
    expect(describeChange(definition, after)).toEqual([
      "x: level changed from continuous to ordinal",
      "x: missing codes is 999",
      "new variable lx: natural logarithm of x",
      "x in row 3 corrected from “999” to “3”",
      "left out as “odd”: row 2",
      "measure scale now averages i1, i2",
    ]);
    expect(describeChange(after, definition)).toContain("filter “odd” removed; its rows are back");
    expect(
      withLog(
        definition,
        { ...definition, theory: `${definition.theory}\nH2: i1 raises x` },
        "now",
        "",
      ).log,
    ).toEqual([]);
    expect(
      withLog(definition, { ...definition, filters: after.filters }, "now", "too far").log,
    ).toEqual([{ when: "now", what: "left out as “odd”: row 2", why: "too far" }]);
  });
});

describe("newer data that do not suit what was said of the columns", () => {
  const older = table(
    ["sex", "site", "age"],
    [
      ["f", "north", "30"],
      ["m", "south", "40"],
    ],
  );
  const said: StudyDefinition = {
    ...newDefinition("t", [
      { name: "sex", level: "binary" },
      { name: "site", level: "categorical", levels: ["north", "south"] },
      { name: "age", level: "continuous" },
    ]),
  };
  const misfits = (rows: string[][]): string[] =>
    replaceData(said, older, table(["sex", "site", "age"], rows)).misfits;

  it("are told by column: a third value, a new level, words among numbers", () => {
    const found = misfits([
      ["f", "north", "30"],
      ["m", "west", "old"],
      ["x", "south", "young"],
      ["f", "south", "ripe"],
      ["f", "south", "new"],
    ]);
    expect(found).toEqual([
      "“sex” is binary, but the newer file has 3 different values in it.",
      "“site” has new levels in the newer file: west.",
      "“age” is continuous, but the newer file has “old”, “young”, “ripe”, … in it.",
    ]);
  });

  it("say nothing when they suit", () => expect(misfits([["m", "south", "55"]])).toEqual([]));
});
