import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  codeColumns,
  guessVariable,
  listwiseSample,
  packTable,
  parseNumber,
  summarise,
  TableBuilder,
  typedColumn,
  unpackTable,
  type Coding,
} from ".";

function columnOf(cells: string[], name = "x") {
  const builder = new TableBuilder([name]);
  for (const cell of cells) builder.add([cell]);
  return builder.build().columns[0]!;
}
const repeat = (cells: string[], times: number): string[] =>
  Array.from({ length: times }, () => cells).flat();

describe("numbers in cells", () => {
  it.each([
    ["1.5", ".", 1.5],
    ["-3", ".", -3],
    ["−3", ".", -3],
    ["1e-3", ".", 0.001],
    ["1,234.5", ".", 1234.5],
    ["1 234", ".", 1234],
    ["1,5", ",", 1.5],
    ["1.234,5", ",", 1234.5],
    [" 7 ", ".", 7],
  ] as const)("%s with %s is %d", (text, decimal, value) =>
    expect(parseNumber(text, decimal)).toBe(value),
  );
  it.each([
    ["1,5", "."],
    ["1.5", ","],
    ["abc", "."],
    ["", "."],
    ["1e999", "."],
    ["0x10", "."],
    ["1.2.3", "."],
  ] as const)("%s with %s is none", (text, decimal) =>
    expect(parseNumber(text, decimal)).toBeNaN(),
  );
  it("reads back what JavaScript writes", () => {
    fc.assert(
      fc.property(fc.double({ noNaN: true, noDefaultInfinity: true }), (x) => {
        expect(parseNumber(String(x))).toBe(Number(String(x)));
      }),
    );
  });
});

describe("guessing", () => {
  it.each([
    [repeat(["1", "2", "3", "4", "5"], 20), "ordinal"],
    [repeat(["0", "1"], 20), "binary"],
    [repeat(["yes", "no", ""], 20), "binary"],
    [repeat(["a", "b", "c"], 20), "categorical"],
    [Array.from({ length: 50 }, (_, i) => String(i / 10)), "continuous"],
  ])("case %#: %s", (cells, level) => expect(guessVariable(columnOf(cells)).level).toBe(level));

  it.each(["#", "Nr.", "No", "Lfd. Nr", "nr", "Index"])(
    "takes “%s” that counts the rows for an identifier, and for nothing else",
    (name) => {
      const level = (texts: string[]) => guessVariable(columnOf(texts, name)).level;
      const counted = Array.from({ length: 4000 }, (_, i) => String(i + 1));
      expect(level(counted)).toBe("identifier");
      expect(level(counted.slice(0, 12).reverse())).toBe("identifier");
      expect(level(["101", "102", "103"])).toBe("identifier");
      // Amounts, and answers that repeat.
      expect(level(["1", "2", "4", "9", "12"])).not.toBe("identifier");
      expect(level(["1", "2", "3", "3", "1"])).not.toBe("identifier");
      expect(guessVariable(columnOf(counted, "answers")).level).toBe("continuous");
    },
  );

  it("takes a name with its own value in every row for an identifier", () => {
    expect(
      guessVariable(
        columnOf(
          Array.from({ length: 40 }, (_, i) => `P${i}`),
          "id",
        ),
      ).level,
    ).toBe("identifier");
  });
  it("sees decimal commas and missing codes, but not -99 among other negatives", () => {
    expect(guessVariable(columnOf(["1,5", "2,25", "NA", "3"]))).toMatchObject({
      decimal: ",",
      missing: ["NA"],
    });
    expect(guessVariable(columnOf(["5", "-99", "12", "9.5"])).missing).toEqual(["-99"]);
    expect(guessVariable(columnOf(["-5", "-99", "12", "9.5"])).missing).toBeUndefined();
  });
});

describe("typed columns", () => {
  it("names column and row of a cell that is no number", () => {
    expect(() =>
      typedColumn(columnOf(["1", "2", "tow"]), { name: "x", level: "continuous" }),
    ).toThrow(/“tow” in column “x”, row 3/);
  });
  it("lets the researcher choose which level is 1", () => {
    const column = columnOf(["no", "yes", ""]);
    expect([...typedColumn(column, { name: "x", level: "binary" }).values]).toEqual([0, 1, NaN]);
    expect([...typedColumn(column, { name: "x", level: "binary", one: "no" }).values]).toEqual([
      1,
      0,
      NaN,
    ]);
  });
  it("refuses three levels in a binary column", () => {
    expect(() => typedColumn(columnOf(["a", "b", "c"]), { name: "x", level: "binary" })).toThrow(
      /3 different values/,
    );
  });
});

