/**
 * The sample quantile of type 6 (Hyndman & Fan 1996, Am Stat 50), the only sample quantile used in
 * Hebel.
 * @param sorted values in ascending order, at least one
 * @param q probability; outside [1/(B+1), B/(B+1)] the extreme value is returned
 */
export function quantile6(sorted: ArrayLike<number>, q: number): number {
  const size = sorted.length;
  const g = (size + 1) * q;
  const j = Math.floor(g);
  if (j < 1) return sorted[0]!;
  if (j >= size) return sorted[size - 1]!;
  const below = sorted[j - 1]!;
  return below + (g - j) * (sorted[j]! - below);
}
