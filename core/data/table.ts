/**
 * A column of cells exactly as they were imported: distinct texts, and a code per row. Likert items
 * need a handful of texts; parsing and storing cost the number of distinct cells, not of rows.
 * Where nearly every cell differs, a text may stand in the dictionary more than once.
 */
export interface TextColumn {
  name: string;
  dictionary: string[];
  /** One index into `dictionary` per row. */
  codes: Int32Array;
}

/** The raw data of a study. Never changed by an analysis. */
export interface Table {
  rows: number;
  columns: TextColumn[];
  /**
   * Set where only moments are known: the columns are then constructed rows that have exactly these
   * moments.
   */
  moments?: Moments;
}

/** Means and covariances of variables instead of their rows. */
export interface Moments {
  names: string[];
  /** Rows they were computed from. */
  n: number;
  means: number[];
  /** Divisor n - 1. */
  covariance: number[][];
  /** Whether means or SDs were unknown and stand at 0 and 1. */
  standardised: boolean;
}

/**
 * After this many rows a column in which most cells differ stops looking for repetitions: that
 * would cost more than it saves.
 */
const TRIAL_ROWS = 4096;

/** Collects the cells of one column. */
class ColumnBuilder {
  private known: Map<string, number> | null = new Map();
  private readonly dictionary: string[] = [];
  private readonly codes: number[] = [];

  add(text: string): void {
    let code = this.known?.get(text);
    if (code === undefined) {
      code = this.dictionary.length;
      this.dictionary.push(text);
      this.known?.set(text, code);
    }
    this.codes.push(code);
    if (this.codes.length === TRIAL_ROWS && this.dictionary.length > TRIAL_ROWS / 2)
      this.known = null;
  }

  build(name: string): TextColumn {
    return { name, dictionary: this.dictionary, codes: Int32Array.from(this.codes) };
  }
}

/** Collects cells row by row into text columns. */
export class TableBuilder {
  private readonly columns: ColumnBuilder[];
  private count = 0;

  constructor(private readonly names: string[]) {
    this.columns = names.map(() => new ColumnBuilder());
  }

  /** Adds one row; missing trailing cells count as empty. */
  add(cells: readonly string[]): void {
    for (let j = 0; j < this.columns.length; j++) this.columns[j]!.add(cells[j] ?? "");
    this.count += 1;
  }

  /** Widens the table; rows added before have empty cells there. */
  grow(width: number): void {
    while (this.columns.length < width) {
      const column = new ColumnBuilder();
      for (let i = 0; i < this.count; i++) column.add("");
      this.columns.push(column);
    }
  }

  build(): Table {
    return {
      rows: this.count,
      columns: this.columns.map((column, j) => column.build(this.names[j] ?? "")),
    };
  }
}

/** The cell of a column at a 0-based row. */
export const cell = (column: TextColumn, row: number): string =>
  column.dictionary[column.codes[row]!]!;

export const findColumn = (table: Table, name: string): TextColumn | undefined =>
  table.columns.find((column) => column.name === name);

/** Columns without a row: of a study whose variables are declared before there are data. */
export const tableOfNames = (names: readonly string[]): Table => ({
  rows: 0,
  columns: names.map((name) => ({ name, dictionary: [], codes: new Int32Array(0) })),
});
