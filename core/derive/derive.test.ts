import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { cell, TableBuilder } from "../data";
import { buildDataset, findVariable, tryRecipe } from "../dataset";
import { newDefinition } from "../study";
import { columnsOfFormula, formulaValues, readFormulaText, recipeWords, type Recipe } from ".";

const data: Record<string, number[]> = {
  a: [1, 2, NaN, 4],
  b: [10, 0, 5, -2],
  "two words": [1, 1, 1, 1],
};
const words = ["x", null, "it's", "x"];
const source = {
  rows: 4,
  numbers: (name: string) => Float64Array.from(data[name]!),
  texts: (name: string) => (row: number) =>
    name === "g" ? words[row]! : Number.isNaN(data[name]![row]!) ? null : String(data[name]![row]),
};
const values = (text: string): (number | null)[] =>
  Array.from(formulaValues(readFormulaText(text), source), (v) => (Number.isNaN(v) ? null : v));

describe("formulas", () => {
  it("sum and multiply as many terms as somebody writes, from left to right", () => {
    const many = (operator: string, term: string): string =>
      Array(10_000).fill(term).join(operator);
    expect(values(many(" + ", "a"))).toEqual([10_000, 20_000, null, 40_000]);
    expect(values(many(" * ", "1"))).toEqual([1, 1, 1, 1]);
    expect(values(many(" and ", "a > 1"))).toEqual([0, 1, null, 1]);
    expect(values(many(" or ", "a > 1"))).toEqual([0, 1, null, 1]);
    expect(values("8 / 4 / 2 * 3 - 1 - 1 - b")).toEqual([-9, 1, -4, 3]);
    expect(columnsOfFormula(readFormulaText(`${many(" + ", "a")} - b`))).toEqual(["a", "b"]);
  });

  it.each<[string, (number | null)[]]>([
    ["a + b * 2", [21, 2, null, 0]],
    ["-a^2", [-1, -4, null, -16]],
    ["2^3^2", [512, 512, 512, 512]],
    ['"two words" + 1', [2, 2, 2, 2]],
    ["a > 1 and b < 5", [0, 1, 0, 1]],
    ["a > 1 and b > 0", [0, 0, null, 0]],
    ["a > 1 or b = 5", [0, 1, 1, 1]],
    ["not a = 1", [0, 1, null, 1]],
    ["not not (a = 1)", [1, 0, null, 0]],
    ["if(b >= 0, ln(exp(b)), 0 - b)", [10, 0, 5, 2]],
    ["mean(a, b)", [5.5, 1, 5, 1]],
    ["sum(a, b) / count(a, b)", [5.5, 1, 5, 1]],
    ["max(a, 3)", [3, 3, 3, 4]],
    ["sd(1, 3)", [Math.SQRT2, Math.SQRT2, Math.SQRT2, Math.SQRT2]],
    ["missing(a)", [0, 0, 1, 0]],
    ["missing(a + b)", [0, 0, 1, 0]],
    ["round(b / 3, 2)", [3.33, 0, 1.67, -0.67]],
    ["sqrt(b)", [Math.sqrt(10), 0, Math.sqrt(5), null]],
    ["1 / b", [0.1, null, 0.2, -0.5]],
    ["g = 'x'", [1, null, 0, 1]],
    ["'it''s' != g", [1, null, 0, 1]],
    ["1.5e1 + .5", [15.5, 15.5, 15.5, 15.5]],
  ])("%s", (text, expected) => expect(values(text)).toEqual(expected));

  it.each([
    ["a +", /position 4.*missing at the end/],
    ["a b", /position 3.*“b” is not expected/],
    ["(a", /bracket is not closed/],
    ["foo(a)", /no function “foo”/],
    ["abs(a, b)", /takes 1 argument, not 2/],
    ["a < b < 3", /joined by “and”/],
    ["'x'", /can only be compared/],
    ["'x' < g", /compared with a column by = or !=/],
    ['"open', /never closed/],
    ["a ; b", /“;” has no meaning/],
    ["constructor(a)", /no function/],
    [`${"(".repeat(5000)}a`, /too deeply/],
  ])("refuses %s", (text, message) => expect(() => values(text)).toThrow(message));

  it("agree with the arithmetic of the language they are written in", () => {
    const leaf = fc.oneof(fc.integer({ min: 1, max: 99 }).map(String), fc.constantFrom("a", "b"));
    const node = fc.letrec<{ tree: string }>((tie) => ({
      tree: fc.oneof(
        { maxDepth: 4 },
        leaf,
        fc
          .tuple(tie("tree"), fc.constantFrom("+", "-", "*"), tie("tree"))
          .map(([l, o, r]) => `(${l} ${o} ${r})`),
      ),
    })).tree;
    fc.assert(
      fc.property(node, (text) => {
        const [a, b] = [2, 0];
        const direct = Function("a", "b", `return ${text}`)(a, b) as number;
        expect(values(text)[1]).toBeCloseTo(direct, 6);
      }),
    );
  });
});

