import { TableBuilder, type Table } from "../core";
import { FormatProblem } from "./problem";

/** A table as read, with what was mended on the way. */
export interface ReadTable {
  table: Table;
  notes: string[];
}

interface Options {
  /** Row that holds the names, from 1; 0 when there are none. */
  headerRow: number;
  /**
   * A cell beyond the names makes a column (a sheet) or is refused (delimited text, where it means
   * a wrong separator).
   */
  beyond: "column" | "refuse";
}

/** So many cells may be missing for every one that is there, once there are many. */
const MOST_MISSING = 50;
const MANY_CELLS = 1_000_000;

/** More cells than this are no table of answers, and would not fit into a browser. */
const MOST_CELLS = 20_000_000;

/** Is a table nearly all gaps, far larger than the file that it comes from? */
export const isHollow = (missing: number, present: number): boolean =>
  missing > MANY_CELLS && missing > MOST_MISSING * present;

const blank = (cells: readonly string[]): boolean => cells.every((c) => c.trim() === "");

/** Turns rows of cells into a table, whatever file they come from. */
export class RowCollector {
  private names: string[] | null = null;
  private builder: TableBuilder | null = null;
  private readonly above: string[] = [];
  /** Rows of empty cells that only count when a filled row follows. */
  private hollow = 0;
  /** Lines without cells, so far and since the last filled row. */
  private empty = 0;
  private blankLines = 0;
  private short = 0;
  /** Cells that the file holds, and those that its rows lack. */
  private present = 0;
  private padded = 0;

  constructor(private readonly options: Options) {}

  /**
   * Adds the row with this number (from 1).
   * @throws FormatProblem naming row and column for a cell beyond the names
   */
  add(row: number, cells: readonly string[]): void {
    const { headerRow } = this.options;
    if (row < headerRow) {
      const text = cells.find((c) => c.trim() !== "");
      if (text !== undefined) this.above.push(text.trim());
      return;
    }
    if (row === headerRow) {
      this.names = [...cells];
      this.builder = new TableBuilder(this.names.map(String));
      return;
    }
    if (!this.builder) {
      if (headerRow > 0) this.noHeader();
      if (blank(cells)) return;
      this.names = cells.map((_, i) => `column_${i + 1}`);
      this.builder = new TableBuilder(this.names);
    }
    if (blank(cells)) {
      // A line without separators is no row, unless there is only one column: then it is a missing
      // answer.
      if (cells.length > 1 || this.names!.length === 1) this.hollow += 1;
      else this.blankLines += 1;
      return;
    }
    this.checkWidth(row, cells);
    this.empty += this.blankLines;
    this.blankLines = 0;
    for (; this.hollow > 0; this.hollow--) this.builder.add([]);
    if (cells.length < this.names!.length) this.short += 1;
    this.builder.add(cells);
    this.count(row, cells);
  }

  /** @throws FormatProblem for a table that is nearly all gaps, or beyond what can be held */
  private count(row: number, cells: readonly string[]): void {
    const { headerRow, beyond } = this.options;
    const width = this.names!.length;
    // Gaps between the cells of a sheet cost its file nothing.
    const present = beyond === "column" ? cells.filter((c) => c !== "").length : cells.length;
    this.present += present;
    this.padded += Math.max(0, width - present);
    if (isHollow(this.padded, this.present))
      throw new FormatProblem(
        `Up to row ${row} this file has ${width} columns and hardly a cell in them (${Math.round(this.present / (row - headerRow))} in a row). Is the separator right, and the row of names?`,
      );
    if (this.present + this.padded > MOST_CELLS)
      throw new FormatProblem(
        `Up to row ${row} this file has more than ${MOST_CELLS / 1e6} million cells (${width} columns), more than can be worked with here. Leave out the columns that you do not need, and import that.`,
      );
  }

  /** A row without any cell, as sheets have between blocks. */
  skip(count: number): void {
    if (this.builder) this.blankLines += count;
  }

  private noHeader(): never {
    throw new FormatProblem(
      `Row ${this.options.headerRow} should hold the names of the columns, but it is empty. Choose another row for the names.`,
    );
  }

