import { describe, expect, it } from "vitest";
import type { TableRowSpec } from "./number-table";
import { limitsCell } from "../structure/cells";
import { exportedTable } from "./cell";
import { exportedCell } from "./number-table";
import { tableHtml, tableText } from "./table-tools";

const rows: TableRowSpec[] = [
  { key: "a", cells: ["a < b & c", 0.12345, { shown: "< .001", value: 0.0000123 }, null] },
  { key: "b", cells: [{ shown: "b", value: "b" }, NaN, { shown: ".042", value: 0.04217 }, "–"] },
];
const heads = ["effect", "estimate", "p", ""];

describe("a table taken along", () => {
  it("is copied as it is read: rounded alike, nothing for what is not known", () => {
    expect(tableText(heads, rows)).toBe(
      "effect\testimate\tp\t\na < b & c\t0.123\t< .001\t\nb\t\t.042\t–",
    );
  });

  it("pastes as a table: marks of HTML are text, a row of heads, a rule at the end", () => {
    const html = tableHtml("One & two", heads, rows);
    expect(html).toContain('<caption style="text-align:left">One &amp; two</caption>');
    expect(html).toContain(">a &lt; b &amp; c</td>");
    expect(html.match(/<th /g)).toHaveLength(4);
    expect(html.match(/<tr>/g)).toHaveLength(3);
    expect(html.lastIndexOf("border-bottom:1px solid")).toBeGreaterThan(html.lastIndexOf("<tr>"));
  });

  it("has limits in two columns of a file and in one as it is copied, and no empty column", () => {
    const limits = (lower: number, upper: number) => limitsCell(lower, upper);
    const table = [
      { key: "a", cells: ["a", limits(-0.123456, 0.5), 1, null] },
      { key: "b", cells: ["b", "not known", 2, ""] },
    ];
    const names = ["effect", "95 % CI", "n", ""];
    expect(exportedTable(names, table)).toEqual({
      heads: ["effect", "95 % CI lower", "95 % CI upper", "n"],
      rows: [
        ["a", -0.123456, 0.5, 1],
        ["b", "not known", null, 2],
      ],
    });
    expect(tableText(names, table)).toContain("a\t−0.123 to 0.500\t1.000");
  });

  it("is exported in full, and never with a number that is none", () => {
    expect(rows.map(({ cells }) => cells.map(exportedCell))).toEqual([
      ["a < b & c", 0.12345, 0.0000123, null],
      ["b", null, 0.04217, "–"],
    ]);
  });
});
