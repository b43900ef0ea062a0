import { readFileSync } from "node:fs";
import { join } from "node:path";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

const here = join(import.meta.dirname, "composite");

export const readComposite = (name: string, file: string): string =>
  readFileSync(join(here, name, file), "utf8");

export const expectedOf = (name: string): any => JSON.parse(readComposite(name, "expected.json"));

/** The columns of a case, NaN where a cell is empty. */
export function columnsOf(name: string): Map<string, Float64Array> {
  const [head, ...rows] = readComposite(name, "data.csv").trim().split("\n");
  const cells = rows.map((row) => row.trim().split(","));
  return new Map(
    head!
      .trim()
      .split(",")
      .map((column, k) => [
        column,
        Float64Array.from(cells, (row) => (row[k] === "" ? NaN : Number(row[k]))),
      ]),
  );
}

const camel = (key: string): string =>
  key.replace(/_([a-z])/g, (_, letter: string) => letter.toUpperCase());

const ALIASES: Record<string, string> = { scoresFirst5: "scores", fitStageOne: "fit" };

/** Fields of the files that are something else than numbers of the record. */
const ELSEWHERE = new Set(["warnings", "model", "note", "n_dropped", "interaction_f2"]);

/**
 * What differs between a record and the expected numbers, by path: relative 1e-6, absolute 1e-8 near zero. Keys that a record
 * does not have at all at its top are left to other tests.
 */
export function compared(found: any, wanted: any, where = "", top = true): string[] {
  return Object.entries(wanted).flatMap(([key, value]: [string, any]): string[] => {
    if (ELSEWHERE.has(key)) return [];
    const name = Object.hasOwn(found, key) ? key : (ALIASES[camel(key)] ?? camel(key));
    const here2 = `${where}/${key}`;
    if (!Object.hasOwn(found, name)) return top ? [] : [`${here2} is not there`];
    const own = found[name];
    if (typeof value === "number") {
      const close = Math.abs(own - value) <= Math.max(1e-6 * Math.abs(value), 1e-8);
      return close ? [] : [`${here2}: ${own} instead of ${value}`];
    }
    if (value === null) return own === null ? [] : [`${here2}: ${own} instead of nothing`];
    if (typeof value === "boolean") return own === value ? [] : [here2];
    if (name === "scores")
      return Object.entries(value as Record<string, number[]>).flatMap(([construct, list]) =>
        list.flatMap((v, i) =>
          Math.abs(own[construct][i] - v) < 1e-6 ? [] : [`${here2} ${construct} ${i}`],
        ),
      );
    if (name === "scoresFirst5") return [];
    return compared(own, value, here2, false).filter((line) => !line.includes("scores_first5"));
  });
}
