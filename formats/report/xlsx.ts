import { printable } from "../markup";
import { captionNames, type ReportDocument, type TableBlock } from "../../core";
import { neutralise } from "../effects-table";
import { spoken } from "./markdown";
import { addNote, layOutSheet } from "./sheet-layout";
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
    sheet.addRow([printable(`Table ${table.number}. ${table.title}`)]).font = { bold: true };
    sheet.addRow(columns.map((c) => printable(c.head))).font = { bold: true };
    const values = table.rows.map((row) => (row.heading ? [] : columns.map(({ of }) => of(row))));
    table.rows.forEach((row, i) =>
      sheet.addRow(
        row.heading
          ? [neutralise(printable(row.cells[0]!.text))]
          : values[i]!.map((value) =>
              typeof value === "string" ? neutralise(printable(value)) : value,
            ),
      ),
    );
    layOutSheet(
      sheet,
      HEADS,
      columns.map(({ head }) => head),
      values,
    );
    const notes = table.notes.map((note) => printable(`Note. ${spoken(note, names)}`));
    for (const words of [...document.leftOut, ...notes]) addNote(sheet, words, columns.length);
  }
  if (book.worksheets.length === 0) book.addWorksheet("No tables");
  return new Uint8Array(await book.xlsx.writeBuffer());
}

/** Heads of the table: the row beneath its title. */
const HEADS = 2;
