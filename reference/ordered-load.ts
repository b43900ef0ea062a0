import { readFileSync } from "node:fs";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

const folder = new URL("./ordered/", import.meta.url);
const read = (path: string): string => readFileSync(new URL(path, folder), "utf8");

export const orderedExpected = (name: string): any => JSON.parse(read(`${name}/expected.json`));

/** A file of a case: heads, and rows of cells. */
function cellsOf(name: string, file: string): string[][] {
  return read(`${name}/${file}`)
    .trim()
    .split(/\r?\n/)
    .map((line) => line.split(","));
}

/** A column of a case, NaN where empty. */
export function orderedColumnOf(name: string, column: string): Float64Array {
  const [head, ...rows] = cellsOf(name, "data.csv");
  const at = head!.indexOf(column);
  return Float64Array.from(rows, (row) => (row[at] === "" ? NaN : Number(row[at])));
}

/** Resamples that were made elsewhere: rows drawn, from zero on. */
export const orderedResamples = (name: string): number[][] =>
  cellsOf(name, "resamples.csv")
    .map((row) => row.map(Number))
    .filter((row) => row.every(Number.isFinite));
