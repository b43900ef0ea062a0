import ExcelJS from "exceljs";
import { strToU8, zipSync } from "fflate";
import { describe, expect, it } from "vitest";
import { cell, guessVariable, parseNumber, type Table } from "../../core";
import {
  chooseSheet,
  FormatProblem,
  openData,
  readData,
  type DataLayout,
  type DataSource,
} from "..";

function open(bytes: Uint8Array): { source: DataSource; layout: DataLayout } {
  const opened = openData(bytes);
  if (opened.kind !== "data") throw new Error("a study");
  return opened;
}

function read(bytes: Uint8Array, sheet?: number) {
  const { source, layout } = open(bytes);
  return readData(source, sheet === undefined ? layout : chooseSheet(source, layout, sheet));
}

async function workbook(fill: (book: ExcelJS.Workbook) => void): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  fill(book);
  return new Uint8Array(await book.xlsx.writeBuffer());
}

const texts = (table: Table, name: string): string[] => {
  const column = table.columns.find((c) => c.name === name)!;
  return Array.from({ length: table.rows }, (_, i) => cell(column, i));
};

describe("an XLSX workbook", () => {
  it("offers its sheets and finds the row of names beneath titles and empty rows", async () => {
    const bytes = await workbook((book) => {
      book.addWorksheet("about").addRow(["Nothing here but words"]);
      const sheet = book.addWorksheet("answers");
      sheet.addRow(["Survey of 2024"]);
      sheet.addRow([]);
      sheet.addRow(["id", "hours", "mood"]);
      sheet.addRow(["a1", 2.5, "good"]);
      sheet.addRow([]);
      sheet.addRow(["a2", 3, "bad  "]);
    });
    const { source, layout } = open(bytes);
    expect(layout.sheets).toEqual(["about", "answers"]);
    // A line of words is no table.
    expect(layout.sheet).toBe(1);
    const chosen = chooseSheet(source, layout, 1);
    expect(chosen.headerRow).toBe(3);
    const { table, notes } = readData(source, chosen);
    expect(table.columns.map((c) => c.name)).toEqual(["id", "hours", "mood"]);
    expect(texts(table, "hours")).toEqual(["2.5", "3"]);
    expect(notes.join(" ")).toMatch(
      /1 row above the names left out \(“Survey of 2024”\).*1 empty row was left out/,
    );
  });

  it("reads dates, percentages, booleans, formulas by their stored values, errors and numbers kept as text", async () => {
    const bytes = await workbook((book) => {
      const sheet = book.addWorksheet("s");
      sheet.addRow(["when", "at", "share", "yes", "sum", "bad", "text", "open"]);
      sheet.addRow([
        new Date(Date.UTC(2026, 2, 1)),
        new Date(Date.UTC(2026, 2, 1, 13, 30)),
        0.25,
        true,
      ]);
      sheet.getCell("C2").numFmt = "0.0%";
      sheet.getCell("A2").numFmt = "dd.mm.yyyy";
      sheet.getCell("B2").numFmt = "yyyy-mm-dd hh:mm";
      sheet.getCell("E2").value = { formula: "1+1.1", result: 2.1 };
      sheet.getCell("F2").value = { error: "#DIV/0!" };
      sheet.getCell("G2").value = "17";
      sheet.getCell("H2").value = { formula: "A2+1" } as ExcelJS.CellFormulaValue;
    });
    const { table, notes } = read(bytes);
    expect(table.columns.map((c) => cell(c, 0))).toEqual([
      "2026-03-01",
      "2026-03-01T13:30:00",
      "0.25",
      "TRUE",
      "2.1",
      "#DIV/0!",
      "17",
      "",
    ]);
    expect(notes.join(" ")).toMatch(/“share” is shown as percentages/);
    expect(notes.join(" ")).toMatch(/1 formula has no stored value/);
    expect(guessVariable(table.columns[5]!).missing).toEqual(["#DIV/0!"]);
  });

  it("names merged, doubled and lacking headers, and keeps cells beyond the names", async () => {
    const bytes = await workbook((book) => {
      const sheet = book.addWorksheet("s");
      sheet.addRow(["id", "mood", "", "mood", ""]);
      sheet.mergeCells("B1:C1");
      sheet.addRow(["a", 1, 2, 3, 4, 5]);
    });
    const { table, notes } = read(bytes);
    expect(table.columns.map((c) => c.name)).toEqual([
      "id",
      "mood",
      "mood_2",
      "mood_3",
      "column_5",
      "column_6",
    ]);
    expect(table.columns.map((c) => cell(c, 0))).toEqual(["a", "1", "2", "3", "4", "5"]);
    expect(notes.join(" ")).toMatch(/Merged cells/);
  });

  it("keeps every digit of 300 columns", async () => {
    const bytes = await workbook((book) => {
      const sheet = book.addWorksheet("s");
      sheet.addRow(Array.from({ length: 300 }, (_, j) => `v${j}`));
      sheet.addRow(Array.from({ length: 300 }, (_, j) => j / 7));
    });
    const { table } = read(bytes);
    expect(table.columns.map((c) => parseNumber(cell(c, 0)))).toEqual(
      Array.from({ length: 300 }, (_, j) => j / 7),
    );
  });

  it("says of dates and of numbers that a spreadsheet has cut short that they read otherwise", async () => {
    const bytes = await workbook((book) => {
      const sheet = book.addWorksheet("s");
      sheet.addRow(["id", "when", "n"]);
      sheet.addRow([12345678901234567000, new Date(Date.UTC(2026, 2, 1)), 9007199254740991]);
    });
    const { table, notes } = read(bytes);
    expect(texts(table, "when")).toEqual(["2026-03-01"]);
    expect(notes.join(" ")).toMatch(/“when” holds dates/);
    expect(notes.join(" ")).toMatch(/“id” holds numbers of 16 digits and more/);
    expect(notes.join(" ")).not.toMatch(/“n”/);
  });

  it("refuses a sheet without rows, and says so", async () => {
    const bytes = await workbook((book) => void book.addWorksheet("s").addRow(["a", "b"]));
    expect(() => read(bytes)).toThrow(/no rows beneath/);
  });
});