function dataset(recipe: Recipe, rows = ["1", "2", "-99", "4", "10"]) {
  const builder = new TableBuilder(["x", "g"]);
  rows.forEach((text, i) => builder.add([text, ["low", "mid", "high"][i % 3]!]));
  const definition = {
    ...newDefinition("", [
      { name: "x", level: "continuous" as const, missing: ["-99"] },
      { name: "g", level: "categorical" as const, levels: ["low", "mid", "high"] },
    ]),
    derived: [{ name: "new", recipe }],
  };
  return buildDataset(definition, builder.build());
}

function made(recipe: Recipe, rows?: string[]): string[] {
  const built = dataset(recipe, rows);
  expect(built.problems).toEqual([]);
  const { column } = findVariable(built, "new")!;
  return Array.from({ length: built.table.rows }, (_, i) => cell(column, i));
}

describe("recipes", () => {
  it.each<[Recipe, string[]]>([
    [{ kind: "formula", formula: "x * 2" }, ["2", "4", "", "8", "20"]],
    [
      { kind: "recode", of: "x", map: { "1": "one", "10": "" }, otherwise: "keep" },
      ["one", "2", "", "4", ""],
    ],
    [
      { kind: "recode", of: "g", map: { low: "0", mid: "1" }, otherwise: "missing" },
      ["0", "1", "", "0", "1"],
    ],
    [{ kind: "reverse", of: "x", low: 0, high: 10 }, ["9", "8", "", "6", "0"]],
    [{ kind: "rescale", of: "x", per: 100 }, ["0.01", "0.02", "", "0.04", "0.1"]],
    [{ kind: "log", of: "x", base: "2", add: 0 }, ["0", "1", "", "2", String(Math.log2(10))]],
    [{ kind: "centre", of: "x" }, ["-3.25", "-2.25", "", "-0.25", "5.75"]],
    [{ kind: "rank", of: "x" }, ["1", "2", "", "3", "4"]],
    [{ kind: "winsorise", of: "x", lower: 0, upper: 75 }, ["1", "2", "", "4", "8.5"]],
    [{ kind: "split", of: "x", at: [50] }, ["low", "low", "", "high", "high"]],
    // A value on a cut belongs to the lower group: the 60 % point of 1, 2, 4, 10 is 4 itself.
    [{ kind: "split", of: "x", at: [60] }, ["low", "low", "", "low", "high"]],
    [{ kind: "split", of: "x", at: [25, 75] }, ["low", "middle", "", "middle", "high"]],
    [{ kind: "code", of: "g", coding: "indicator", index: 2 }, ["0", "0", "1", "0", "0"]],
    [{ kind: "code", of: "g", coding: "sequential", index: 1 }, ["0", "1", "1", "0", "1"]],
    [
      { kind: "code", of: "g", coding: "effect", index: 1, reference: "high" },
      ["1", "0", "-1", "1", "0"],
    ],
  ])("%j", (recipe, expected) => {
    expect(made(recipe)).toEqual(expected);
    expect(recipeWords(recipe)).not.toBe("");
  });

  it("standardise has mean 0 and SD 1 over the rows not left out", () => {
    const z = made({ kind: "standardise", of: "x" })
      .filter((t) => t !== "")
      .map(Number);
    expect(z.reduce((a, b) => a + b, 0)).toBeCloseTo(0, 12);
    expect(z.reduce((a, b) => a + b * b, 0) / 3).toBeCloseTo(1, 12);
  });

  it.each<[Recipe, RegExp]>([
    [
      { kind: "reverse", of: "x", low: 1, high: 5 },
      /“x” is 10 in row 5, beyond its scale from 1 to 5/,
    ],
    [{ kind: "log", of: "x", base: "e", add: -1 }, /“x” is 1 in row 1, and a logarithm needs/],
    [{ kind: "split", of: "x", at: [80, 20] }, /have to rise/],
    [{ kind: "centre", of: "hours" }, /no column “hours”/],
    [{ kind: "centre", of: "g" }, /holds names, not numbers/],
    [{ kind: "code", of: "g", coding: "indicator", index: 7 }, /no column 7/],
    [{ kind: "formula", formula: "new + 1" }, /go round in a circle/],
  ])("%j says what is wrong", (recipe, message) => {
    expect(dataset(recipe).problems[0]!.message).toMatch(message);
  });

  it("one may rest on another, and follows its source", () => {
    const builder = new TableBuilder(["x"]);
    for (const text of ["1", "2", "3"]) builder.add([text]);
    const definition = {
      ...newDefinition("", [{ name: "x", level: "continuous" as const }]),
      derived: [
        { name: "z", recipe: { kind: "formula" as const, formula: "y + 1" } },
        { name: "y", recipe: { kind: "formula" as const, formula: "x * 10" } },
      ],
    };
    const table = builder.build();
    const read = (corrected: typeof definition) => {
      const { column } = findVariable(buildDataset(corrected, table), "z")!;
      return [0, 1, 2].map((i) => cell(column, i));
    };
    expect(read(definition)).toEqual(["11", "21", "31"]);
    expect(
      read({
        ...definition,
        corrections: [{ column: "x", row: 2, from: "2", to: "5" }],
      } as typeof definition),
    ).toEqual(["11", "51", "31"]);
    expect(() =>
      tryRecipe(definition, table, { name: "y", recipe: { kind: "formula", formula: "z" } }),
    ).toThrow(/circle/);
  });
});
