import { readFileSync } from "node:fs";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

const folder = new URL("./latent/", import.meta.url);

export const expectedOf = (name: string): any =>
  JSON.parse(readFileSync(new URL(`${name}/expected.json`, folder), "utf8"));

/** Columns of a CSV file, NaN where empty. */
export function columnsOf(name: string, file = "data.csv"): Map<string, Float64Array> {
  const [head, ...rows] = readFileSync(new URL(`${name}/${file}`, folder), "utf8")
    .trim()
    .split(/\r?\n/);
  const cells = rows.map((row) => row.split(","));
  return new Map(
    head!
      .split(",")
      .map((column, i) => [
        column,
        Float64Array.from(cells, (row) => (row[i] === "" ? NaN : Number(row[i]))),
      ]),
  );
}

/** How far two numbers differ: relative, absolute for small ones. */
export const off = (found: number | null | undefined, wanted: number | null): number => {
  if (wanted === null) return found === null || found === undefined ? 0 : Infinity;
  if (found === null || found === undefined || Number.isNaN(found)) return Infinity;
  const size = Math.abs(wanted);
  return size < 0.1 ? Math.abs(found - wanted) / 0.1 : Math.abs(found - wanted) / size;
};

/** Collects what differs by more than the tolerance. */
export class Differences {
  readonly list: string[] = [];
  constructor(private readonly tolerance = 1e-5) {}
  same(what: string, found: number | null | undefined, wanted: number | null): void {
    if (wanted === undefined) return;
    if (!(off(found, wanted) <= this.tolerance))
      this.list.push(`${what}: ${String(found)} instead of ${String(wanted)}`);
  }
}
