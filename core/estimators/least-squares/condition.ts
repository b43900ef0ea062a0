import { Matrix, SVD } from "ml-matrix";
import type { EquationFit } from "./fit";

/**
 * Condition numbers of a design (Belsley, Kuh & Welsch 1980): `scaled`, every column and the
 * intercept at unit length, not centred; `centred`, the columns other than the intercept centred
 * and scaled. Both are taken from the triangular factor, which has the singular values of the
 * design itself.
 */
export function conditionNumbers(fit: EquationFit): { scaled: number; centred: number } {
  const { factor, n } = fit;
  const k = factor.columns;
  const centred = new Matrix(k, k);
  const scaled = new Matrix(k + 1, k + 1);
  scaled.set(0, 0, 1);
  for (let j = 0; j < k; j++) {
    const shift = Math.sqrt(n) * factor.means[j]!;
    const length = Math.sqrt(shift * shift + factor.lengths[j]! ** 2);
    scaled.set(0, j + 1, shift / length);
    for (let i = 0; i <= j; i++) {
      centred.set(i, j, factor.r[i * k + j]!);
      scaled.set(i + 1, j + 1, (factor.r[i * k + j]! * factor.lengths[j]!) / length);
    }
  }
  return { scaled: new SVD(scaled).condition, centred: new SVD(centred).condition };
}
