/**
 * A column of cells exactly as they were imported: each distinct text once, and a code per row.
 * Likert items need a handful of texts; parsing and storing cost the number of distinct cells, not of rows.
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
}

/** Collects cells row by row into text columns. */
export class TableBuilder {
  private readonly maps: Map<string, number>[];
  private readonly codes: number[][];
  private count = 0;

  constructor(private readonly names: string[]) {
    this.maps = names.map(() => new Map());
    this.codes = names.map(() => []);
  }

  /** Adds one row; missing trailing cells count as empty. */
  add(cells: readonly string[]): void {
    for (let j = 0; j < this.names.length; j++) {
      const text = cells[j] ?? "";
      const map = this.maps[j]!;
      let code = map.get(text);
      if (code === undefined) {
        code = map.size;
        map.set(text, code);
      }
      this.codes[j]!.push(code);
    }
    this.count += 1;
  }

  build(): Table {
    const columns = this.names.map((name, j) => ({
      name,
      dictionary: [...this.maps[j]!.keys()],
      codes: Int32Array.from(this.codes[j]!),
    }));
    return { rows: this.count, columns };
  }
}

/** The cell of a column at a 0-based row. */
export const cell = (column: TextColumn, row: number): string => column.dictionary[column.codes[row]!]!;

export const findColumn = (table: Table, name: string): TextColumn | undefined => table.columns.find((column) => column.name === name);
