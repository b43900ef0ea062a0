import type { SampleMoments } from "./estimator";

/**
 * Means and covariances of some rows, each with weight one, in two passes.
 * @param values row-major, `p` columns; @param rows positions, which may repeat
 */
export function momentsOfRows(
  values: Float64Array,
  p: number,
  rows: ArrayLike<number>,
): SampleMoments {
  const n = rows.length;
  const means = new Float64Array(p);
  const covariances = new Float64Array(p * p);
  for (let i = 0; i < n; i++)
    for (let k = 0; k < p; k++) means[k] = means[k]! + values[rows[i]! * p + k]!;
  for (let k = 0; k < p; k++) means[k] = means[k]! / n;
  const d = new Float64Array(p);
  for (let i = 0; i < n; i++) {
    for (let k = 0; k < p; k++) d[k] = values[rows[i]! * p + k]! - means[k]!;
    for (let k = 0; k < p; k++) {
      const own = d[k]!;
      for (let m = k; m < p; m++) covariances[k * p + m] = covariances[k * p + m]! + own * d[m]!;
    }
  }
  for (let k = 0; k < p; k++)
    for (let m = k; m < p; m++) {
      covariances[k * p + m] = covariances[k * p + m]! / (n - 1);
      covariances[m * p + k] = covariances[k * p + m]!;
    }
  return {
    total: n,
    means,
    covariances,
    rowWeights: () => {
      const weights = new Float64Array(values.length / p);
      for (let i = 0; i < n; i++) weights[rows[i]!] = weights[rows[i]!]! + 1;
      return weights;
    },
  };
}
