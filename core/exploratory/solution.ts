import { product, type Extracted } from "../measures";
import type { Rotated } from "./rotation";

/** A loading from here on makes an item one of a factor (Stevens 2009). */
export const BELONGS = 0.4;
/** A second loading from here on is said (Tabachnick & Fidell 2019: .32 and more). */
export const CROSSES = 0.32;

/** Rotated factors as they are read. */
export interface FactorSolution {
  /** By factor and, within it, by size of the loading; what belongs nowhere stands last. */
  rows: LoadedItem[];
  /** Of the factors. */
  correlations: number[][];
  /** Share of the variance of all items that goes with each factor. */
  explained: number[];
  /** Items at the bound of their uniqueness. */
  atBound: string[];
  converged: boolean;
  /** Of the starts of the rotation, how many came to the same minimum. */
  agreeing: number;
  starts: number;
}

export interface LoadedItem {
  item: string;
  loadings: number[];
  /** Share of its variance that the factors explain. */
  communality: number;
  /** Where its largest loading is, if that is at least .40. */
  factor: number | null;
  /** That loading is negative. */
  reversed: boolean;
  /** Other factors on which it loads with .32 and more. */
  crosses: number[];
}

/**
 * Factors in descending order of what they explain (the diagonal of Phi L'L), each turned so that
 * its loadings have a positive sum.
 */
export function solutionOf(
  items: readonly string[],
  extracted: Extracted,
  rotated: Rotated,
): FactorSolution {
  const { loadings: pattern, correlations: phi } = rotated;
  const structure = pattern.map((row) => phi.map((_, t) => product(row, phi[t]!)));
  const weight = phi.map((_, t) =>
    pattern.reduce((sum, row, i) => sum + row[t]! * structure[i]![t]!, 0),
  );
  const order = phi.map((_, t) => t).sort((a, b) => weight[b]! - weight[a]!);
  const signs = phi.map((_, t) => (pattern.reduce((sum, row) => sum + row[t]!, 0) < 0 ? -1 : 1));
  const rows = items.map((item, i) =>
    loadedItem(
      item,
      order.map((t) => pattern[i]![t]! * signs[t]!),
      1 - extracted.uniquenesses[i]!,
    ),
  );
  const place = ({ factor }: LoadedItem): number => factor ?? phi.length;
  const size = (row: LoadedItem): number => Math.max(...row.loadings.map(Math.abs));
  return {
    rows: rows.sort((a, b) => place(a) - place(b) || size(b) - size(a)),
    correlations: order.map((a) => order.map((b) => phi[a]![b]! * signs[a]! * signs[b]!)),
    explained: order.map((t) => weight[t]! / items.length),
    atBound: items.filter((_, i) => extracted.atBound[i]),
    converged: extracted.converged,
    agreeing: rotated.agreeing,
    starts: rotated.starts,
  };
}

function loadedItem(item: string, loadings: number[], communality: number): LoadedItem {
  const sizes = loadings.map(Math.abs);
  const largest = sizes.indexOf(Math.max(...sizes));
  const factor = sizes[largest]! >= BELONGS ? largest : null;
  return {
    item,
    loadings,
    communality,
    factor,
    reversed: factor !== null && loadings[factor]! < 0,
    crosses: sizes.flatMap((size, t) => (t !== factor && size >= CROSSES ? [t] : [])),
  };
}
