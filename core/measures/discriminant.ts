import { exp, ln } from "../numerics/elementary";

/** Heterotrait-monotrait ratios of two blocks of items. */
export interface HeterotraitRatio {
  first: string;
  second: string;
  /** Henseler, Ringle & Sarstedt (2015): arithmetic means of absolute correlations. */
  htmt: number | null;
  /** Roemer, Schuberth & Henseler (2021): geometric means. */
  htmt2: number | null;
  /**
   * Mean absolute correlation of an item of one with an item of the other, and among the items of
   * either.
   */
  between: number;
  within: [number, number];
}

export interface ItemBlock {
  name: string;
  /** Positions of its items in the correlation matrix. */
  items: number[];
}

/**
 * HTMT and HTMT2 of every pair of blocks, from absolute correlations. A block of one item has a
 * monotrait mean of 1.
 * @param r correlations of all items on common rows
 */
export function heterotraitRatios(blocks: ItemBlock[], r: number[][]): HeterotraitRatio[] {
  const ratios: HeterotraitRatio[] = [];
  blocks.forEach((second, j) => {
    for (const first of blocks.slice(0, j)) {
      const between = first.items.flatMap((a) => second.items.map((b) => Math.abs(r[a]![b]!)));
      const own = [within(first, r), within(second, r)] as const;
      ratios.push({
        first: first.name,
        second: second.name,
        htmt: ratio(arithmetic, between, ...own),
        htmt2: ratio(geometric, between, ...own),
        between: arithmetic(between),
        within: [arithmetic(own[0]), arithmetic(own[1])],
      });
    }
  });
  return ratios;
}

function within({ items }: ItemBlock, r: number[][]): number[] {
  if (items.length === 1) return [1];
  return items.flatMap((a, i) => items.slice(0, i).map((b) => Math.abs(r[a]![b]!)));
}

function ratio(
  average: (values: number[]) => number,
  between: number[],
  first: number[],
  second: number[],
): number | null {
  const below = Math.sqrt(average(first) * average(second));
  return below > 0 ? average(between) / below : null;
}

const arithmetic = (values: number[]): number => values.reduce((a, b) => a + b, 0) / values.length;
/** Zero among the values makes the mean zero. */
const geometric = (values: number[]): number => exp(arithmetic(values.map((v) => ln(v))));
