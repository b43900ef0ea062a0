import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { analyse } from "../analysis";
import { describeChange } from "./change-log";
import { cell, namedTable, TableBuilder } from "../data";
import { buildDataset } from "../dataset";
import { renameInFormula } from "../derive";
import { checkedName, renameVariable } from "./rename-variable";
import { replaceData } from "../dataset/replace-data";
import type { StudyDefinition } from "./definition";
import { madeStudy, normals, problemOf } from "../test-kit";

const N = 60;
const [x, w, e, f] = [41, 42, 43, 44].map((seed) => normals(N, seed)) as [
  number[],
  number[],
  number[],
  number[],
];
const q12 = x.map((v) => 10 + v);
const m = q12.map((v, i) => 0.5 * v + 0.3 * (v - 10) * w[i]! + e[i]!);
const columns = {
  q12,
  w,
  m,
  y: m.map((v, i) => 0.4 * v + f[i]!),
  team: x.map((_, i) => `t${i % 9}`),
  i1: x,
  i2: x.map((v) => v + 0.1),
};
const { definition: plain, table } = madeStudy({
  columns,
  theory:
    "measure scale averages i1, i2\nH1: w strengthens q12 to y through m on q12 to m # q12\nadjust y for q12_log",
  settings: { replications: 200, cluster: "team", probes: { w: ["percentile"] } },
  variables: { team: { level: "categorical" } },
});
const definition: StudyDefinition = {
  ...plain,
  derived: [
    { name: "q12_log", recipe: { kind: "formula", formula: 'ln(q12 + 1) + 0 * "q12"' } },
    { name: "q12_z", recipe: { kind: "standardise", of: "q12" } },
  ],
  filters: [
    {
      name: "far",
      active: true,
      rule: { kind: "condition", formula: "q12 > 12.5 and not missing(q12)" },
    },
  ],
  corrections: [{ column: "q12", row: 2, from: String(q12[1]), to: "11" }],
  screening: [{ name: "all", variables: ["q12", "w"] }],
};
const rename = (study: StudyDefinition, from: string, to: string): StudyDefinition => ({
  ...study,
  ...renameVariable(study, from, to),
});
const NAMES = ["q12", "w", "m", "y", "team", "i1", "i2", "q12_log", "q12_z", "scale"];
const numbers = (study: StudyDefinition): (number | null)[] =>
  analyse(study, table).effects.flatMap((one) => [
    one.estimate,
    one.shown?.lower ?? null,
    one.shown?.upper ?? null,
  ]);

describe("a variable called otherwise", () => {
  it("changes no number of the analysis", () => {
    const own = numbers(definition);
    for (const [from, to] of [
      ["q12", "hours a week"],
      ["w", "support"],
      ["team", "and"],
      ["q12_log", "log hours"],
    ] as const)
      expect(numbers(rename(definition, from, to))).toEqual(own);
  });

  it("is called so in every place, comments apart, and comes back when it is called as before", () => {
    fc.assert(
      fc.property(
        fc.constantFrom("q12", "w", "team", "i1", "q12_log"),
        fc.constantFrom("hours", "hours a week", "not", "Ärger", "a.b"),
        (from, to) => {
          const there = rename(definition, from, to);
          expect(
            JSON.stringify({
              ...there,
              theory: there.theory.replace(/#.*/, ""),
              variables: there.variables.map((v) => v.name),
            }),
          ).not.toMatch(new RegExp(`[^\\p{L}\\p{N}_]${from}[^\\p{L}\\p{N}_]`, "u"));
          const back = rename(there, to, from);
          const unquoted = (study: StudyDefinition): string =>
            JSON.stringify(study).replaceAll(`\\"${from}\\"`, from);
          expect(unquoted(back)).toBe(unquoted(definition));
        },
      ),
    );
  });

  it("keeps the data's own name, under which newer data are matched", () => {
    const there = rename(rename(definition, "q12", "hours"), "hours", "time");
    expect(there.variables.find((v) => v.name === "time")!.column).toBe("q12");
    const { definition: fitted, misfits } = replaceData(there, table, table);
    expect(misfits).toEqual([]);
    expect(fitted).toEqual(there);
    expect(buildDataset(fitted, table).table.columns[0]!.name).toBe("time");
    const lost = { ...table, columns: table.columns.slice(1) };
    expect(replaceData(there, table, lost).misfits[0]).toMatch(
      /no column “time”, which is used by the derived variable “q12_log”/,
    );
  });

  it("gives way to no other column: one that is really called so gets a number", () => {
    const there = rename(definition, "q12", "hours");
    const builder = new TableBuilder(["hours", "q12"]);
    builder.add(["1", "2"]);
    const named = namedTable(builder.build(), there.variables);
    expect(named.columns.map((c) => [c.name, cell(c, 0)])).toEqual([
      ["hours_2", "1"],
      ["hours", "2"],
    ]);
  });

  it("is one entry of the log, whatever else names it", () => {
    expect(describeChange(definition, rename(definition, "q12", "hours"))).toEqual([
      "q12 is called hours",
    ]);
    expect(describeChange(definition, rename(definition, "q12_z", "z"))).toEqual([
      "q12_z is called z",
    ]);
    const there = rename(definition, "q12", "hours");
    expect(describeChange(there, rename(there, "hours", "q12"))).toEqual(["hours is called q12"]);
  });

  it("refuses names that nothing could be called by", () => {
    expect(checkedName("  hours ", NAMES)).toBe("hours");
    for (const [name, why] of [
      [" ", "needs a name"],
      ["scale", "is the name of another column or measure"],
      ['a "b"', "quotation marks"],
    ] as const)
      expect(() => checkedName(name, NAMES)).toThrow(why);
  });

  it("makes the old name unknown", () =>
    expect(
      problemOf({ columns: { hours: x, y: w }, theory: "H1: q12 raises y" }).message,
    ).toContain("q12"));
});

describe("a column of a formula called otherwise", () => {
  it.each([
    ["q12 + q123", "a b", '"a b" + q123'],
    ["max(max, 1)", "m", "max(m, 1)"],
    ["if(q12 = 'q12', \"q12\", 0)", "and", `if("and" = 'q12', "and", 0)`],
    ["q12 +* 'open", "x", "q12 +* 'open"],
  ])("%s", (formula, to, expected) =>
    expect(renameInFormula(formula, formula.startsWith("max") ? "max" : "q12", to)).toBe(expected),
  );
});
