import { orthogonalFactor } from "../numerics/orthogonal";
import type { Prepared } from "../preparation";

/**
 * How many clusters a coefficient rests on, in effect: (Σ L)² / Σ L², with L the share of a cluster
 * in what is left of a predictor once the other columns of its equation are taken out (its partial
 * leverage). Equal shares give the number of clusters, one cluster that holds nearly all of it gives
 * one (Carter, Schnepel & Steigerwald 2017, Rev Econ Stat 99, for one coefficient).
 * @returns null where the engine has no such equation, or there are no clusters
 */
export function effectiveClusters(
  { fit, resampling }: Pick<Prepared, "fit" | "resampling">,
  from: string,
  to: string,
): number | null {
  const { scheme } = resampling;
  const columns = fit.points?.(to)?.columns;
  const own = columns?.find((c) => c.key === from);
  if (scheme.kind !== "clusters" || !columns || !own) return null;
  const others = columns.filter((c) => c !== own);
  const factor = orthogonalFactor([...others, own].map((c) => c.values));
  if (factor.dependent) return null;
  const left = factor.q.at(-1)!;
  let sum = 0;
  let squares = 0;
  for (const rows of scheme.members) {
    let share = 0;
    for (const row of rows) share += left[row]! * left[row]!;
    sum += share;
    squares += share * share;
  }
  return (sum * sum) / squares;
}
