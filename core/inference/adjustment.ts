import { Phi, zQuantile } from "../numerics/distributions";

/** How a nominal tail becomes the probability at which a quantile of the replicates is taken. */
export type Adjustment =
  { kind: "percentile" } | { kind: "bc"; z0: number } | { kind: "bca"; z0: number; a: number };

/** Null where the BCa map is not defined (1 - a w <= 0). */
export function adjustedTail(q: number, method: Adjustment): number | null {
  const z = zQuantile(q);
  if (method.kind === "percentile") return q;
  if (method.kind === "bc") return Phi(2 * method.z0 + z);
  const w = method.z0 + z;
  const denominator = 1 - method.a * w;
  return denominator > 0 ? Phi(method.z0 + w / denominator) : null;
}

/** The nominal tail whose adjusted probability is g. */
export function nominalTail(g: number, method: Adjustment): number {
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
