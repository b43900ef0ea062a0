import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { guessVariable, suspectedCodes, TableBuilder, type Variable } from ".";

/** Columns by name, filled up by empty cells. */
function suspected(columns: Record<string, (string | number)[]>, own: Partial<Variable> = {}) {
  const names = Object.keys(columns);
  const builder = new TableBuilder(names);
  const rows = Math.max(...Object.values(columns).map((c) => c.length));
  for (let i = 0; i < rows; i++) builder.add(names.map((n) => String(columns[n]![i] ?? "")));
  const table = builder.build();
  return suspectedCodes(
    table.columns,
    table.columns.map((c) => ({ ...guessVariable(c), ...own })),
  );
}

const SCALE = [1, 2, 3, 4, 5, 6, 7, 3, 4, 5];

describe("codes for no answer", () => {
  it("are numbers of that look far beyond the others, column by column", () => {
    expect(
      suspected({
        trust1: [...SCALE, 99],
        trust2: SCALE,
        trust3: [...SCALE, 99, 88],
        age: [18, 44, 71, 999],
        born: [1951, 1980, 1999, 2004],
      }),
    ).toEqual([
      { code: "88", columns: ["trust3"] },
      { code: "99", columns: ["trust1", "trust3"] },
      { code: "999", columns: ["age"] },
    ]);
  });

  it("are below zero where nothing else is", () => {
    expect(suspected({ yes: [0, 1, 1, 0, -9], income: [0, 1200, 5300, -1, -2] })).toEqual([
      { code: "-9", columns: ["yes"] },
      { code: "-2", columns: ["income"] },
      { code: "-1", columns: ["income"] },
    ]);
    expect(suspected({ rating: [1, 2, 3, 4, 5, -1], grade: [1, 2, 6, -8, -9] })).toEqual([
      { code: "-9", columns: ["grade"] },
      { code: "-8", columns: ["grade"] },
      { code: "-1", columns: ["rating"] },
    ]);
  });

  it("are no answers of a scale with two sides", () => {
    expect(suspected({ mood: [-3, -2, -1, 0, 1, 2, 3], mark: [-2, -1, 1, 2] })).toEqual([]);
    expect(suspected({ temperature: [-12.5, 7, -9], mood: [-3, -2, 2, 3, -9] })).toEqual([]);
  });

  it("are no answers that may well be: an age of 99, an income of 9999, a mark in hundredths", () => {
    expect(
      suspected({ age: [18, 44, 71, 99], income: [0, 5200, 9999], mark: [55, 61, 88, 99] }),
    ).toEqual([]);
  });

  it("are not asked about twice, nor in names, words and columns of codes alone", () => {
    expect(suspected({ trust: [...SCALE, 99] }, { missing: ["99"] })).toEqual([]);
    expect(suspected({ trust: [...SCALE, 99] }, { level: "identifier" })).toEqual([]);
    expect(suspected({ word: ["a", "b", "99"], one: [1, 1, 99], none: [99, 99] })).toEqual([]);
  });

  it("read numbers with a decimal comma", () => {
    expect(suspected({ hours: ["1,5", "2,5", "4", "99"] })).toEqual([
      { code: "99", columns: ["hours"] },
    ]);
  });

  it("do not depend on the order of rows", () => {
    const cells = [...SCALE, 99, 88, 97];
    fc.assert(
      fc.property(fc.shuffledSubarray(cells, { minLength: cells.length }), (shuffled) => {
        expect(suspected({ x: shuffled }).map((s) => s.code)).toEqual(["88", "97", "99"]);
      }),
      { numRuns: 30 },
    );
  });
});
