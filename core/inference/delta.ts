import { normalTest, quadraticForm, type Covariance, type NormalTest } from "../model";

/**
 * Delta-method test of a function of the parameters with gradient g.
 * @param fixed parameters from here on (averages of moderators over the sample) are taken as fixed
 *   numbers
 * @returns null where the function also depends on parameters without a covariance (SDs), V is not
 *   available, or the function does not depend on any parameter at this place: then there is
 *   nothing to test
 */
export function deltaTest(
  estimate: number,
  g: Float64Array,
  v: Covariance,
  level: number,
  fixed = g.length,
): NormalTest | null {
  if (g.every((slope) => slope === 0)) return null;
  for (let i = v.size; i < fixed; i++) if (g[i] !== 0) return null;
  const variance = quadraticForm(g, v);
  return variance >= 0 && Number.isFinite(variance) && Number.isFinite(estimate)
    ? normalTest(estimate, variance, level)
    : null;
}
