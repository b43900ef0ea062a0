import { FormatProblem } from "./problem";
import type { Table } from "../core";
import { decodeText } from "./text-encoding";
import { guessHeader, guessSeparator, readDelimited, type Separator } from "./delimited";
import { looksLikeMatrix, readMatrix } from "./matrix-table";
import { tableOfMoments } from "./moments";
import { isPack, readPack } from "./pack/read-pack";
import { isRecords, readRecords } from "./records";
import { jsonLosses, lossNotes } from "./json-notes";
import type { ReadTable } from "./row-collector";
import { parseJson, readStudy, type LoadedStudy } from "./study-file";
import { guessSheetHeader, isWorkbook, openWorkbook, readSheet, type Sheet } from "./workbook";

/** Data that were opened but not yet read: what is open to choice is in the layout. */
export type DataSource =
  | { kind: "text"; text: string }
  | { kind: "workbook"; sheets: Sheet[] }
  | { kind: "records"; read: ReadTable };

export interface DataLayout {
  /** Delimited text only. */
  separator: Separator | null;
  /** Workbooks only: the names of the sheets, and the chosen one. */
  sheets: string[];
  sheet: number;
  /** Row that holds the names, from 1; 0 for none. */
  headerRow: number;
}

export type Opened =
  { kind: "study"; study: LoadedStudy } | { kind: "data"; source: DataSource; layout: DataLayout };

/**
 * Opens a file by what is in it, not by its name: a study, an archive that was handed over, a
 * workbook, JSON records, or delimited text.
 * @throws FormatProblem for anything else, saying what to do
 */
export function openData(bytes: Uint8Array): Opened {
  if (isPack(bytes)) return { kind: "study", study: readPack(bytes).study };
  if (isWorkbook(bytes)) {
    const sheets = openWorkbook(bytes);
    const sheet = firstTable(sheets);
    const layout = {
      separator: null,
      sheets: sheets.map((s) => s.name),
      sheet,
      headerRow: guessSheetHeader(sheets[sheet]!),
    };
    return { kind: "data", source: { kind: "workbook", sheets }, layout };
  }
  const text = decodeText(bytes);
  if (/^\ufeff?\s*[{[]/.test(text)) {
    const json = parseJson(text);
    if (!isRecords(json)) return { kind: "study", study: readStudy(text) };
    return {
      kind: "data",
      source: { kind: "records", read: withNotes(readRecords(json), text) },
      layout: { separator: null, sheets: [], sheet: 0, headerRow: 1 },
    };
  }
  const separator = guessSeparator(text);
  return {
    kind: "data",
    source: { kind: "text", text },
    layout: { separator, sheets: [], sheet: 0, headerRow: guessHeader(text, separator) },
  };
}

const withNotes = ({ table, notes }: ReadTable, text: string): ReadTable => ({
  table,
  notes: [...notes, ...lossNotes(jsonLosses(text))],
});

/** Rows of so many cells make a table; a title or a note alone does not. */
const TABLE_ROWS = 2;
const TABLE_CELLS = 2;

/** The first sheet with a table; else the first with anything; else the first. */
function firstTable(sheets: readonly Sheet[]): number {
  const seen = sheets.map(() => ({ any: false, rows: 0 }));
  if (sheets.length === 1) return 0;
  for (const [at, sheet] of sheets.entries()) {
    try {
      sheet.read({
        row: (_, cells) => noted(seen[at]!, cells),
        merged: () => undefined,
        note: () => undefined,
      });
    } catch (error) {
      // What is wrong with it is told when it is read.
      if (!(error instanceof FormatProblem)) throw error;
    }
    if (seen[at]!.rows >= TABLE_ROWS) return at;
  }
  return Math.max(
    0,
    seen.findIndex((s) => s.any),
  );
}

/** Whether the sheet is to be read on. */
function noted(seen: { any: boolean; rows: number }, cells: readonly string[]): boolean {
  const filled = cells.filter((text) => text !== "").length;
  seen.any ||= filled > 0;
  if (filled >= TABLE_CELLS) seen.rows += 1;
  return seen.rows < TABLE_ROWS;
}

/** The layout with another sheet chosen, its row of names guessed anew. */
export function chooseSheet(source: DataSource, layout: DataLayout, sheet: number): DataLayout {
  if (source.kind !== "workbook") return layout;
  return { ...layout, sheet, headerRow: guessSheetHeader(source.sheets[sheet]!) };
}

/** @throws FormatProblem naming what cannot be read */
export function readData(
  source: DataSource,
  layout: DataLayout,
  progress?: (share: number) => void,
): ReadTable {
  switch (source.kind) {
    case "text":
      return readDelimited(
        source.text,
        { separator: layout.separator ?? ",", headerRow: layout.headerRow },
        progress,
      );
    case "workbook":
      return readSheet(source.sheets[layout.sheet]!, layout.headerRow, progress);
    case "records":
      return source.read;
  }
}

/** A table that is a printed matrix, as the data it stands for; null when it is not one. */
export const matrixOf = (table: Table): Table | null =>
  looksLikeMatrix(table) ? tableOfMoments(readMatrix(table)) : null;
