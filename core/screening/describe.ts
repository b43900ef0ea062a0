import { quantile6 } from "../numerics/quantile";
import { inUnitOf, powerOf } from "../numerics/unit";
import { extent, mean, standardDeviation } from "../numerics/moments";

/** A variable in numbers; null where a number is not defined. */
export interface Description {
  rows: number;
  n: number;
  missing: number;
  missingShare: number;
  mean: number | null;
  /** Divisor n - 1. */
  sd: number | null;
  min: number | null;
  max: number | null;
  median: number | null;
  /** The 1, 2, ... 99 % points (type 6 quantiles); null without values. */
  percentiles: number[] | null;
  /** Distinct observed values. */
  distinct: number;
  zeroVariance: boolean;
  /**
   * Adjusted Fisher-Pearson skewness G1 and excess kurtosis G2, with their standard errors under
   * normality.
   */
  skewness: number | null;
  skewnessSe: number | null;
  excessKurtosis: number | null;
  excessKurtosisSe: number | null;
}

/**
 * Describes one column. Skewness and kurtosis after Joanes & Gill (1998, Statistician 47), about
 * the mean, so that large offsets lose no digits.
 * @param values NaN where missing
 */
export function describe(values: Float64Array): Description {
  const x = values.filter((v) => !Number.isNaN(v));
  const n = x.length;
  const distinct = new Set(x).size;
  const [min, max] = extent(x);
  const shape =
    n > 3 && distinct > 1
      ? shapeOf(inUnitOf(x, powerOf(x)))
      : { skewness: null, skewnessSe: null, excessKurtosis: null, excessKurtosisSe: null };
  return {
    rows: values.length,
    n,
    missing: values.length - n,
    missingShare: values.length > 0 ? (values.length - n) / values.length : 0,
    mean: n > 0 ? mean(x) : null,
    sd: n > 1 ? (distinct === 1 ? 0 : standardDeviation(x)) : null,
    min: n > 0 ? min : null,
    max: n > 0 ? max : null,
    median: n > 0 ? median(x) : null,
    percentiles: n > 0 ? percentiles(x) : null,
    distinct,
    zeroVariance: distinct === 1,
    ...shape,
  };
}

function percentiles(x: Float64Array): number[] {
  const sorted = Float64Array.from(x).sort();
  return Array.from({ length: 99 }, (_, i) => quantile6(sorted, (i + 1) / 100));
}

function shapeOf(x: Float64Array) {
  const n = x.length;
  const centre = mean(x);
  let m2 = 0;
  let m3 = 0;
  let m4 = 0;
  for (let i = 0; i < n; i++) {
    const d = x[i]! - centre;
    m2 += d * d;
    m3 += d * d * d;
    m4 += d * d * d * d;
  }
  const g1 = m3 / n / ((m2 / n) * Math.sqrt(m2 / n));
  const g2 = m4 / n / (m2 / n) ** 2 - 3;
  const skewnessSe = Math.sqrt((6 * n * (n - 1)) / ((n - 2) * (n + 1) * (n + 3)));
  return {
    skewness: (Math.sqrt(n * (n - 1)) / (n - 2)) * g1,
    skewnessSe,
    excessKurtosis: ((n - 1) / ((n - 2) * (n - 3))) * ((n + 1) * g2 + 6),
    excessKurtosisSe: 2 * skewnessSe * Math.sqrt((n * n - 1) / ((n - 3) * (n + 5))),
  };
}

/**
 * The middle value, or the mean of the two middle values, halved first so that their sum cannot
 * overflow.
 */
export function median(x: Float64Array): number {
  const sorted = Float64Array.from(x).sort();
  const half = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[half]! : sorted[half - 1]! / 2 + sorted[half]! / 2;
}
