import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { guessVariable } from "./guess";
import { summarise } from "./summary";
import { TableBuilder, type TextColumn } from "./table";

function column(cells: string[]): TextColumn {
  const builder = new TableBuilder(["v"]);
  for (const cell of cells) builder.add([cell]);
  return builder.build().columns[0]!;
}

describe("the summary of a column", () => {
  it("counts every present value in some bar, whatever the level", () => {
    const cells = fc.array(
      fc.oneof(fc.integer({ min: -50, max: 50 }).map(String), fc.constant("")),
      { minLength: 1, maxLength: 80 },
    );
    fc.assert(
      fc.property(
        cells,
        fc.constantFrom("continuous" as const, "ordinal" as const, "categorical" as const),
        (list, level) => {
          const summary = summarise(column(list), { name: "v", level });
          const present = list.filter((cell) => cell !== "").length;
          expect(summary.missing).toBe(list.length - present);
          expect(summary.bars.reduce((sum, bar) => sum + bar.count, 0)).toBe(present);
        },
      ),
    );
  });

  it("names the first cell that is no number, and how many there are", () => {
    const summary = summarise(column(["1", "2", "two", "3", "two", "?"]), {
      name: "v",
      level: "continuous",
    });
    expect(summary.notNumeric).toEqual({ count: 3, example: "two", row: 3 });
    expect([summary.mean, summary.min, summary.max]).toEqual([2, 1, 3]);
  });

  it("puts the levels beyond a dozen and more into one bar, and shows none of an identifier", () => {
    const levels = Array.from({ length: 40 }, (_, i) => `level ${String(i).padStart(2, "0")}`);
    const { bars } = summarise(column(levels), { name: "v", level: "categorical" });
    expect(bars[0]).toEqual({ label: "level 00", count: 1 });
    expect(bars.at(-1)!.label).toMatch(/^\d+ more$/);
    expect(bars.reduce((sum, bar) => sum + bar.count, 0)).toBe(40);
    expect(summarise(column(levels), { name: "v", level: "identifier" }).bars).toEqual([]);
  });

  it("has no mean of nothing, no SD of one value, and sees what never varies", () => {
    expect(
      summarise(column(["", "NA"]), { name: "v", level: "continuous", missing: ["NA"] }),
    ).toMatchObject({
      mean: null,
      sd: null,
      missing: 2,
      bars: [],
    });
    expect(summarise(column(["4"]), { name: "v", level: "continuous" })).toMatchObject({
      mean: 4,
      sd: null,
    });
    expect(summarise(column(["4", "4", ""]), { name: "v", level: "continuous" }).constant).toBe(
      true,
    );
  });
});

describe("a guess about very many different cells", () => {
  it("reads an even choice of them, and misses no usual code for a missing answer", () => {
    const cells = Array.from({ length: 9000 }, (_, i) => String(i + 0.25));
    cells[4321] = "NA";
    const variable = guessVariable(column(cells));
    expect(variable.level).toBe("continuous");
    expect(variable.missing).toContain("NA");
  });
});
