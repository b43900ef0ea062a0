import { Phi, zQuantile } from "../numerics/distributions";
import type { Adjustment } from "./intervals";

export interface BootstrapP {
  pTwoSided: number;
  /** For the alternative that the effect is above, or below, the null value. */
  pGreater: number;
  pLess: number;
  /** Every replicate lies on one side of the null, so the p value is only known to be below this. */
  pIsBound: boolean;
}

/**
 * The smallest error rate at which the interval excludes the null value: the interval inverted in closed form.
 * @param sorted replicates in ascending order
 */
export function bootstrapP(sorted: Float64Array, nullValue: number, method: Adjustment): BootstrapP {
  const B = sorted.length;
  const below = countBelow(sorted, nullValue);
  let upTo = below;
  while (upTo < B && sorted[upTo]! === nullValue) upTo += 1;
  const pIsBound = below === upTo && (below === 0 || below === B);
  const [gMinus, gPlus] = ranksOfNull(sorted, nullValue, below, upTo);
  const greater = mapBack(gPlus, method);
  const less = 1 - mapBack(gMinus, method);
  return { pTwoSided: Math.min(1, 2 * Math.min(greater, less)), pGreater: greater, pLess: less, pIsBound };
}

/** inf{q: Q(q) >= null} and sup{q: Q(q) <= null} of the type-6 quantile function. */
function ranksOfNull(sorted: Float64Array, nullValue: number, below: number, upTo: number): [number, number] {
  const B = sorted.length;
  if (upTo > below) {
    return [below === 0 ? 0 : (below + 1) / (B + 1), upTo === B ? 1 : upTo / (B + 1)];
  }
  if (below === 0) return [1 / (B + 1), 1 / (B + 1)];
  if (below === B) return [B / (B + 1), B / (B + 1)];
  const left = sorted[below - 1]!;
  const rank = (below + (nullValue - left) / (sorted[below]! - left)) / (B + 1);
  return [rank, rank];
}

/** The nominal tail whose adjusted probability is g. */
function mapBack(g: number, method: Adjustment): number {
  if (method.kind === "percentile") return g;
  if (method.kind === "bc") return Phi(zQuantile(g) - 2 * method.z0);
  if (g <= 0 || g >= 1) return limitOfBca(g, method.z0, method.a);
  const u = zQuantile(g) - method.z0;
  const d = 1 + method.a * u;
  if (d <= 0) return u > 0 ? 1 : 0;
  return Phi(u / d - method.z0);
}

/** u -> -inf or +inf: u / (1 + a u) tends to 1 / a where the denominator stays positive. */
function limitOfBca(g: number, z0: number, a: number): number {
  if (g <= 0) return a < 0 ? Phi(1 / a - z0) : 0;
  return a > 0 ? Phi(1 / a - z0) : 1;
}

/** How many of the sorted values lie below `value`, by bisection. */
function countBelow(sorted: Float64Array, value: number): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (sorted[middle]! < value) low = middle + 1;
    else high = middle;
  }
  return low;
}
