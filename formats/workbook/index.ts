import { guessHeaderRow, HEAD_ROWS, RowCollector, type ReadTable } from "../row-collector";
import { FormatProblem } from "../problem";
import { Archive } from "./archive";
import { isOds, odsSheets } from "./ods";
import type { Sheet, SheetNote } from "./sheet";
import { isXlsx, xlsxSheets } from "./xlsx";

export type { Sheet } from "./sheet";

const ZIP = [0x50, 0x4b, 0x03, 0x04];
const OLD_OFFICE = [0xd0, 0xcf, 0x11, 0xe0];

/** Is this a spreadsheet workbook, whatever its name says? */
export const isWorkbook = (bytes: Uint8Array): boolean =>
  [ZIP, OLD_OFFICE].some((mark) => mark.every((byte, i) => bytes[i] === byte));

/**
 * The sheets of an XLSX or ODS workbook.
 * @throws FormatProblem for other archives, for old or protected workbooks, and for damaged ones
 */
export function openWorkbook(bytes: Uint8Array): Sheet[] {
  if (OLD_OFFICE.every((byte, i) => bytes[i] === byte)) {
    throw new FormatProblem(
      "This is an old binary workbook (.xls) or one protected by a password. Save it as XLSX, ODS or CSV without a password, and import that.",
    );
  }
  const archive = new Archive(bytes);
  if (isXlsx(archive)) return xlsxSheets(archive);
  if (isOds(archive)) return odsSheets(archive);
  throw new FormatProblem(
    "This is a zip archive but no workbook. Unpack it and import the file inside.",
  );
}

/** The first rows of a sheet, empty ones included. */
export function sheetHead(sheet: Sheet): string[][] {
  const head: string[][] = [];
  sheet.read({
    row: (index, cells) => {
      while (head.length < Math.min(index, HEAD_ROWS)) head.push([]);
      if (index < HEAD_ROWS) head[index] = [...cells];
      return index < HEAD_ROWS - 1;
    },
    merged: () => undefined,
    note: () => undefined,
  });
  return head;
}

export const guessSheetHeader = (sheet: Sheet): number => guessHeaderRow(sheetHead(sheet));

/** What is read otherwise than the sheet shows it. */
const NOTE_WORDS = {
  percent: (names: string, one: boolean) =>
    `${names} ${one ? "is" : "are"} shown as percentages in the sheet; 25 % is stored as 0.25, and is read so.`,
  date: (names: string, one: boolean) =>
    `${names} ${one ? "holds" : "hold"} dates; they are read as year, month and day (2026-03-01), however the sheet shows them.`,
  long: (names: string, one: boolean) =>
    `${names} ${one ? "holds" : "hold"} numbers of 16 digits and more, of which a spreadsheet keeps only the first 15; if they are identifiers, take them from a file in which they are text.`,
};

/**
 * Reads a sheet into a table of cells: numbers in full precision, dates as ISO 8601, formulas by
 * their stored values.
 * @param headerRow row of the names, from 1; 0 for none
 * @throws FormatProblem when the sheet holds no rows
 */
export function readSheet(
  sheet: Sheet,
  headerRow: number,
  progress?: (share: number) => void,
): ReadTable {
  const collector = new RowCollector({ headerRow, beyond: "column" });
  const headerMerges: { left: number; right: number }[] = [];
  const noted: Record<SheetNote, Set<number>> = {
    percent: new Set(),
    date: new Set(),
    long: new Set(),
    no_value: new Set(),
  };
  let unstored = 0;
  let header: string[] = [];
  let last = -1;
  sheet.read(
    {
      row: (index, cells) => {
        if (last >= 0 && index > last + 1) collector.skip(index - last - 1);
        last = index;
        if (index === headerRow - 1) header = [...cells];
        collector.add(index + 1, cells);
        return true;
      },
      merged: (top, left, bottom, right) => {
        if (headerRow > 0 && top <= headerRow - 1 && bottom >= headerRow - 1 && right > left)
          headerMerges.push({ left, right });
      },
      note: (kind, row, column) => {
        if (row < headerRow) return;
        noted[kind].add(column);
        if (kind === "no_value") unstored += 1;
      },
    },
    progress,
  );
  const { table, notes } = collector.finish((column) => {
    const merge = headerMerges.find((m) => column > m.left && column <= m.right);
    return merge && header[merge.left];
  });
  if (headerMerges.length > 0)
    notes.push("Merged cells among the names were read as the same name with a number behind it.");
  for (const kind of ["percent", "date", "long"] as const) {
    if (noted[kind].size === 0) continue;
    const names = [...noted[kind]]
      .sort((a, b) => a - b)
      .map((j) => `“${table.columns[j]?.name ?? `column ${j + 1}`}”`);
    notes.push(NOTE_WORDS[kind](names.join(", "), names.length === 1));
  }
  if (unstored > 0)
    notes.push(
      `${unstored} ${unstored === 1 ? "formula has" : "formulas have"} no stored value and count as missing. Open and save the workbook in a spreadsheet program to store them.`,
    );
  return { table, notes };
}
