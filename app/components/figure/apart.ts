/**
 * Heights of words that would stand on one another, moved apart from the highest down.
 * @param heights the larger, the higher
 * @param room of one line of words, in the same units
 */
export function apart(heights: readonly number[], room: number): number[] {
  const out = [...heights];
  const order = heights.map((_, i) => i).sort((a, b) => heights[b]! - heights[a]!);
  for (let k = 1; k < order.length; k++)
    out[order[k]!] = Math.min(out[order[k]!]!, out[order[k - 1]!]! - room);
  return out;
}
