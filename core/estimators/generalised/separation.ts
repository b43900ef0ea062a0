import { nonNegativeResidual } from "../../numerics/non-negative";
import { isBinary, isCount } from "./families";
import type { Equation } from "./generalised-fit";

export type Separation = "separation_complete" | "separation_quasi" | "separation_counts";

const LIMIT = 1e-7;

/**
 * Does a combination of columns tell the response of every row (complete) or of all but those on
 * the border (quasi), or, of counts, where there are none (Albert & Anderson 1984; Correia,
 * Guimarães & Zylkin 2019)? Then no finite coefficients exist. By duality: rows s with s'γ >= 0 for
 * some γ that is not zero everywhere exist unless positive multiples of all rows sum to zero;
 * whether they do is a least-squares problem with multipliers of at least one.
 */
export function separationOf({ family, design, columns: p, y }: Equation): Separation | null {
  if (family === "linear") return null;
  const n = y.length;
  // With an intercept it makes no difference where columns have their zero, but to rounding.
  const centre = Float64Array.from({ length: p }, (_, k) => {
    let sum = 0;
    for (let i = 0; i < n; i++) sum += design[i * p + k]!;
    return k === 0 ? 0 : sum / n;
  });
  const most = Float64Array.from({ length: p }, (_, k) => {
    let largest = 0;
    for (let i = 0; i < n; i++)
      largest = Math.max(largest, Math.abs(design[i * p + k]! - centre[k]!));
    return largest || 1;
  });
  const row = (i: number, sign: number): Float64Array =>
    Float64Array.from(
      { length: p },
      (_, k) => (sign * (design[i * p + k]! - centre[k]!)) / most[k]!,
    );
  const rows: Float64Array[] = [];
  for (let i = 0; i < n; i++) {
    if (isBinary(family)) rows.push(row(i, 2 * y[i]! - 1));
    else if (y[i]! > 0) rows.push(row(i, 1), row(i, -1));
    else rows.push(row(i, -1));
  }
  if (!separates(rows, p)) return null;
  if (isCount(family)) return "separation_counts";
  return completely(rows, p) ? "separation_complete" : "separation_quasi";
}

/**
 * Which columns a separation needs: those without which, one after the other, there is none. Where
 * each of several would do alone, the first is left.
 * @returns positions of columns, without the intercept
 */
export function separatingColumns(equation: Equation): number[] {
  const { columns: p, design, y } = equation;
  let kept = Array.from({ length: p }, (_, k) => k);
  for (let k = p - 1; k > 0; k--) {
    const without = kept.filter((other) => other !== k);
    const fewer = Float64Array.from(
      { length: y.length * without.length },
      (_, at) => design[Math.floor(at / without.length) * p + without[at % without.length]!]!,
    );
    if (separationOf({ ...equation, design: fewer, columns: without.length }) !== null)
      kept = without;
  }
  return kept.filter((k) => k > 0);
}

/** Rows that occur more than once count once. */
function distinct(rows: readonly Float64Array[]): Float64Array[] {
  return [...new Map(rows.map((r) => [r.join(" "), r])).values()];
}

function separates(rows: readonly Float64Array[], p: number): boolean {
  const own = distinct(rows);
  const sum = new Float64Array(p);
  for (const r of own) for (let k = 0; k < p; k++) sum[k] = sum[k]! - r[k]!;
  // What is left of -Σs after multiples of rows: minus a direction that separates.
  const left = nonNegativeResidual(own, sum);
  const largest = Math.max(...left.map(Math.abs));
  if (largest === 0) return false;
  const squares = left.reduce((all, v) => all + v * v, 0);
  return squares / largest > LIMIT * own.length;
}

/** All rows strictly on one side: then no weighted mean of them is zero. */
function completely(rows: readonly Float64Array[], p: number): boolean {
  const own = distinct(rows).map((r) => Float64Array.from([...r, 1]));
  const target = new Float64Array(p + 1);
  target[p] = 1;
  const left = nonNegativeResidual(own, target);
  return left[p]! > LIMIT;
}
