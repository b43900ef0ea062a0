import type { Worksheet } from "exceljs";
import { captionNames, type ReportDocument, type TableBlock } from "../../core";
import { neutralise } from "../effects-table";
import { spoken } from "./markdown";
import { sheetName } from "./sheet-name";

/** What a column holds, with both limits of an interval in columns of their own. */
function columnsOf(
  table: TableBlock,
): { head: string; of: (row: TableBlock["rows"][number]) => number | string | null }[] {
  return table.columns.flatMap(({ head, kind }, j) =>
    kind === "limits"
      ? [
          {
            head: `${head} lower`,
            of: (row: TableBlock["rows"][number]) => row.cells[j]?.limits?.[0] ?? null,
          },
          {
            head: `${head} upper`,
            of: (row: TableBlock["rows"][number]) => row.cells[j]?.limits?.[1] ?? null,
          },
        ]
      : [{ head, of: (row: TableBlock["rows"][number]) => row.cells[j]?.value ?? null }],
  );
}

/**
 * The tables of a report as a workbook: a sheet for each, numbers in full and as numbers.
 * @returns the bytes of an .xlsx file
 */
export async function xlsxReport(document: ReportDocument): Promise<Uint8Array> {
  const { default: ExcelJs } = await import("exceljs");
  const names = captionNames(document.blocks);
  const book = new ExcelJs.Workbook();
  const taken = new Set<string>();
  for (const table of document.blocks.filter((b) => b.kind === "table")) {
    const sheet = book.addWorksheet(sheetName(`${table.number} ${table.title}`, taken));
    const columns = columnsOf(table);
    sheet.addRow([`Table ${table.number}. ${table.title}`]).font = { bold: true };
    sheet.addRow(columns.map((c) => c.head)).font = { bold: true };
    const widths = columns.map(({ head }) => head.length);
    for (const row of table.rows) {
      if (!row.heading)
        noteWidths(
          widths,
          columns.map(({ of }) => of(row)),
        );
      sheet.addRow(
        row.heading
          ? [neutralise(row.cells[0]!.text)]
          : columns.map(({ of }) => {
              const value = of(row);
              return typeof value === "string" ? neutralise(value) : value;
            }),
      );
    }
    layOut(
      sheet,
      widths,
      columns.map((_, j) => table.rows.some((row) => typeof columns[j]!.of(row) === "number")),
    );
    const notes = table.notes.map((note) => `Note. ${spoken(note, names)}`);
    for (const words of [...document.leftOut, ...notes]) addNote(sheet, words, columns.length);
  }
  if (book.worksheets.length === 0) book.addWorksheet("No tables");
  return new Uint8Array(await book.xlsx.writeBuffer());
}

function noteWidths(widths: number[], values: readonly (string | number | null)[]): void {
  values.forEach((value, j) => {
    const length = typeof value === "number" ? 12 : (value ?? "").length;
    widths[j] = Math.max(widths[j]!, length);
  });
}

/** Words beneath a table, across all of its columns, on as many lines as they need. */
function addNote(sheet: Worksheet, words: string, columns: number): void {
  const row = sheet.addRow([words]);
  row.font = { italic: true };
  if (columns > 1) sheet.mergeCells(row.number, 1, row.number, columns);
  row.getCell(1).alignment = { wrapText: true, vertical: "top" };
  const width = Array.from({ length: columns }, (_, j) => sheet.getColumn(j + 1).width ?? 9);
  // Merged cells do not grow with their text.
  row.height = 15 * Math.ceil((1.1 * words.length) / width.reduce((sum, w) => sum + w, 0));
}

/** Heads of the table: the row beneath its title. */
const HEADS = 2;

/**
 * Columns as wide as what stands in them, heads above numbers to the right, title and heads in
 * sight, printed as wide as a page across.
 */
function layOut(sheet: Worksheet, widths: readonly number[], numeric: readonly boolean[]): void {
  widths.forEach((width, j) => {
    sheet.getColumn(j + 1).width = Math.min(60, Math.max(9, width + 2));
    if (numeric[j]) sheet.getCell(HEADS, j + 1).alignment = { horizontal: "right" };
  });
  sheet.views = [{ state: "frozen", ySplit: HEADS }];
  sheet.pageSetup = { orientation: "landscape", fitToPage: true, fitToWidth: 1, fitToHeight: 0 };
}
