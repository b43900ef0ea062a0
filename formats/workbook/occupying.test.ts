import { describe, expect, it } from "vitest";
import { odsParts, xlsxParts, zipped } from "../../bench/hostile/tables";
import { openData, readData } from "..";

const read = (bytes: Uint8Array) => {
  const opened = openData(bytes);
  if (opened.kind !== "data") throw new Error("a study");
  return readData(opened.source, opened.layout);
};

/** A workbook whose one sheet has these rows, as markup. */
const sheetOf = (rows: string): Uint8Array => {
  const parts = xlsxParts({ names: ["a"], rows: [] });
  const name = "xl/worksheets/sheet1.xml";
  const sheet = parts[name]!.replace(
    /<sheetData>.*<\/sheetData>/s,
    () => `<sheetData>${rows}</sheetData>`,
  );
  return zipped({ ...parts, [name]: sheet }, 9);
};

const odsOf = (rows: string): Uint8Array => {
  const parts = odsParts({ names: ["a", "b"], rows: [["1", "2"]] });
  return zipped(
    {
      ...parts,
      "content.xml": parts["content.xml"]!.replace("</table:table>", () => `${rows}</table:table>`),
    },
    9,
  );
};

// Each of these is a small file; read to its end it would take minutes, or all memory.
describe("small files that claim much", () => {
  it("are refused where one cell stands in the last column of every row", () => {
    const rows = Array.from(
      { length: 100_000 },
      (_, i) => `<row r="${i + 1}"><c r="XFD${i + 1}"><v>1</v></c></row>`,
    );
    expect(() => read(sheetOf(rows.join("")))).toThrow(/16384 columns and hardly a cell in them/);
  });

  it("are refused where rows or columns are repeated beyond all measure", () => {
    const cell = `<table:table-cell office:value-type="string"><text:p>x</text:p></table:table-cell>`;
    const wide = cell.replace("<table:table-cell", '$& table:number-columns-repeated="16000"');
    const row = (times: number, inside: string): string =>
      `<table:table-row table:number-rows-repeated="${times}">${inside}</table:table-row>`;
    expect(() => read(odsOf(row(5000, wide).repeat(200)))).toThrow(
      /repeats cells more than 2 mill/,
    );
    expect(() => read(odsOf(row(1_000_000, cell.repeat(20))))).toThrow(/repeats cells/);
    // As spreadsheets do where a few rows are alike.
    expect(read(odsOf(row(3, cell + cell))).table.rows).toBe(4);
  });

  it("are read where there are gaps between cells, as in any sheet", () => {
    const rows = Array.from({ length: 200 }, (_, i) =>
      i === 0
        ? `<row r="1"><c r="A1" t="inlineStr"><is><t>a</t></is></c><c r="Z1" t="inlineStr"><is><t>z</t></is></c></row>`
        : `<row r="${i + 1}"><c r="Z${i + 1}"><v>${i}</v></c></row>`,
    );
    const { table } = read(sheetOf(rows.join("")));
    expect([table.rows, table.columns.length]).toEqual([199, 26]);
  });
});
