import { atanh, tanh } from "../numerics/elementary";
import { listwise, pick, type NumberColumn } from "../data";
import { studentP, zQuantile } from "../numerics/distributions";
import { correlation } from "../numerics/moments";
import { midRanks } from "../numerics/ranks";
import { isConstant } from "./block";

export interface CorrelationTest {
  r: number;
  n: number;
  /** Null when |r| = 1. */
  t: number | null;
  p: number;
  /** Null below four rows. */
  ci: [number, number] | null;
}

export interface CorrelationCell {
  x: string;
  y: string;
  /**
   * Null with fewer than three rows, or where a variable never varies among the rows of the pair.
   */
  pearson: CorrelationTest | null;
  spearman: CorrelationTest | null;
  /** Why there is no number: the variables that never vary, or too few rows. */
  lacking: { constant: string[]; n: number } | null;
}

export interface CorrelationTable {
  variables: string[];
  deletion: "pairwise" | "listwise";
  /** Listwise: the rows complete on all variables. */
  n: number | null;
  /** Every pair once, in the order of the variables. */
  cells: CorrelationCell[];
}

/** Correlations are exactly one within this. */
const PERFECT = 1e-12;

/**
 * Pearson and Spearman correlations of every pair, with t tests on n - 2 degrees of freedom and
 * Fisher intervals. The standard error of Spearman's coefficient is that of Bonett & Wright (2000,
 * Psychometrika 65).
 * @param level of the intervals, e.g. 0.95
 */
export function correlations(
  variables: NumberColumn[],
  deletion: CorrelationTable["deletion"],
  level: number,
): CorrelationTable {
  const common = deletion === "listwise" ? listwise(variables.map((v) => v.values)) : null;
  const shared = common && variables.map((v) => ({ name: v.name, values: pick(v.values, common) }));
  const sharedRanks = shared?.map((v) => midRanks(v.values));
  const cells: CorrelationCell[] = [];
  for (let i = 0; i < variables.length; i++) {
    for (let j = i + 1; j < variables.length; j++) {
      if (shared && sharedRanks)
        cells.push(cellOf(shared[i]!, shared[j]!, level, [sharedRanks[i]!, sharedRanks[j]!]));
      else cells.push(pairwiseCell(variables[i]!, variables[j]!, level));
    }
  }
  return { variables: variables.map((v) => v.name), deletion, n: common?.length ?? null, cells };
}

function pairwiseCell(x: NumberColumn, y: NumberColumn, level: number): CorrelationCell {
  const rows = listwise([x.values, y.values]);
  return cellOf(
    { name: x.name, values: pick(x.values, rows) },
    { name: y.name, values: pick(y.values, rows) },
    level,
  );
}

function cellOf(
  x: NumberColumn,
  y: NumberColumn,
  level: number,
  ranks?: [Float64Array, Float64Array],
): CorrelationCell {
  const n = x.values.length;
  const constant = [x, y].filter((v) => n > 0 && isConstant(v.values)).map((v) => v.name);
  if (n < 3 || constant.length > 0)
    return { x: x.name, y: y.name, pearson: null, spearman: null, lacking: { constant, n } };
  const [rx, ry] = ranks ?? [midRanks(x.values), midRanks(y.values)];
  return {
    x: x.name,
    y: y.name,
    pearson: test(correlation(x.values, y.values), n, level, () => 1),
    spearman: test(correlation(rx, ry), n, level, (r) => Math.sqrt(1 + (r * r) / 2)),
    lacking: null,
  };
}

function test(
  found: number,
  n: number,
  level: number,
  inflate: (r: number) => number,
): CorrelationTest {
  if (1 - Math.abs(found) <= PERFECT) {
    const r = Math.sign(found);
    return { r, n, t: null, p: 0, ci: n < 4 ? null : [r, r] };
  }
  const r = found;
  const t = r * Math.sqrt((n - 2) / (1 - r * r));
  const reach = (zQuantile((1 + level) / 2) * inflate(r)) / Math.sqrt(n - 3);
  const ci: [number, number] | null =
    n < 4 ? null : [tanh(atanh(r) - reach), tanh(atanh(r) + reach)];
  return { r, n, t, p: studentP(t, n - 2), ci };
}