const CONTENT = (body: string): string => `<?xml version="1.0" encoding="UTF-8"?>
<office:document-content xmlns:office="o" xmlns:table="t" xmlns:text="x"><office:body><office:spreadsheet>${body}</office:spreadsheet></office:body></office:document-content>`;

const ods = (body: string): Uint8Array =>
  zipSync({
    mimetype: strToU8("application/vnd.oasis.opendocument.spreadsheet"),
    "content.xml": strToU8(CONTENT(body)),
  });

const text = (t: string): string =>
  `<table:table-cell office:value-type="string"><text:p>${t}</text:p></table:table-cell>`;
const number = (v: string): string =>
  `<table:table-cell office:value-type="float" office:value="${v}"><text:p>shown</text:p></table:table-cell>`;

describe("an ODS workbook", () => {
  const sheet = `<table:table table:name="first"><table:table-row>${text("nothing")}</table:table-row></table:table>
    <table:table table:name="data">
      <table:table-row>${text("id")}${text("hours")}${text("share")}${text("when")}<table:table-cell table:number-columns-repeated="16380"/></table:table-row>
      <table:table-row>${text("a")}${number("4.5")}<table:table-cell office:value-type="percentage" office:value="0.5"/><table:table-cell office:value-type="date" office:date-value="2026-03-01"/></table:table-row>
      <table:table-row table:number-rows-repeated="2">${text("b")}<table:table-cell/>${number("0.25")}</table:table-row>
      <table:table-row table:number-rows-repeated="1048570"><table:table-cell table:number-columns-repeated="16384"/></table:table-row>
    </table:table>`;

  it("reads the chosen sheet, repeated rows and typed values", () => {
    const bytes = ods(sheet);
    expect(open(bytes).layout.sheets).toEqual(["first", "data"]);
    const { table, notes } = read(bytes, 1);
    expect(table.rows).toBe(3);
    expect(table.columns.map((c) => c.name)).toEqual(["id", "hours", "share", "when"]);
    expect(texts(table, "hours")).toEqual(["4.5", "", ""]);
    expect(texts(table, "share")).toEqual(["0.5", "0.25", "0.25"]);
    expect(texts(table, "when")[0]).toBe("2026-03-01");
    expect(notes.join(" ")).toMatch(/“share” is shown as percentages/);
    expect(notes.join(" ")).toMatch(/“when” holds dates; they are read as year, month and day/);
  });

  it("keeps tabs, spaces and line breaks within cells", () => {
    const blanks = `a<text:tab/>b<text:s text:c="3"/>c<text:line-break/>d<text:tab/>`;
    const { table } = read(
      ods(
        `<table:table table:name="s"><table:table-row>${text("q")}${text("w")}</table:table-row><table:table-row>${text(blanks)}${text("1")}</table:table-row></table:table>`,
      ),
    );
    expect(texts(table, "q")).toEqual(["a\tb   c\nd\t"]);
  });

  it.each(["4000000000", "1e300", "-5", "x", "1048577"])(
    "refuses a filled row that claims to be there %s times",
    (times) => {
      const bytes = ods(
        `<table:table table:name="s"><table:table-row>${text("q")}</table:table-row><table:table-row table:number-rows-repeated="${times}">${text("1")}</table:table-row></table:table>`,
      );
      expect(() => read(bytes)).toThrow(/more rows or columns than a sheet can have/);
    },
  );

  it("says when a workbook is protected", () => {
    const bytes = zipSync({
      "content.xml": strToU8("x"),
      "META-INF/manifest.xml": strToU8("<manifest:encryption-data/>"),
    });
    expect(() => openData(bytes)).toThrow(/protected by a password/);
  });
});

