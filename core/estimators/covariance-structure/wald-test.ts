import { chiSquaredP } from "../../numerics/distributions";
import { squaredDistance } from "../../model";

export interface WaldTest {
  wald: number;
  df: number;
  p: number;
}

/**
 * Wald test that linear functions of the parameters are zero.
 * @param values of the functions; @param gradients one row of q weights per function; @param
 *   covariance q x q
 * @returns null where their covariance is singular
 */
export function waldTest(
  values: ArrayLike<number>,
  gradients: readonly ArrayLike<number>[],
  covariance: Float64Array,
  q: number,
): WaldTest | null {
  const k = gradients.length;
  const v = new Float64Array(k * k);
  for (let i = 0; i < k; i++)
    for (let j = 0; j < k; j++)
      for (let a = 0; a < q; a++) {
        const left = gradients[i]![a]!;
        if (left === 0) continue;
        for (let b = 0; b < q; b++)
          v[i * k + j] = v[i * k + j]! + left * covariance[a * q + b]! * gradients[j]![b]!;
      }
  const wald = squaredDistance(values, v);
  return wald === null ? null : { wald, df: k, p: chiSquaredP(wald, k) };
}
