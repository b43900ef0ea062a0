/** A variable as numbers, NaN where missing. */
export interface NumberColumn {
  name: string;
  values: Float64Array;
}

/** 0-based positions where every column is observed, ascending. */
export function listwise(columns: Float64Array[]): Int32Array {
  const rows: number[] = [];
  const size = columns[0]?.length ?? 0;
  for (let i = 0; i < size; i++) {
    if (columns.every((column) => !Number.isNaN(column[i]!))) rows.push(i);
  }
  return Int32Array.from(rows);
}
