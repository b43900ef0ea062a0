import { choleskyInPlace } from "../../numerics/cholesky";
import { ln } from "../../numerics/elementary";
import { mean } from "../../numerics/moments";
import { patternsOf } from "../../screening/patterns";
import type { PatternMoments } from "./pattern";

const LOG_2_PI = ln(2 * Math.PI);

/**
 * Means and covariances with divisor n, deviations taken first.
 * @param columns variables without gaps
 */
export function sampleMoments(columns: readonly ArrayLike<number>[]): PatternMoments {
  const p = columns.length;
  const n = columns[0]!.length;
  const means = Float64Array.from(columns, (column) => mean(column));
  const covariance = new Float64Array(p * p);
  for (let i = 0; i < p; i++)
    for (let j = 0; j <= i; j++) {
      let sum = 0;
      for (let r = 0; r < n; r++)
        sum += (columns[i]![r]! - means[i]!) * (columns[j]![r]! - means[j]!);
      covariance[i * p + j] = sum / n;
      covariance[j * p + i] = sum / n;
    }
  return { n, indices: Int32Array.from({ length: p }, (_, i) => i), means, covariance };
}

/** The cases that have the same variables observed. */
export interface CasePattern {
  /** Positions of the observed variables, of the cases. */
  indices: Int32Array;
  rows: Int32Array;
}

/**
 * Sorts cases by what of them is observed; cases without anything are in none.
 * @param columns variables, NaN where missing
 */
export const casePatterns = (columns: Float64Array[]): CasePattern[] =>
  patternsOf(columns, columns[0]!.length).flatMap(({ key, rows }) => {
    const indices = Int32Array.from([...key].flatMap((mark, i) => (mark === "1" ? [i] : [])));
    return indices.length === 0 ? [] : [{ indices, rows: Int32Array.from(rows) }];
  });

/** Moments of the cases of each pattern. */
export const patternMoments = (
  columns: readonly Float64Array[],
  patterns: readonly CasePattern[],
): PatternMoments[] =>
  patterns.map(({ indices, rows }) => ({
    ...sampleMoments([...indices].map((i) => Float64Array.from(rows, (row) => columns[i]![row]!))),
    indices,
  }));

/** log of the determinant of a covariance matrix; null where it is singular. */
function logDeterminant(covariance: Float64Array, p: number): number | null {
  const factor = covariance.slice();
  if (!(choleskyInPlace(factor, p, p) > 0)) return null;
  let sum = 0;
  for (let i = 0; i < p; i++) sum += 2 * ln(factor[i * p + i]!);
  return sum;
}

/**
 * Log-likelihood of the unrestricted normal distribution at its own estimates; -Infinity where the
 * covariances are singular.
 */
export function saturatedLogLikelihood({ n, means, covariance }: PatternMoments): number {
  const p = means.length;
  const determinant = logDeterminant(covariance, p);
  return determinant === null ? -Infinity : -0.5 * n * (p * LOG_2_PI + determinant + p);
}

/**
 * Mean, variance (divisor: how many are observed) and number of the observed values of each
 * variable.
 */
export function availableMoments(
  patterns: readonly PatternMoments[],
  p: number,
): { means: Float64Array; variances: Float64Array; counts: Float64Array } {
  const counts = new Float64Array(p);
  const means = new Float64Array(p);
  const variances = new Float64Array(p);
  const each = (use: (variable: number, at: number, pattern: PatternMoments) => void): void => {
    for (const pattern of patterns)
      pattern.indices.forEach((variable, at) => use(variable, at, pattern));
  };
  each((variable, at, { n, means: own }) => {
    counts[variable] = counts[variable]! + n;
    means[variable] = means[variable]! + n * own[at]!;
  });
  for (let i = 0; i < p; i++) means[i] = means[i]! / counts[i]!;
  each((variable, at, { n, means: own, covariance }) => {
    const d = own[at]! - means[variable]!;
    const k = own.length;
    variances[variable] = variances[variable]! + n * (covariance[at * k + at]! + d * d);
  });
  for (let i = 0; i < p; i++) variances[i] = variances[i]! / counts[i]!;
  return { means, variances, counts };
}

/** Log-likelihood where all variables are uncorrelated, with their own means and variances. */
export function baselineLogLikelihood(patterns: readonly PatternMoments[], p: number): number {
  const { variances, counts } = availableMoments(patterns, p);
  let value = 0;
  for (let i = 0; i < p; i++) value -= 0.5 * counts[i]! * (LOG_2_PI + ln(variances[i]!) + 1);
  return value;
}