  private checkWidth(row: number, cells: readonly string[]): void {
    const extra = cells.findIndex((c, i) => i >= this.names!.length && c.trim() !== "");
    if (extra < 0) return;
    if (this.options.beyond === "refuse") {
      throw new FormatProblem(
        `Row ${row} has ${cells.length} cells but there are ${this.names!.length} columns; the first too many is “${cells[extra]}” in column ${extra + 1}. Is the separator right, or does a text with a separator lack its quotes?`,
      );
    }
    while (this.names!.length < cells.length) this.names!.push("");
    this.builder!.grow(this.names!.length);
  }

  /**
   * The table.
   * @param merged gives a name to header cells that a merged cell covers
   * @throws FormatProblem when there are no rows
   */
  finish(merged: (column: number) => string | undefined = () => undefined): ReadTable {
    if (this.options.headerRow > 0 && !this.builder) this.noHeader();
    if (!this.builder || !this.names)
      throw new FormatProblem("The file holds no cells. Choose another file.");
    const notes: string[] = [];
    if (this.above.length > 0)
      notes.push(
        `${this.above.length} ${this.above.length === 1 ? "row" : "rows"} above the names left out (“${this.above[0]}”${this.above.length > 1 ? ", …" : ""}).`,
      );
    const built = this.builder.build();
    if (built.rows === 0)
      throw new FormatProblem(
        "The file has column names but no rows beneath them. Is the row of names chosen rightly?",
      );
    const given = this.names.map((name, j) => (name.trim() === "" ? (merged(j) ?? "") : name));
    let width = given.length;
    // Spreadsheets write separators past the last column: those columns have neither a name nor a
    // cell.
    while (
      width > 1 &&
      given[width - 1]!.trim() === "" &&
      built.columns[width - 1]!.dictionary.every((t) => t.trim() === "")
    )
      width -= 1;
    const names = uniqueNames(given.slice(0, width), notes);
    if (this.empty > 0)
      notes.push(`${this.empty} empty ${this.empty === 1 ? "row was" : "rows were"} left out.`);
    if (this.short > 0)
      notes.push(
        `${this.short} ${this.short === 1 ? "row has" : "rows have"} fewer cells than columns; the rest of those rows counts as missing.`,
      );
    return {
      table: {
        rows: built.rows,
        columns: names.map((name, j) => ({ ...built.columns[j]!, name })),
      },
      notes,
    };
  }
}

/** Names without blanks or doubles, so that every column can be told apart. */
export function uniqueNames(cells: readonly string[], notes: string[]): string[] {
  const seen = new Set<string>();
  /** The next number to try for a name that stood before. */
  const next = new Map<string, number>();
  return cells.map((cell, i) => {
    const wanted = cell.trim() || `column_${i + 1}`;
    let name = wanted;
    let k = next.get(wanted) ?? 2;
    for (; seen.has(name); k++) name = `${wanted}_${k}`;
    next.set(wanted, k);
    if (!cell.trim()) notes.push(`Column ${i + 1} has no name; it is called “${name}”.`);
    else if (name !== wanted)
      notes.push(`“${wanted}” names two columns; column ${i + 1} is called “${name}”.`);
    seen.add(name);
    return name;
  });
}

/** How many rows of a file are looked at to find its names. */
export const HEAD_ROWS = 25;

const isNumber = (text: string): boolean => /^[+-]?[\d.,\s]+%?$/.test(text.trim());

/**
 * The row (from 1) that looks like the names of the columns: the first that fills half of the width
 * or more, with words. 0 when the first full row holds numbers.
 */
export function guessHeaderRow(head: readonly (readonly string[])[]): number {
  const filled = head.map((row) => row.filter((c) => c.trim() !== "").length);
  const width = Math.max(0, ...filled);
  const at = filled.findIndex((count) => count >= Math.max(1, 0.5 * width));
  if (at < 0) return 0;
  const cells = head[at]!.filter((c) => c.trim() !== "");
  return cells.filter((c) => !isNumber(c)).length >= cells.length / 2 ? at + 1 : 0;
}
