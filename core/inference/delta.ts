import { normalP, zQuantile } from "../numerics/distributions";
import type { JointCovariance } from "../estimators/least-squares";

/** A z test with its interval. */
export interface NormalTest {
  se: number;
  z: number;
  p: number;
  lower: number;
  upper: number;
}

/** a' V b over the coefficients; what longer gradients hold beyond them does not enter. */
export function bilinearForm(a: Float64Array, b: Float64Array, { size, values }: JointCovariance): number {
  let sum = 0;
  for (let i = 0; i < size; i++) {
    if (a[i] === 0) continue;
    // Skipping zeros also skips blocks of equations that have no covariance.
    for (let j = 0; j < size; j++) if (b[j] !== 0) sum += a[i]! * values[i * size + j]! * b[j]!;
  }
  return sum;
}

/** g' V g: the variance of a function with gradient g. */
export const quadraticForm = (g: Float64Array, v: JointCovariance): number => bilinearForm(g, g, v);

/** @param level confidence level of the interval */
export function normalTest(estimate: number, variance: number, level: number): NormalTest {
  const se = Math.sqrt(variance);
  const reach = zQuantile(1 - (1 - level) / 2) * se;
  return { se, z: estimate / se, p: normalP(estimate / se), lower: estimate - reach, upper: estimate + reach };
}

/**
 * Delta-method test of a function of the coefficients with gradient g.
 * @param fixed parameters from here on (averages of moderators over the sample) are taken as fixed numbers
 * @returns null where the function also depends on parameters without a covariance (SDs), or V is not available
 */
export function deltaTest(estimate: number, g: Float64Array, v: JointCovariance, level: number, fixed = g.length): NormalTest | null {
  for (let i = v.size; i < fixed; i++) if (g[i] !== 0) return null;
  const variance = quadraticForm(g, v);
  return variance >= 0 && Number.isFinite(estimate) ? normalTest(estimate, variance, level) : null;
}
