import { logRising, reciprocalSums } from "../../numerics/counting";
import { exp, ln, log1p } from "../../numerics/elementary";

const MOST_STEPS = 100;
const SETTLED = 1e-12;
/** Largest step in the logarithm. */
const FARTHEST_STEP = 2;
/**
 * From here on counts scatter no more than a Poisson model has them, and the logarithm is not
 * followed further.
 */
export const MOST_SIZE = exp(16);
const LEAST_SIZE = exp(-12);

/**
 * Maximum likelihood of the size θ of a negative binomial response (variance μ + μ²/θ) at given
 * means, by Newton's steps in its logarithm; counts being whole, sums of 1/(θ + k) stand for
 * digamma functions.
 * @param size where it begins
 */
export function sizeOf(
  y: Float64Array,
  mu: Float64Array,
  weights: Float64Array,
  size: number,
): number {
  let log = ln(size);
  for (let step = 0; step < MOST_STEPS; step++) {
    const theta = exp(log);
    let slope = 0;
    let curvature = 0;
    for (let i = 0; i < y.length; i++) {
      const w = weights[i]!;
      if (w === 0) continue;
      const [count, mean] = [y[i]!, mu[i]!];
      const both = theta + mean;
      const { first, second } = reciprocalSums(theta, count);
      slope += w * (first + ln(theta / both) + (mean - count) / both);
      curvature += w * (-second + 1 / theta - 1 / both - (mean - count) / (both * both));
    }
    const along = theta * slope;
    const bend = theta * theta * curvature + along;
    const wanted = bend < 0 ? -along / bend : Math.sign(along) * FARTHEST_STEP;
    const move = Math.max(-FARTHEST_STEP, Math.min(FARTHEST_STEP, wanted));
    log += move;
    if (log >= ln(MOST_SIZE)) return MOST_SIZE;
    if (log <= ln(LEAST_SIZE)) return LEAST_SIZE;
    if (Math.abs(move) < SETTLED) break;
  }
  return exp(log);
}

/** Log-likelihood of counts, all constants included. */
export function countLogLikelihood(y: Float64Array, mu: Float64Array, theta: number): number {
  let sum = 0;
  for (let i = 0; i < y.length; i++) {
    const [count, mean] = [y[i]!, mu[i]!];
    sum += logRising(theta, count);
    sum -= theta * log1p(mean / theta);
    if (count > 0) sum += count * ln(mean / (theta + mean));
  }
  return sum;
}
