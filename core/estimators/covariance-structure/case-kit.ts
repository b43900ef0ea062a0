import { readFileSync } from "node:fs";
import type { Arrow } from "./arrows";
import { fitModel, type FittedModel } from "./fit-model";
import type { Estimator, Specification } from "./specification";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are read as they stand in the files */

const folder = new URL("../../../reference/latent/", import.meta.url);

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

/** “a -> b”, “a <-> b”, “1 -> b” of the expected files as an arrow. */
export function arrowOf(text: string, label: string | null, value = 0): Arrow {
  const both = text.includes("<->");
  const [from, to] = text.split(both ? " <-> " : " -> ") as [string, string];
  const kind = both ? "covariance" : from === "1" ? "intercept" : "path";
  return { kind, from: kind === "intercept" ? "" : from, to, label, value };
}

/** The model of a case as it is stated there. */
export function specOf(model: any, estimator: Estimator = "ml"): Specification {
  const names: string[] = model.groups ?? ["all"];
  return {
    observed: model.observed,
    latent: model.latent,
    groups: names.map((name) => ({
      name,
      arrows: model.arrows
        .filter((a: any) => !a.group || a.group === name)
        .map((a: any) => arrowOf(a.arrow, a.free ? a.parameter : null, a.value ?? 0)),
    })),
    means: model.mean_structure,
    estimator,
    convention: "normal",
  };
}

/** A model of one group, fitted to the columns of a file. */
export const fitTo = (
  spec: Specification,
  data: Map<string, Float64Array>,
  momentsOnly = false,
): FittedModel =>
  fitModel(spec, { groups: [spec.observed.map((name) => data.get(name)!)], momentsOnly });

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
