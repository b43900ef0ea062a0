import { Matrix, solve } from "ml-matrix";
import { fisherP, studentP, studentQuantile } from "../../numerics/distributions";

/** A t test with its interval. */
export interface CoefficientTest {
  se: number;
  t: number;
  p: number;
  lower: number;
  upper: number;
}

/**
 * @param df residual degrees of freedom; @param level confidence level of the interval
 * @returns null where the covariance is not available
 */
export function coefficientTest(b: number, variance: number, df: number, level: number): CoefficientTest | null {
  if (!Number.isFinite(variance)) return null;
  const se = Math.sqrt(variance);
  const reach = studentQuantile(1 - (1 - level) / 2, df) * se;
  return { se, t: b / se, p: studentP(b / se, df), lower: b - reach, upper: b + reach };
}

export interface FTest {
  F: number;
  df1: number;
  df2: number;
  p: number;
}

/**
 * Wald F of “these coefficients are all zero”: b' V^-1 b / q on (q, df); with classical V the usual F.
 * @param b the q coefficients; @param v their covariance, row-major q x q
 */
export function waldF(b: ArrayLike<number>, v: ArrayLike<number>, df: number): FTest | null {
  const q = b.length;
  if (q === 0 || !Array.from(v).every(Number.isFinite)) return null;
  // Scaling to unit diagonal keeps the solve well behaved when coefficients differ by orders of magnitude.
  const scale = Array.from({ length: q }, (_, i) => Math.sqrt(v[i * q + i]!));
  const matrix = new Matrix(q, q);
  for (let i = 0; i < q; i++) for (let j = 0; j < q; j++) matrix.set(i, j, v[i * q + j]! / (scale[i]! * scale[j]!));
  const rhs = Matrix.columnVector(scale.map((s, i) => b[i]! / s));
  const x = solve(matrix, rhs);
  let sum = 0;
  for (let i = 0; i < q; i++) sum += x.get(i, 0) * rhs.get(i, 0);
  const F = sum / q;
  return { F, df1: q, df2: df, p: fisherP(F, q, df) };
}
