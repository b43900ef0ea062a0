import type { ArrowModel, Slot } from "./arrows";

/** Means and covariances to begin from, of one group. */
export interface StartMoments {
  means: Float64Array;
  /** p x p. */
  covariance: Float64Array;
}

/**
 * Where fitting begins: half of an item's variance its factor's, loadings with the sign of the
 * item's covariance with the item that gives the factor its scale, paths and latent covariances 0,
 * observed variables at their own moments. Results do not depend on it.
 */
export function startValues(
  models: readonly ArrowModel[],
  moments: readonly StartMoments[],
): Float64Array {
  const theta = new Float64Array(models[0]!.parameters.length);
  models.forEach((model, g) => startGroup(model, moments[g]!, theta));
  return theta;
}

function startGroup(
  model: ArrowModel,
  { means, covariance }: StartMoments,
  theta: Float64Array,
): void {
  const { observed: p, slots } = model;
  const variance = (i: number): number => covariance[i * p + i]!;
  const scales = new FactorScales(model, variance);
  const isItem = new Set(
    slots.flatMap((s) => (s.matrix === "A" && s.column >= p && s.row < p ? [s.row] : [])),
  );
  for (const slot of slots) {
    const { matrix, row, column, parameter } = slot;
    if (parameter < 0) continue;
    if (matrix === "m") theta[parameter] = row < p ? means[row]! : 0;
    else if (matrix === "A") theta[parameter] = startPath(slot, model, scales, covariance);
    else if (row !== column)
      theta[parameter] =
        row < p && !isItem.has(row) && !isItem.has(column) ? covariance[row * p + column]! : 0;
    else if (row >= p) theta[parameter] = scales.variance(row);
    else theta[parameter] = isItem.has(row) ? 0.5 * variance(row) : variance(row);
  }
}

function startPath(
  { row, column }: Slot,
  { observed: p }: ArrowModel,
  scales: FactorScales,
  covariance: Float64Array,
): number {
  if (column < p) return 0;
  if (row < p) {
    const by = scales.marker(column)!;
    const sign = row === by.to ? 1 : Math.sign(covariance[row * p + by.to]! * by.loading) || 1;
    return sign * Math.sqrt((0.5 * covariance[row * p + row]!) / scales.variance(column));
  }
  // A factor without items of its own is measured by factors.
  return scales.measuredByItems(column)
    ? 0
    : Math.sqrt((0.5 * scales.variance(row)) / scales.variance(column));
}

/** What gives factors their scale, and the variances that follow. */
class FactorScales {
  private readonly known = new Map<number, number>();

  constructor(
    private readonly model: ArrowModel,
    private readonly observedVariance: (i: number) => number,
  ) {}

  measuredByItems(factor: number): boolean {
    return this.loadings(factor).some((s) => s.row < this.model.observed);
  }

  /** What a fixed loading leads to; the first one where none is fixed. */
  marker(factor: number): { to: number; loading: number } | null {
    const all = this.loadings(factor);
    const own = all.filter((s) => s.row < this.model.observed);
    const loadings = own.length > 0 ? own : all;
    const fixed = loadings.find((s) => s.parameter < 0 && s.value !== 0);
    const first = fixed ?? loadings[0];
    return first ? { to: first.row, loading: fixed ? fixed.value : 1 } : null;
  }

  variance(factor: number): number {
    const found = this.known.get(factor);
    if (found !== undefined) return found;
    this.known.set(factor, 1);
    const { observed, slots } = this.model;
    const held = slots.find(
      (s) => s.matrix === "S" && s.row === factor && s.column === factor && s.parameter < 0,
    );
    const by = this.marker(factor);
    let value = 1;
    if (held && held.value > 0) value = held.value;
    else if (by) {
      const of = by.to < observed ? this.observedVariance(by.to) : this.variance(by.to);
      value = (0.5 * of) / (by.loading * by.loading);
    }
    this.known.set(factor, value);
    return value;
  }

  private loadings(factor: number): Slot[] {
    return this.model.slots.filter((s) => s.matrix === "A" && s.column === factor);
  }
}
