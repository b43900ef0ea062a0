import type { ArrowModel } from "./arrows";
import type { SampleMoments } from "./normal-likelihood";

/**
 * Where fitting begins: half of an item's variance its factor's, loadings with the sign of the item's covariance with the item
 * that gives the factor its scale, paths and latent covariances 0, observed variables at their own moments. Results do not
 * depend on it.
 */
export function startValues(
  { variables, observed, slots, parameters }: ArrowModel,
  { means, covariance }: SampleMoments,
): Float64Array {
  const p = observed;
  const variance = (i: number): number => covariance[i * p + i]!;
  const isItem = new Set(
    slots.flatMap((s) => (s.matrix === "A" && s.column >= p && s.row < p ? [s.row] : [])),
  );
  /** The item whose loading is fixed, by factor; the first item where none is. */
  const marker = new Map<number, { item: number; loading: number }>();
  for (let factor = p; factor < variables.length; factor++) {
    const loadings = slots.filter((s) => s.matrix === "A" && s.column === factor && s.row < p);
    const fixed = loadings.find((s) => s.parameter < 0 && s.value !== 0);
    const first = fixed ?? loadings[0];
    if (first) marker.set(factor, { item: first.row, loading: fixed ? fixed.value : 1 });
  }
  const factorVariance = (factor: number): number => {
    const found = marker.get(factor);
    return found ? (0.5 * variance(found.item)) / (found.loading * found.loading) : 1;
  };
  const theta = new Float64Array(parameters.length);
  for (const { matrix, row, column, parameter } of slots) {
    if (parameter < 0) continue;
    if (matrix === "m") theta[parameter] = row < p ? means[row]! : 0;
    else if (matrix === "S") {
      if (row !== column)
        theta[parameter] =
          row < p && !isItem.has(row) && !isItem.has(column) ? covariance[row * p + column]! : 0;
      else if (row >= p) theta[parameter] = factorVariance(row);
      else theta[parameter] = isItem.has(row) ? 0.5 * variance(row) : variance(row);
    } else if (column >= p && row < p) {
      const by = marker.get(column)!;
      const sign =
        row === by.item ? 1 : Math.sign(covariance[row * p + by.item]! * by.loading) || 1;
      theta[parameter] = sign * Math.sqrt((0.5 * variance(row)) / factorVariance(column));
    }
  }
  return theta;
}
