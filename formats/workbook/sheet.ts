/** Receives a sheet row by row. */
export interface RowSink {
  /**
   * Cells from the first column on; a row without cells is not reported. Returns false when it has
   * seen enough.
   */
  row: (index: number, cells: string[]) => boolean;
  /** A block of merged cells, 0-based and inclusive. */
  merged: (top: number, left: number, bottom: number, right: number) => void;
  /** What reads otherwise than a sheet shows it: see `SheetNote`. */
  note: (kind: SheetNote, row: number, column: number) => void;
}

/**
 * Numbers that are shown as percentages; dates, which a sheet shows in one of many ways; numbers of
 * more digits than a sheet keeps; formulas without a stored value.
 */
export type SheetNote = "percent" | "date" | "long" | "no_value";

export interface Sheet {
  name: string;
  /** Reads the sheet from its beginning. */
  read: (sink: RowSink, progress?: (share: number) => void) => void;
}

/** Column of a reference such as “AB12”, 0-based; -1 where there is none. */
export function columnOf(reference: string): number {
  let column = 0;
  for (let i = 0; i < reference.length; i++) {
    const letter = reference.charCodeAt(i) - 64;
    if (letter < 1 || letter > 26) break;
    column = column * 26 + letter;
  }
  return column - 1;
}

/** A number as the shortest text that means the same. */
export const numberText = (text: string): string => {
  const value = Number(text);
  return text.trim() === "" || !Number.isFinite(value) ? text : String(value);
};

/** Numbers of this size and more have lost their last digits when they were stored. */
const LONG = 2 ** 53;

export const isLong = (text: string): boolean => Math.abs(Number(text)) >= LONG;

/** Spreadsheets have at most so many columns; more is damage. */
export const MAX_COLUMNS = 16_384;
/** And so many rows. */
export const MAX_ROWS = 1_048_576;
