import type { Worksheet } from "exceljs";

type Cells = readonly (string | number | null)[];

/** Room for a number in full. */
const OF_A_NUMBER = 12;
const [NARROWEST, WIDEST] = [9, 60];

/**
 * Columns as wide as what stands in them, heads of numbers to the right, heads and what is above
 * them in sight, printed as wide as a page across.
 * @param headRow where the heads stand, from 1
 */
export function layOutSheet(
  sheet: Worksheet,
  headRow: number,
  heads: readonly string[],
  rows: readonly Cells[],
): void {
  const lengthOf = (value: string | number | null | undefined): number =>
    typeof value === "number" ? OF_A_NUMBER : (value ?? "").length;
  heads.forEach((head, j) => {
    const widest = Math.max(head.length, ...rows.map((row) => lengthOf(row[j])));
    sheet.getColumn(j + 1).width = Math.min(WIDEST, Math.max(NARROWEST, widest + 2));
    if (rows.some((row) => typeof row[j] === "number"))
      sheet.getCell(headRow, j + 1).alignment = { horizontal: "right" };
  });
  sheet.views = [{ state: "frozen", ySplit: headRow }];
  sheet.pageSetup = { orientation: "landscape", fitToPage: true, fitToWidth: 1, fitToHeight: 0 };
}

/** Words beneath a table, across all of its columns, on as many lines as they need. */
export function addNote(sheet: Worksheet, words: string, columns: number): void {
  const row = sheet.addRow([words]);
  row.font = { italic: true };
  if (columns > 1) sheet.mergeCells(row.number, 1, row.number, columns);
  row.getCell(1).alignment = { wrapText: true, vertical: "top" };
  const widths = Array.from(
    { length: columns },
    (_, j) => sheet.getColumn(j + 1).width ?? NARROWEST,
  );
  // Merged cells do not grow with their text.
  row.height = 15 * Math.ceil((1.1 * words.length) / widths.reduce((sum, w) => sum + w, 0));
}
