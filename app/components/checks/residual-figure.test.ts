import { describe, expect, it } from "vitest";
import { csvOf } from "../figure/figure-tools";
import { residualTable } from "./residual-figure";
import { rowNames } from "./residual-picture";

describe("the numbers of residuals", () => {
  it("begin with the rows of largest influence, those without a residual first", () => {
    const table = residualTable({
      outcome: "y",
      rows: [4, 8, 9],
      fitted: [1, 2, 3],
      studentised: [0.1, null, -2],
      leverage: [0.1, 1, 0.2],
      cook: [0.01, null, 0.4],
    });
    expect(table.rows.map(([row]) => row)).toEqual(["8", "9", "4"]);
    expect(csvOf([table]).split("\r\n")[3]).toBe("9,3,-2,0.2,0.4");
  });
});

describe("names in the picture of residuals", () => {
  it("become one list where they would cover each other", () => {
    const names = [
      { x: 10, y: 10, words: "3" },
      { x: 20, y: 14, words: "9" },
      { x: 20, y: 60, words: "12" },
    ];
    expect(rowNames(names).map((n) => n.words)).toEqual(["3, 9", "12"]);
    expect(names[0]!.words).toBe("3");
  });
});
