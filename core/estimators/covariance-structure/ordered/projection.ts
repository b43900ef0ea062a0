import { inner, times, type WeightedMoments } from "../moment-objective";
import { inverseOf } from "../scoring";

/** Derivatives of the statistics by the parameters, and what least squares needs of them. */
export interface Projection {
  /** Columns of D, of W D. */
  D: Float64Array[];
  WD: Float64Array[];
  /** (D'WD)^-1, q x q. */
  inverse: Float64Array;
}

/**
 * @param columns of D; null where a parameter changes nothing
 * @returns null where D'WD is singular
 */
export function projection(
  { weight, moments }: WeightedMoments,
  columns: readonly (Float64Array | null)[],
): Projection | null {
  const q = columns.length;
  const D = columns.map((column) => column ?? new Float64Array(moments.length));
  const WD = D.map((column) => times(weight, column));
  const information = new Float64Array(q * q);
  for (let a = 0; a < q; a++)
    for (let b = 0; b < q; b++) information[a * q + b] = inner(D[a]!, WD[b]!);
  const inverse = inverseOf(information, q);
  return inverse && { D, WD, inverse };
}

/** (D'WD)^-1 x, with x given as D'W of something. */
export function solved({ inverse }: Projection, x: ArrayLike<number>): Float64Array {
  const q = x.length;
  return Float64Array.from({ length: q }, (_, a) => {
    let sum = 0;
    for (let b = 0; b < q; b++) sum += inverse[a * q + b]! * x[b]!;
    return sum;
  });
}
