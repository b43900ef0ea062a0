import { captionNames, type ReportDocument, type TableBlock } from "../../core";
import { neutralise } from "../effects-table";
import { spoken } from "./markdown";

/** Characters that the name of a sheet cannot have, and how many it can have. */
const FORBIDDEN = /[\\/?*[\]:]/g;
const MOST = 31;

const sheetName = (table: TableBlock): string =>
  `${table.number} ${table.title}`.replace(FORBIDDEN, " ").slice(0, MOST).trim();

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
  for (const table of document.blocks.filter((b) => b.kind === "table")) {
    const sheet = book.addWorksheet(sheetName(table));
    const columns = columnsOf(table);
    sheet.addRow([`Table ${table.number}. ${table.title}`]).font = { bold: true };
    sheet.addRow(columns.map((c) => c.head)).font = { bold: true };
    for (const row of table.rows)
      sheet.addRow(
        row.heading
          ? [neutralise(row.cells[0]!.text)]
          : columns.map(({ of }) => {
              const value = of(row);
              return typeof value === "string" ? neutralise(value) : value;
            }),
      );
    for (const note of table.notes)
      sheet.addRow([`Note. ${spoken(note, names)}`]).font = { italic: true };
    sheet.columns.forEach((column, j) => (column.width = j === 0 ? 36 : 14));
  }
  if (book.worksheets.length === 0) book.addWorksheet("No tables");
  return new Uint8Array(await book.xlsx.writeBuffer());
}
