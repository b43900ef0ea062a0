import { RandomStream } from "../numerics/random";

/**
 * A random half of the positions 0..n-1, in ascending order: the first holds one more where n is
 * odd. The same for a seed, and the two halves of a seed share nobody.
 */
export function halfOf(n: number, which: 1 | 2, seed: number): Int32Array {
  const stream = new RandomStream(seed, 0);
  const mixed = Int32Array.from({ length: n }, (_, i) => i);
  for (let i = n - 1; i > 0; i--) {
    const j = stream.below(i + 1);
    [mixed[i], mixed[j]] = [mixed[j]!, mixed[i]!];
  }
  const cut = Math.ceil(n / 2);
  return (which === 1 ? mixed.slice(0, cut) : mixed.slice(cut)).sort();
}
