import { choleskyInPlace } from "../../numerics/cholesky";
import { ln } from "../../numerics/elementary";
import { mean } from "../../numerics/moments";
import type { SampleMoments } from "./normal-likelihood";

/** Means and covariances with divisor n, deviations taken first. */
export function sampleMoments(columns: readonly ArrayLike<number>[]): SampleMoments {
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
  return { n, means, covariance };
}

/** Log-likelihood of the unrestricted normal distribution at its own estimates; -Infinity where the covariances are singular. */
export function saturatedLogLikelihood({ n, means, covariance }: SampleMoments): number {
  const p = means.length;
  const factor = covariance.slice();
  if (!(choleskyInPlace(factor, p, p) > 0)) return -Infinity;
  let logDeterminant = 0;
  for (let i = 0; i < p; i++) logDeterminant += 2 * ln(factor[i * p + i]!);
  return -0.5 * n * (p * ln(2 * Math.PI) + logDeterminant + p);
}

/** Log-likelihood where all variables are uncorrelated, with their own means and variances. */
export function baselineLogLikelihood({ n, means, covariance }: SampleMoments): number {
  const p = means.length;
  let logDeterminant = 0;
  for (let i = 0; i < p; i++) logDeterminant += ln(covariance[i * p + i]!);
  return -0.5 * n * (p * ln(2 * Math.PI) + logDeterminant + p);
}
