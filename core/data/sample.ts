import { StudyProblem } from "../problems";
import type { TypedColumn } from "./typed-column";

/**
 * The rows an analysis uses, and why others are left out (listwise: present on every variable of
 * the model).
 */
export interface Sample {
  rowsRead: number;
  n: number;
  /** Rows that filters leave out, whatever their answers. */
  excluded: number;
  /** 0-based rows kept, ascending. */
  rows: Int32Array;
  /** 0-based rows left out for a missing answer, ascending. */
  dropped: number[];
  /** Missing cells of each variable of the model, among the rows that no filter leaves out. */
  missing: Record<string, number>;
}

/** The data as a sample sees them. */
interface Rows {
  table: { rows: number };
  /** 0-based rows that no filter leaves out, ascending. */
  included: Int32Array;
}

/** @throws StudyProblem `no_complete_cases` when no row is complete */
export function listwiseSample(columns: TypedColumn[], { table, included }: Rows): Sample {
  const rowsRead = table.rows;
  const counts: [name: string, missing: number][] = [];
  const complete = new Uint8Array(rowsRead).fill(1);
  for (const { name, values } of columns) {
    let count = 0;
    for (const i of included) {
      if (Number.isNaN(values[i]!)) {
        count += 1;
        complete[i] = 0;
      }
    }
    counts.push([name, count]);
  }
  const missing = Object.fromEntries(counts);
  const rows: number[] = [];
  const dropped: number[] = [];
  for (const i of included) (complete[i] ? rows : dropped).push(i);
  if (rows.length === 0) {
    const worst = Object.entries(missing).sort((a, b) => b[1] - a[1])[0];
    const place = { variables: worst ? [worst[0]] : [] };
    if (rowsRead === 0) throw new StudyProblem("no_rows", {}, place);
    if (included.length === 0 || !worst) throw new StudyProblem("all_filtered", {}, place);
    throw new StudyProblem(
      "no_complete_row",
      { columns: columns.length, worst: worst[0], missing: worst[1], rows: included.length },
      place,
    );
  }
  return {
    rowsRead,
    n: rows.length,
    excluded: rowsRead - included.length,
    rows: Int32Array.from(rows),
    dropped,
    missing,
  };
}

/**
 * Rows with at least one of the variables present, for engines that use what there is.
 * @throws StudyProblem as `listwiseSample`, when no row has anything
 */
export function anySample(columns: TypedColumn[], data: Rows): Sample {
  const { table, included } = data;
  const missing = Object.fromEntries(
    columns.map(({ name, values }) => [
      name,
      included.reduce((count, i) => count + (Number.isNaN(values[i]!) ? 1 : 0), 0),
    ]),
  );
  const rows: number[] = [];
  const dropped: number[] = [];
  for (const i of included)
    (columns.some(({ values }) => !Number.isNaN(values[i]!)) ? rows : dropped).push(i);
  if (rows.length === 0) return listwiseSample(columns, data);
  return {
    rowsRead: table.rows,
    n: rows.length,
    excluded: table.rows - included.length,
    rows: Int32Array.from(rows),
    dropped,
    missing,
  };
}

/** The values of a column at the rows of a sample. */
export function pick(values: Float64Array, rows: Int32Array): Float64Array {
  const out = new Float64Array(rows.length);
  for (let i = 0; i < rows.length; i++) out[i] = values[rows[i]!]!;
  return out;
}
