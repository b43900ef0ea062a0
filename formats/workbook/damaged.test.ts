import { strToU8, zipSync } from "fflate";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { cell } from "../../core";
import { FormatProblem, openData, readData } from "..";
import { crc32 } from "./crc";

/** A workbook of one sheet with these rows, packed soundly whatever they hold. */
const workbook = (
  rows: string,
  { texts = ["name", "hours"], end = "</sheetData></worksheet>" } = {},
) =>
  zipSync({
    "xl/workbook.xml": strToU8(
      `<workbook xmlns:r="r"><sheets><sheet name="s" r:id="a"/></sheets></workbook>`,
    ),
    "xl/_rels/workbook.xml.rels": strToU8(
      `<Relationships><Relationship Id="a" Target="sheet.xml"/></Relationships>`,
    ),
    "xl/sharedStrings.xml": strToU8(
      `<sst>${texts.map((text) => `<si><t>${text}</t></si>`).join("")}</sst>`,
    ),
    "xl/sheet.xml": strToU8(`<worksheet><sheetData>${rows}${end}`),
  });

const HEAD = `<row r="1"><c r="A1" t="s"><v>0</v></c><c r="B1" t="s"><v>1</v></c></row>`;
const row = (r: number, ...cells: string[]): string => `<row r="${r}">${cells.join("")}</row>`;
const number = (at: string, value: number): string => `<c r="${at}"><v>${value}</v></c>`;

function read(bytes: Uint8Array): (string | null)[][] {
  const opened = openData(bytes);
  if (opened.kind !== "data") throw new Error("no data");
  const { table } = readData(opened.source, opened.layout);
  return Array.from({ length: table.rows }, (_, i) => table.columns.map((c) => cell(c, i)));
}

describe("a workbook that is not as it was saved", () => {
  const sound =
    HEAD + row(2, number("A2", 1), number("B2", 2)) + row(3, number("A3", 3), number("B3", 4));

  it("is read where it is sound", () =>
    expect(read(workbook(sound))).toEqual([
      ["1", "2"],
      ["3", "4"],
    ]));

  it.each([
    [
      "a text that is not there",
      HEAD + row(2, `<c r="A2" t="s"><v>7</v></c>`),
      /row 2.*refers to a text \(number “7”\)/,
    ],
    ["a text without a number", HEAD + row(2, `<c r="A2" t="s"><v></v></c>`), /refers to a text/],
    [
      "a cell twice",
      HEAD + row(2, number("A2", 1), number("B2", 2), number("A2", 3)),
      /“A2” stands twice/,
    ],
    [
      "a row twice",
      HEAD + row(2, number("A2", 1)) + row(2, number("A2", 3)),
      /after row 2 stands a row “2”/,
    ],
    [
      "rows out of order",
      HEAD + row(5, number("A5", 1)) + row(3, number("A3", 3)),
      /after row 5 stands a row “3”/,
    ],
    ["a cell of another row", HEAD + row(2, number("A9", 1)), /row 2.*“A9”/],
    ["a reference that is none", HEAD + row(2, number("2A", 1)), /“2A”/],
    ["a row that is none", HEAD + `<row r="x">${number("A2", 1)}</row>`, /stands a row “x”/],
  ])("is refused with %s, by its place", (_, rows, message) => {
    expect(() => read(workbook(rows))).toThrow(FormatProblem);
    expect(() => read(workbook(rows))).toThrow(message);
  });

  it("is refused where a sheet breaks off, with the row", () => {
    expect(() => read(workbook(sound, { end: "" }))).toThrow(/breaks off in row 3/);
    expect(() => read(workbook(`${sound}<row r="4"><c r="A4"><v>1`, { end: "" }))).toThrow(
      /breaks off in row 4/,
    );
  });

  it("reads cells out of order at their place, and truth however it is written", () => {
    const truth = (at: string, text: string) => `<c r="${at}" t="b"><v>${text}</v></c>`;
    const rows =
      HEAD +
      row(2, truth("B2", "true"), truth("A2", "0")) +
      row(3, truth("A3", "false"), truth("B3", "1"));
    expect(read(workbook(rows))).toEqual([
      ["FALSE", "TRUE"],
      ["FALSE", "TRUE"],
    ]);
  });

  it("is never read with another cell where a byte of it has changed", () => {
    const bytes = workbook(sound);
    const whole = read(bytes);
    fc.assert(
      fc.property(fc.nat(bytes.length - 1), fc.integer({ min: 1, max: 255 }), (at, by) => {
        const changed = bytes.slice();
        changed[at] = changed[at]! ^ by;
        try {
          expect(read(changed)).toEqual(whole);
        } catch (error) {
          if (!(error instanceof FormatProblem)) throw error;
        }
      }),
      { numRuns: 400 },
    );
  });
});

describe("the sum of a packed file", () => {
  it("is that of the standard's check text, in one piece or several", () => {
    const text = strToU8("123456789");
    expect(crc32(text)).toBe(0xcbf43926);
    for (let at = 0; at <= text.length; at++)
      expect(crc32(text.subarray(at), crc32(text.subarray(0, at)))).toBe(0xcbf43926);
  });
});
