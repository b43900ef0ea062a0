import type { Covariance, Evaluator } from "../model";
import type { BootstrapInterval } from "./interval-types";
import { percentileOf } from "./intervals";
import { RandomStream, streamIndex } from "../numerics/random";

export interface MonteCarloInterval extends BootstrapInterval {
  draws: number;
}

/**
 * Monte Carlo intervals (MacKinnon, Lockwood & Williams 2004, Multivar Behav Res 39): parameter
 * vectors from N(b, V), quantiles of each function of them.
 * @param theta parameter vector; averages of moderators, beyond the covariance's size, stay fixed
 * @param functions null where a quantity also depends on SDs, which have no covariance to draw from
 * @param follow writes the parameters that follow from those that were drawn
 */
export function monteCarloIntervals(
  theta: Float64Array,
  v: Covariance,
  functions: (Evaluator | null)[],
  draws: number,
  seed: number,
  level: number,
  follow?: (vector: Float64Array) => void,
): (MonteCarloInterval | null)[] {
  const root = semidefiniteRoot(v);
  const stream = new RandomStream();
  const normals = new Float64Array(v.size);
  const vector = theta.slice();
  const values = functions.map(() => new Float64Array(draws));
  for (let r = 0; r < draws; r++) {
    stream.key(seed, streamIndex("monteCarlo", r));
    for (let i = 0; i < v.size; i++) normals[i] = stream.normal();
    for (let i = 0; i < v.size; i++) {
      let shift = 0;
      for (let j = 0; j <= i; j++) shift += root[i * v.size + j]! * normals[j]!;
      vector[i] = theta[i]! + shift;
    }
    follow?.(vector);
    functions.forEach((f, at) => (values[at]![r] = f ? f(vector, 0) : NaN));
  }
  const alpha = 1 - level;
  return values.map((column) => {
    const sorted = column.filter((value) => Number.isFinite(value)).sort();
    // The rule for replicates holds for draws too: with more than a tenth of them missing there are
    // no limits.
    return sorted.length < 0.9 * draws ? null : { draws, ...percentileOf(sorted, alpha) };
  });
}

/** Cholesky root of a covariance that may be singular: a vanishing pivot leaves a zero column. */
function semidefiniteRoot({ size, values }: Covariance): Float64Array {
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