describe("codes", () => {
  it.each<Coding>(["indicator", "sequential", "helmert", "effect"])(
    "%s coding spans the group means: k - 1 independent columns",
    (coding) => {
      for (const k of [2, 3, 5]) {
        const columns = codeColumns(
          "g",
          Array.from({ length: k }, (_, i) => `l${i}`),
          coding,
        );
        expect(columns).toHaveLength(k - 1);
        // With the constant the columns form a k x k matrix of full rank: no combination of them is
        // zero.
        const rows = Array.from({ length: k }, (_, i) => [1, ...columns.map((c) => c.codes[i]!)]);
        expect(Math.abs(determinant(rows))).toBeGreaterThan(1e-9);
      }
    },
  );
  it("refuses one level and an unknown reference", () => {
    expect(() => codeColumns("g", ["a"], "indicator")).toThrow(/only the level/);
    expect(() => codeColumns("g", ["a", "b"], "indicator", "z")).toThrow(/does not occur/);
  });
});

function determinant(m: number[][]): number {
  if (m.length === 1) return m[0]![0]!;
  return m[0]!.reduce(
    (sum, value, j) =>
      sum +
      (j % 2 ? -1 : 1) *
        value *
        determinant(m.slice(1).map((row) => row.filter((_, i) => i !== j))),
    0,
  );
}

it("the sample keeps exactly the complete rows", () => {
  const cells = fc.array(
    fc.tuple(fc.option(fc.nat(5), { nil: null }), fc.option(fc.nat(5), { nil: null })),
    {
      minLength: 1,
      maxLength: 30,
    },
  );
  fc.assert(
    fc.property(cells, (rows) => {
      const column = (j: 0 | 1) => ({
        name: `v${j}`,
        levels: null,
        values: Float64Array.from(rows, (r) => r[j] ?? NaN),
      });
      const complete = rows.flatMap((r, i) => (r[0] !== null && r[1] !== null ? [i] : []));
      const everyRow = { table: { rows: rows.length }, included: Int32Array.from(rows.keys()) };
      if (complete.length === 0)
        expect(() => listwiseSample([column(0), column(1)], everyRow)).toThrow(
          /No row is complete/,
        );
      else expect([...listwiseSample([column(0), column(1)], everyRow).rows]).toEqual(complete);
    }),
  );
});

it("summaries count every present cell once", () => {
  const summary = summarise(columnOf([...repeat(["1", "2", "2"], 10), "", "-99"]), {
    name: "x",
    level: "continuous",
    missing: ["-99"],
  });
  expect(summary).toMatchObject({
    rows: 32,
    missing: 2,
    distinct: 2,
    mean: expect.closeTo(5 / 3, 12),
    min: 1,
    max: 2,
  });
  expect(summary.bars).toEqual([
    { label: "1", count: 10 },
    { label: "2", count: 20 },
  ]);
});

it("a table gives every cell back, however many differ, packed or not", () => {
  const cells = Array.from({ length: 9000 }, (_, i) => (i % 5 === 0 ? "" : `${(i * 7919) % 8009}`));
  const builder = new TableBuilder(["x", "few"]);
  cells.forEach((text, i) => builder.add([text, String(i % 3)]));
  const table = builder.build();
  for (const each of [
    table,
    unpackTable(packTable(table)),
    unpackTable(packTable(unpackTable(packTable(table)))),
  ]) {
    expect(each.columns.map((c) => c.name)).toEqual(["x", "few"]);
    expect(Array.from(each.columns[0]!.codes, (code) => each.columns[0]!.dictionary[code])).toEqual(
      cells,
    );
    expect(each.columns[1]!.dictionary).toEqual(["0", "1", "2"]);
  }
  expect(summarise(table.columns[0]!, { name: "x", level: "continuous" }).distinct).toBe(
    new Set(cells.filter((t) => t)).size,
  );
});
