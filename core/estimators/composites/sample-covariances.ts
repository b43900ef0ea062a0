import { WeightedSums } from "../../numerics/weighted-sums";
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

/**
 * Means and covariances of many draws of rows from the same values, each by one pass over weighted
 * sums of what is centred once.
 */
export class DrawnMoments {
  private readonly n: number;
  private readonly centre: Float64Array;
  private readonly sums: WeightedSums;

  /** @param values row-major, `p` columns */
  constructor(
    values: Float64Array,
    private readonly p: number,
  ) {
    const n = values.length / p;
    const centre = new Float64Array(p);
    values.forEach((v, at) => (centre[at % p]! += v / n));
    this.n = n;
    this.centre = centre;
    this.sums = new WeightedSums({
      rows: n,
      width: p,
      values: values.map((v, at) => v - centre[at % p]!),
      extra: new Float64Array(0),
      members: null,
    });
  }

  /** @param rows positions, which may repeat */
  of(rows: ArrayLike<number>): SampleMoments {
    const { n, p, centre, sums } = this;
    const weights = new Float64Array(n);
    for (let i = 0; i < rows.length; i++) weights[rows[i]!]! += 1;
    sums.find(weights);
    const total = rows.length;
    const covariances = new Float64Array(p * p);
    for (let k = 0; k < p; k++)
      for (let m = k; m < p; m++) {
        const about = sums.cross[k * p + m]! - (sums.sums[k]! * sums.sums[m]!) / total;
        covariances[k * p + m] = about / (total - 1);
        covariances[m * p + k] = about / (total - 1);
      }
    return {
      total,
      means: centre.map((c, k) => c + sums.sums[k]! / total),
      covariances,
      rowWeights: () => weights,
    };
  }

  /** Gives its memory back. */
  release(): void {
    this.sums.release();
  }
}
