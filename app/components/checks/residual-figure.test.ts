import type { ChartConfiguration } from "chart.js";
import { describe, expect, it } from "vitest";
import { LOOKS } from "../../theme/tokens";
import { csvOf } from "../figure/figure-tools";
import { residualTable } from "./residual-figure";
import { quantilePlot, residualPlot, rowNames } from "./residual-plots";

describe("the numbers of residuals", () => {
  it("begin with the rows of largest influence, those without a residual first", () => {
    const table = residualTable({
      outcome: "y",
      rows: [4, 8, 9],
      fitted: [1, 2, 3],
      studentised: [0.1, null, -2],
      normal: [0.5, null, -0.5],
      leverage: [0.1, 1, 0.2],
      cook: [0.01, null, 0.4],
    });
    expect(table.rows.map(([row]) => row)).toEqual(["8", "9", "4"]);
    expect(csvOf([table]).split("\r\n")[3]).toBe("9,3,-2,-0.5,0.2,0.4");
  });
});

describe("names in the picture of residuals", () => {
  it("become one list where they would cover each other", () => {
    const dots = [
      { x: 10, y: 10, row: 3 },
      { x: 14, y: 14, row: 9 },
      { x: 14, y: 60, row: 12 },
    ];
    const names = rowNames(dots, [0, 100], [0, 100]);
    expect(names.map((n) => n.text)).toEqual(["3, 9", "12"]);
  });

  it("stand before a dot at the right edge", () => {
    const [inside, edge] = rowNames(
      [
        { x: 50, y: 1, row: 1 },
        { x: 99, y: 1, row: 2 },
      ],
      [0, 100],
      [0, 2],
    );
    expect([inside!.align, edge!.align]).toEqual(["left", "right"]);
    expect(edge!.shift[0]).toBeLessThan(0);
  });
});

describe("the plots of residuals", () => {
  const residuals = {
    outcome: "y",
    rows: [4, 8, 9],
    fitted: [1, 2, 3],
    studentised: [0.1, null, -2],
    normal: [0.5, null, -0.5],
    leverage: [0.1, 1, 0.2],
    cook: [0.01, null, 0.4],
  };
  const dots = (config: ChartConfiguration) =>
    config.data.datasets.slice(0, 2).map(({ data }) => data);

  it("show every row with a residual, the named ones on top", () => {
    expect(dots(residualPlot(residuals, new Set([9]))(LOOKS.light))).toEqual([
      [{ x: 3, y: -2, row: 9 }],
      [{ x: 1, y: 0.1, row: 4 }],
    ]);
  });

  it("set residuals against the quantiles of a normal distribution", () => {
    expect(dots(quantilePlot(residuals, new Set())(LOOKS.light))[1]).toEqual([
      { x: 0.5, y: 0.1, row: 4 },
      { x: -0.5, y: -2, row: 9 },
    ]);
  });
});
