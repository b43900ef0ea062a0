import { Phi, phi, zQuantile } from "../numerics/distributions";

/** A variable taken as ordered answers: levels that occur, and the thresholds between them. */
export interface OrderedColumn {
  kind: "ordered";
  /** Distinct answers in ascending order. */
  levels: number[];
  /** Position of each case's answer among the levels; -1 where it is missing. */
  codes: Int32Array;
  /** Cases at each level, and of all. */
  counts: Float64Array;
  n: number;
  /** Of the standard normal variable behind the answers, one less than levels. */
  thresholds: Float64Array;
}

/** A variable that stays a number. */
export interface NumericColumn {
  kind: "numeric";
  values: Float64Array;
  n: number;
  mean: number;
  /** Divisor n. */
  variance: number;
}

export type StagedColumn = OrderedColumn | NumericColumn;

/** More levels than that are a number. */
export const MOST_LEVELS = 7;

/** Answers that occur, ascending. */
export const levelsOf = (values: Float64Array): number[] =>
  [...new Set(values.filter((y) => !Number.isNaN(y)))].sort((a, b) => a - b);

/** Positions of answers among levels; -1 where missing. */
export function codesOf(values: Float64Array, levels: readonly number[]): Int32Array {
  const at = new Map(levels.map((level, c) => [level, c]));
  return Int32Array.from(values, (y) => at.get(y) ?? -1);
}

/**
 * The first stage of an ordered variable: thresholds from cumulative shares (Olsson 1979,
 * Psychometrika 44).
 * @param weights how often each case counts; once each where null
 * @returns levels that nobody has in these cases are merged with the one above them
 */
export function orderedColumn(
  codes: Int32Array,
  levels: readonly number[],
  weights: ArrayLike<number> | null = null,
): OrderedColumn {
  const all = new Float64Array(levels.length);
  codes.forEach((code, i) => {
    if (code >= 0) all[code] = all[code]! + (weights ? weights[i]! : 1);
  });
  const kept = levels.map((_, c) => c).filter((c) => all[c]! > 0);
  const counts = Float64Array.from(kept, (c) => all[c]!);
  const place = new Map(kept.map((c, at) => [c, at]));
  const n = counts.reduce((sum, count) => sum + count, 0);
  let below = 0;
  const thresholds = Float64Array.from(kept.slice(1), (_, c) => {
    below += counts[c]!;
    return zQuantile(below / n);
  });
  const same = kept.length === levels.length;
  return {
    kind: "ordered",
    levels: kept.map((c) => levels[c]!),
    codes: same ? codes : codes.map((code) => place.get(code) ?? -1),
    counts,
    n,
    thresholds,
  };
}

/** The first stage of a number: mean and variance with divisor n, deviations taken first. */
export function numericColumn(
  values: Float64Array,
  weights: ArrayLike<number> | null = null,
): NumericColumn {
  let n = 0;
  let sum = 0;
  const each = (use: (y: number, weight: number) => void): void =>
    values.forEach((y, i) => {
      const weight = weights ? weights[i]! : 1;
      if (weight > 0 && !Number.isNaN(y)) use(y, weight);
    });
  each((y, weight) => {
    n += weight;
    sum += weight * y;
  });
  const mean = sum / n;
  let squares = 0;
  each((y, weight) => (squares += weight * (y - mean) * (y - mean)));
  return { kind: "numeric", values, n, mean, variance: squares / n };
}

/**
 * What one more case at each level moves each threshold by, times n: (1(y <= c) - Phi(tau_c)) /
 * phi(tau_c).
 * @returns levels x thresholds, row-major
 */
export function thresholdInfluence({ levels, thresholds }: OrderedColumn): Float64Array {
  const size = thresholds.length;
  return Float64Array.from({ length: levels.length * size }, (_, at) => {
    const tau = thresholds[at % size]!;
    return ((Math.floor(at / size) <= at % size ? 1 : 0) - Phi(tau)) / phi(tau);
  });
}
