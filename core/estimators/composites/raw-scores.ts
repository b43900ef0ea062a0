import type { BuiltComposite } from "./model";

export interface RawConstruct {
  /** Weights that sum to one; null where they nearly cancel. */
  weights: Float64Array | null;
  mean: number;
  sd: number;
  /** The raw score runs against the standardised one. */
  turned: boolean;
}

/** Weights nearly cancel when their sum is so small a part of their size. */
const CANCELS = 1e-8;

/**
 * Scores on the scale of their items: weights that sum to one, and what scores of variance one
 * become.
 */
export function rawConstructs(
  { plan, means, sds }: BuiltComposite,
  weights: Float64Array,
): RawConstruct[] {
  const { start, constructs } = plan.layout;
  return Array.from({ length: constructs }, (_, j) => {
    const [from, to] = [start[j]!, start[j + 1]!];
    const own = Float64Array.from(weights.subarray(from, to), (w, k) => w / sds[from + k]!);
    const sum = own.reduce((all, w) => all + w, 0);
    const size = own.reduce((all, w) => all + Math.abs(w), 0);
    if (Math.abs(sum) < CANCELS * size) return { weights: null, mean: NaN, sd: NaN, turned: false };
    const raw = own.map((w) => w / sum);
    return {
      weights: raw,
      mean: raw.reduce((all, w, k) => all + w * means[from + k]!, 0),
      // The score has variance one.
      sd: 1 / Math.abs(sum),
      turned: sum < 0,
    };
  });
}
