import { own, cell, parseNumber, type Table } from "../core";
import { FormatProblem } from "./problem";
import type { MomentsFile } from "./study-schema";

/** Row names that give moments beside the matrix itself. */
const EXTRA: Record<string, "n" | "means" | "sds"> = {
  n: "n",
  cases: "n",
  mean: "means",
  means: "means",
  m: "means",
  sd: "sds",
  sds: "sds",
  "standard deviation": "sds",
  "standard deviations": "sds",
};

/**
 * Does the first column name the other columns, as in a printed covariance or correlation matrix?
 */
export function looksLikeMatrix(table: Table): boolean {
  const names = table.columns.slice(1).map((c) => c.name);
  if (names.length < 2 || table.rows < names.length || table.rows > names.length + 4) return false;
  const rows = Array.from({ length: table.rows }, (_, i) => cell(table.columns[0]!, i).trim());
  return names.every((name) => rows.includes(name));
}

/**
 * A sheet with one row for each variable (full or lower triangle) and, in rows of those names, n,
 * means and SDs.
 * @throws FormatProblem naming what is missing
 */
export function readMatrix(table: Table): MomentsFile {
  const columns = table.columns.slice(1);
  const names = columns.map((c) => c.name);
  const rows = Array.from({ length: table.rows }, (_, i) => cell(table.columns[0]!, i).trim());
  const numbers = (row: number): number[] => columns.map((c) => parseNumber(cell(c, row)));
  const extra: Partial<Record<"n" | "means" | "sds", number[]>> = {};
  rows.forEach((name, i) => {
    const kind = own(EXTRA, name.toLowerCase());
    if (kind && !names.includes(name)) extra[kind] = numbers(i);
    else if (!names.includes(name) && name !== "")
      throw new FormatProblem(
        `The matrix has a row “${name}” but no column of that name; it has to be square, apart from rows n, mean and sd.`,
      );
  });
  const n = extra.n?.find((v) => !Number.isNaN(v));
  if (n === undefined)
    throw new FormatProblem(
      "The matrix needs a row “n” with the number of people it was computed from.",
    );
  const read = names.map((name, i) => {
    const at = rows.indexOf(name);
    if (at < 0)
      throw new FormatProblem(`The matrix has a column “${name}” but no row of that name.`);
    const row = numbers(at);
    const gap = row.slice(0, i + 1).findIndex((v) => Number.isNaN(v));
    if (gap >= 0)
      throw new FormatProblem(`The entry of “${name}” with “${names[gap]}” is not a number.`);
    return row;
  });
  const full = read.every((row) => !row.some(Number.isNaN));
  const matrix = full ? read : read.map((row, i) => row.slice(0, i + 1));
  if (!full) refuseOtherHalf(names, read);
  const isCorrelation = matrix.every((row, i) => Math.abs(row[i]! - 1) < 1e-6);
  const complete = (list: number[] | undefined): number[] | undefined =>
    list?.every((v) => !Number.isNaN(v)) ? list : undefined;
  const means = complete(extra.means);
  const sds = complete(extra.sds);
  return {
    names,
    n,
    ...(means ? { means } : {}),
    ...(isCorrelation ? { correlation: matrix, ...(sds ? { sds } : {}) } : { covariance: matrix }),
  };
}

/** Where only some entries stand above the diagonal, they have to be those below it. */
function refuseOtherHalf(names: string[], rows: number[][]): void {
  rows.forEach((row, i) =>
    row.forEach((value, j) => {
      const below = rows[j]![i]!;
      if (
        j > i &&
        !Number.isNaN(value) &&
        Math.abs(value - below) > 1e-6 * Math.max(1, Math.abs(below))
      )
        throw new FormatProblem(
          `“${names[i]}” with “${names[j]}” is ${value} above the diagonal but ${below} below it. Which is right?`,
        );
    }),
  );
}
