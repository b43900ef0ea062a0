import { inverse, Matrix } from "ml-matrix";
import type { Column } from "../../design";
import type { Covariance } from "../../model";
import { mean } from "../../numerics/moments";
import { COVARIANCES, type CovarianceKind } from "../../study";

/**
 * The classical covariance of the coefficients of one equation, taking the scores as they are:
 * nothing of how weights vary from sample to sample is in it. Everything that claims more is
 * resampled.
 * @param y outcome; @param columns predictors; @param b the mean of the outcome, then coefficients
 *   of columns about their means
 */
export function conditionalCovariance(
  y: Float64Array,
  columns: readonly Column[],
  b: Float64Array,
): Record<CovarianceKind, Covariance> {
  const n = y.length;
  const size = b.length;
  const means = columns.map((c) => mean(c.values));
  const centre = mean(y);
  const rows = columns.map((c, k) => Float64Array.from(c.values, (v) => v - means[k]!));
  let rss = 0;
  for (let i = 0; i < n; i++) {
    let e = y[i]! - centre;
    for (let k = 0; k < rows.length; k++) e -= b[k + 1]! * rows[k]![i]!;
    rss += e * e;
  }
  const variance = rss / (n - size);
  const cross = new Matrix(
    rows.map((a) =>
      rows.map((c) => {
        let sum = 0;
        for (let i = 0; i < n; i++) sum += a[i]! * c[i]!;
        return sum;
      }),
    ),
  );
  const inverted = inverse(cross);
  const values = new Float64Array(size * size);
  values[0] = variance / n;
  for (let i = 1; i < size; i++)
    for (let j = 1; j < size; j++) values[i * size + j] = variance * inverted.get(i - 1, j - 1);
  const none = { size, values: new Float64Array(size * size).fill(NaN) };
  return Object.fromEntries(
    COVARIANCES.map((kind) => [kind, kind === "classical" ? { size, values } : none]),
  ) as Record<CovarianceKind, Covariance>;
}
