import { fisherP, normalP, studentP, studentQuantile, zQuantile } from "../numerics/distributions";
import { squaredDistance } from "./covariance";

/** A t test with its interval. */
export interface CoefficientTest {
  se: number;
  t: number;
  /**
   * Degrees of freedom: of the residuals, or Satterthwaite's under cluster-robust errors; null
   * where t is a z.
   */
  df: number | null;
  p: number;
  lower: number;
  upper: number;
}

/**
 * @param df degrees of freedom; @param level confidence level of the interval
 * @returns null where the covariance is not available
 */
export function coefficientTest(
  b: number,
  variance: number,
  df: number,
  level: number,
): CoefficientTest | null {
  if (!Number.isFinite(variance) || !(df > 0)) return null;
  const se = Math.sqrt(variance);
  const reach = studentQuantile(1 - (1 - level) / 2, df) * se;
  return {
    se,
    t: b / se,
    df: df === Infinity ? null : df,
    p: studentP(b / se, df),
    lower: b - reach,
    upper: b + reach,
  };
}

/** A z test with its interval. */
export interface NormalTest {
  se: number;
  z: number;
  p: number;
  lower: number;
  upper: number;
}

/** @param level confidence level of the interval */
export function normalTest(estimate: number, variance: number, level: number): NormalTest {
  const se = Math.sqrt(variance);
  const reach = zQuantile(1 - (1 - level) / 2) * se;
  return {
    se,
    z: estimate / se,
    p: normalP(estimate / se),
    lower: estimate - reach,
    upper: estimate + reach,
  };
}

export interface FTest {
  F: number;
  df1: number;
  df2: number;
  p: number;
}

/**
 * Wald F of “these coefficients are all zero”: b' V^-1 b / q on (q, df); with classical V the usual
 * F.
 * @param b the q coefficients; @param v their covariance, row-major q x q
 */
export function waldF(b: ArrayLike<number>, v: ArrayLike<number>, df: number): FTest | null {
  const distance = squaredDistance(b, v);
  if (distance === null) return null;
  const F = distance / b.length;
  return { F, df1: b.length, df2: df, p: fisherP(F, b.length, df) };
}