describe("files that are not what they seem", () => {
  const refused = (bytes: Uint8Array): unknown => {
    try {
      read(bytes);
      return null;
    } catch (error) {
      return error;
    }
  };

  it("stops a workbook that unpacks beyond all measure", () => {
    const zeros = new Uint8Array(60 * 1024 * 1024).fill(32);
    const bytes = zipSync({ "content.xml": zeros }, { level: 9 });
    expect(refused(bytes)).toBeInstanceOf(FormatProblem);
    expect(String(refused(bytes))).toMatch(/far more than a sheet/);
  });

  it.each([
    ["an archive of something else", zipSync({ "a.txt": strToU8("hello") }), /no workbook/],
    [
      "a workbook cut off",
      zipSync({ "content.xml": strToU8(CONTENT("")) }).slice(0, 60),
      /end is missing/,
    ],
    ["a document without sheets", ods(""), /no sheet/],
    ["markup that is broken", zipSync({ "content.xml": strToU8("<a><b></a>") }), /not well-formed/],
    [
      "an old binary workbook",
      new Uint8Array([0xd0, 0xcf, 0x11, 0xe0, 0, 0, 0, 0]),
      /old binary workbook/,
    ],
    ["random bytes", new Uint8Array([1, 0, 2, 0, 3, 0, 9]), /not text/],
  ])("%s", (_, bytes, message) => {
    expect(refused(bytes)).toBeInstanceOf(FormatProblem);
    expect(String(refused(bytes))).toMatch(message);
  });

  it("never crashes on a damaged workbook", async () => {
    const bytes = await workbook((book) => book.addWorksheet("s").addRows([["a"], [1], [2]]));
    for (let at = 40; at < bytes.length - 30; at += 97) {
      const damaged = bytes.slice();
      damaged[at] = damaged[at]! ^ 0x55;
      const result = refused(damaged);
      expect(result === null || result instanceof FormatProblem).toBe(true);
    }
  });
});
