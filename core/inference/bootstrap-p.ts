import { countUntil } from "../numerics/sort";
import { nominalTail, type Adjustment } from "./adjustment";

export interface BootstrapP {
  pTwoSided: number;
  /** For the alternative that the effect is above, or below, the null value. */
  pGreater: number;
  pLess: number;
  /**
   * Every replicate lies on one side of the null, so the p value is only known to be below this.
   */
  pIsBound: boolean;
}

/**
 * The smallest error rate at which the interval excludes the null value: the interval inverted in
 * closed form.
 * @param sorted replicates in ascending order
 */
export function bootstrapP(
  sorted: Float64Array,
  nullValue: number,
  method: Adjustment,
): BootstrapP {
  const B = sorted.length;
  const below = countUntil(sorted, (t) => t >= nullValue);
  let upTo = below;
  while (upTo < B && sorted[upTo]! === nullValue) upTo += 1;
  const pIsBound = below === upTo && (below === 0 || below === B);
  const [gMinus, gPlus] = ranksOfNull(sorted, nullValue, below, upTo);
  const greater = nominalTail(gPlus, method);
  const less = 1 - nominalTail(gMinus, method);
  return {
    pTwoSided: Math.min(1, 2 * Math.min(greater, less)),
    pGreater: greater,
    pLess: less,
    pIsBound,
  };
}

/** inf{q: Q(q) >= null} and sup{q: Q(q) <= null} of the type-6 quantile function. */
function ranksOfNull(
  sorted: Float64Array,
  nullValue: number,
  below: number,
  upTo: number,
): [number, number] {
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

/**
 * The two-sided p as it may be told: where all replicates lie on one side of the null, so many of
 * them tell of none below 2 / (B + 1), also where an adjustment would go below it.
 */
export const toldP = ({ pTwoSided, pIsBound }: BootstrapP, B: number): number =>
  pIsBound ? Math.max(pTwoSided, 2 / (B + 1)) : pTwoSided;
