import { mean } from "../numerics/moments";
import { dot, inverseGram, orthogonalFactor, solveUpper } from "../numerics/orthogonal";

/** A least-squares regression about the means of its columns: what sensitivity is told from. */
export interface Projection {
  n: number;
  /** Coefficients, the intercept counted. */
  p: number;
  /** Slopes, in the order of the columns. */
  slopes: Float64Array;
  residuals: Float64Array;
  /** Residual sum of squares over n - p. */
  variance: number;
  rSquared: number;
  /** Covariance of two slopes where the model holds: s² (Z'Z)⁻¹. */
  covariance(j: number, k: number): number;
  /** What every row adds to a slope: n (Z'Z)⁻¹ z e. */
  influence(j: number): Float64Array;
}

/**
 * Regresses `y` on columns and an intercept.
 * @returns null where the columns determine one another
 */
export function project(y: Float64Array, columns: readonly Float64Array[]): Projection | null {
  const n = y.length;
  const k = columns.length;
  const factor = orthogonalFactor([...columns]);
  if (factor.dependent || n <= k + 1) return null;
  const centre = mean(y);
  const about = y.map((v) => v - centre);
  const projections = Float64Array.from(factor.q, (q) => dot(q, about));
  const slopes = solveUpper(factor.r, k, projections).map((b, j) => b / factor.lengths[j]!);
  const residuals = about.slice();
  factor.q.forEach((q, j) => {
    for (let i = 0; i < n; i++) residuals[i] = residuals[i]! - projections[j]! * q[i]!;
  });
  const rss = dot(residuals, residuals);
  const variance = rss / (n - k - 1);
  const inverse = inverseGram(factor.r, k);
  const scaled = (j: number, m: number): number =>
    inverse[j * k + m]! / (factor.lengths[j]! * factor.lengths[m]!);
  return {
    n,
    p: k + 1,
    slopes,
    residuals,
    variance,
    rSquared: 1 - rss / dot(about, about),
    covariance: (j, m) => variance * scaled(j, m),
    influence: (j) =>
      residuals.map((e, i) => {
        let sum = 0;
        for (let m = 0; m < k; m++) sum += scaled(j, m) * (columns[m]![i]! - factor.means[m]!);
        return n * sum * e;
      }),
  };
}
