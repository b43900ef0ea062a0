import type { TextColumn } from "../data";

/** 0-based rows that hold the same cells, the first of them first. */
export interface RepeatedRows {
  rows: number[];
  /** What they share, for identifiers. */
  value: string | null;
}

/** Rows that are the same in every column given; rows without any cell are left out. */
export function repeatedRows(columns: TextColumn[], rows: Int32Array): RepeatedRows[] {
  if (columns.length === 0) return [];
  const groups = new Map<string, number[]>();
  for (const row of rows) {
    let key = "";
    let empty = true;
    for (const column of columns) {
      const text = column.dictionary[column.codes[row]!]!.trim();
      if (text !== "") empty = false;
      key += `${text}\u0000`;
    }
    if (empty) continue;
    const known = groups.get(key);
    if (known) known.push(row);
    else groups.set(key, [row]);
  }
  return [...groups.values()]
    .filter((group) => group.length > 1)
    .map((group) => ({ rows: group, value: null }));
}

/** Identifiers that stand in more than one row. */
export function repeatedIdentifiers(column: TextColumn, rows: Int32Array): RepeatedRows[] {
  return repeatedRows([column], rows).map((group) => ({
    ...group,
    value: column.dictionary[column.codes[group.rows[0]!]!]!.trim(),
  }));
}
