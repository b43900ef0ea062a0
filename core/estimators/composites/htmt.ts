/** Blocks whose items are compared with those of other blocks. */
export interface HtmtPlan {
  /** First item and the one after the last, of each block. */
  blocks: [number, number][];
}

export const pairsIn = ({ blocks }: HtmtPlan): [number, number][] =>
  blocks.flatMap((_, i) => blocks.slice(0, i).map((__, j): [number, number] => [j, i]));

/**
 * Heterotrait-monotrait ratios of absolute correlations (Henseler, Ringle & Sarstedt 2015, J Acad
 * Mark Sci 43): how strongly items of two constructs correlate, against items of the same. A single
 * item correlates with itself.
 * @param r correlations, row-major, p wide; writes one ratio for each pair of blocks to `out` at
 *   `at`
 */
export function htmtOf(
  r: Float64Array,
  p: number,
  { blocks }: HtmtPlan,
  out: Float64Array,
  at: number,
): void {
  let next = at;
  for (let i = 0; i < blocks.length; i++)
    for (let j = 0; j < i; j++) {
      const between = meanBetween(r, p, blocks[j]!, blocks[i]!);
      out[next++] =
        between / Math.sqrt(meanWithin(r, p, blocks[j]!) * meanWithin(r, p, blocks[i]!));
    }
}

/** The mean absolute correlation of an item of one block with an item of another. */
export function meanBetween(
  r: Float64Array,
  p: number,
  [a, b]: [number, number],
  [c, d]: [number, number],
): number {
  let sum = 0;
  for (let k = a; k < b; k++) for (let m = c; m < d; m++) sum += Math.abs(r[k * p + m]!);
  return sum / ((b - a) * (d - c));
}

/**
 * The mean absolute correlation among the items of a block; a single item correlates with itself.
 */
export function meanWithin(r: Float64Array, p: number, [a, b]: [number, number]): number {
  if (b - a === 1) return 1;
  let sum = 0;
  for (let k = a; k < b; k++) for (let m = a; m < k; m++) sum += Math.abs(r[k * p + m]!);
  return sum / (((b - a) * (b - a - 1)) / 2);
}
