import type { JointCovariance } from "../estimators/least-squares";
import type { Evaluator } from "../effects/expression";
import { RandomStream } from "../numerics/random";
import { quantile6 } from "../numerics/quantile";

/** Draws of the Monte Carlo interval use stream indices from here on, apart from those of bootstrap replicates. */
const FIRST_STREAM = 0x80000000;

export interface MonteCarloInterval {
  draws: number;
  lower: number;
  upper: number;
}

/**
 * Monte Carlo intervals (MacKinnon, Lockwood & Williams 2004, Multivar Behav Res 39): parameter vectors from
 * N(b, V), quantiles of each function of them.
 * @param theta parameter vector; those beyond the covariance's size (SDs) stay fixed
 */
export function monteCarloIntervals(
  theta: Float64Array,
  v: JointCovariance,
  functions: Evaluator[],
  draws: number,
  seed: number,
  level: number,
): MonteCarloInterval[] {
  const root = semidefiniteRoot(v);
  const stream = new RandomStream();
  const normals = new Float64Array(v.size);
  const vector = theta.slice();
  const values = functions.map(() => new Float64Array(draws));
  for (let r = 0; r < draws; r++) {
    stream.key(seed, FIRST_STREAM + r);
    for (let i = 0; i < v.size; i++) normals[i] = stream.normal();
    for (let i = 0; i < v.size; i++) {
      let shift = 0;
      for (let j = 0; j <= i; j++) shift += root[i * v.size + j]! * normals[j]!;
      vector[i] = theta[i]! + shift;
    }
    functions.forEach((f, at) => (values[at]![r] = f(vector, 0)));
  }
  const alpha = 1 - level;
  return values.map((column) => {
    const sorted = column.filter((value) => Number.isFinite(value)).sort();
    return { draws, lower: quantile6(sorted, alpha / 2), upper: quantile6(sorted, 1 - alpha / 2) };
  });
}

/** Cholesky root of a covariance that may be singular: a vanishing pivot leaves a zero column. */
function semidefiniteRoot({ size, values }: JointCovariance): Float64Array {
  const l = new Float64Array(size * size);
  for (let j = 0; j < size; j++) {
    let pivot = values[j * size + j]!;
    for (let m = 0; m < j; m++) pivot -= l[j * size + m]! ** 2;
    if (pivot <= 1e-13 * values[j * size + j]!) continue;
    const root = Math.sqrt(pivot);
    l[j * size + j] = root;
    for (let i = j + 1; i < size; i++) {
      let sum = values[i * size + j]!;
      for (let m = 0; m < j; m++) sum -= l[i * size + m]! * l[j * size + m]!;
      l[i * size + j] = sum / root;
    }
  }
  return l;
}
