import type { NumberColumn } from "../data";

/** One pattern of observed (1) and missing (0) variables, in their order. */
export interface MissingPattern {
  key: string;
  /** 0-based positions of its rows. */
  rows: number[];
}

export interface MissingPatterns {
  variables: string[];
  patterns: { key: string; count: number }[];
  completeRows: number;
  completeShare: number;
}

/** Groups rows by which variables are observed; the most frequent pattern first. */
export function patternsOf(columns: Float64Array[], rows: number): MissingPattern[] {
  const found = new Map<string, MissingPattern>();
  for (let i = 0; i < rows; i++) {
    let key = "";
    for (const column of columns) key += Number.isNaN(column[i]!) ? "0" : "1";
    const known = found.get(key);
    if (known) known.rows.push(i);
    else found.set(key, { key, rows: [i] });
  }
  return [...found.values()].sort(
    (a, b) => b.rows.length - a.rows.length || (a.key < b.key ? 1 : -1),
  );
}

export function missingPatterns(variables: NumberColumn[]): MissingPatterns {
  const rows = variables[0]?.values.length ?? 0;
  const patterns = patternsOf(
    variables.map((v) => v.values),
    rows,
  );
  const completeRows = patterns.find((p) => !p.key.includes("0"))?.rows.length ?? 0;
  return {
    variables: variables.map((v) => v.name),
    patterns: patterns.map(({ key, rows: members }) => ({ key, count: members.length })),
    completeRows,
    completeShare: rows > 0 ? completeRows / rows : 0,
  };
}
