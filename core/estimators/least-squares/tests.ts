import { choleskyInPlace, choleskySolveInPlace } from "../../numerics/cholesky";
import { fisherP, studentP, studentQuantile } from "../../numerics/distributions";
import type { CovarianceKind } from "../../study";
import type { JointCovariance } from "./covariance";
import type { EquationFit } from "./fit";

/** A t test with its interval. */
export interface CoefficientTest {
  se: number;
  t: number;
  /** Degrees of freedom: of the residuals, or Satterthwaite's under cluster-robust errors. */
  df: number;
  p: number;
  lower: number;
  upper: number;
}

/**
 * @param df degrees of freedom; @param level confidence level of the interval
 * @returns null where the covariance is not available
 */
export function coefficientTest(b: number, variance: number, df: number, level: number): CoefficientTest | null {
  if (!Number.isFinite(variance) || !(df > 0)) return null;
  const se = Math.sqrt(variance);
  const reach = studentQuantile(1 - (1 - level) / 2, df) * se;
  return { se, t: b / se, df, p: studentP(b / se, df), lower: b - reach, upper: b + reach };
}

/**
 * How a linear function of an equation's coefficients weighs the rows: X (X'X)^-1 c.
 * @param weights c, intercept first
 */
export function lineOf({ hat, n }: EquationFit, weights: ArrayLike<number>): Float64Array {
  const line = new Float64Array(n);
  hat.forEach((column, j) => {
    const weight = weights[j]!;
    if (weight !== 0) for (let i = 0; i < n; i++) line[i] = line[i]! + weight * column[i]!;
  });
  return line;
}

/** Degrees of freedom of a t test of c'b: n - p, or Satterthwaite's under cluster-robust errors. */
export function degreesOfFreedom(fit: EquationFit, kind: CovarianceKind, weights: ArrayLike<number>): number {
  if (kind !== "CR2") return fit.df;
  return fit.clusters === null ? NaN : fit.clusters.df(lineOf(fit, weights));
}

/**
 * The t test of a linear function c'b of one equation's coefficients.
 * @param start where the equation's coefficients begin in the covariance
 */
export function linearTest(
  fit: EquationFit,
  v: JointCovariance,
  start: number,
  kind: CovarianceKind,
  weights: ArrayLike<number>,
  level: number,
): CoefficientTest | null {
  let estimate = 0;
  for (let i = 0; i < fit.p; i++) if (weights[i] !== 0) estimate += weights[i]! * fit.b[i]!;
  const variance = form(weights, weights, v, start, fit.p);
  if (!Number.isFinite(variance)) return null;
  return coefficientTest(estimate, Math.max(0, variance), degreesOfFreedom(fit, kind, weights), level);
}

/** w' V u over the coefficients of one equation. */
function form(w: ArrayLike<number>, u: ArrayLike<number>, v: JointCovariance, start: number, p: number): number {
  let sum = 0;
  for (let i = 0; i < p; i++) {
    if (w[i] === 0) continue;
    for (let j = 0; j < p; j++) if (u[j] !== 0) sum += w[i]! * u[j]! * v.values[(start + i) * v.size + start + j]!;
  }
  return sum;
}

export interface FTest {
  F: number;
  df1: number;
  df2: number;
  p: number;
}

/** A pivot of the correlation matrix below this leaves no digits for a quadratic form. */
const SINGULAR = 1e-13;

/**
 * b' V^-1 b, the squared length of b in units of its covariance.
 * @param b q numbers; @param v their covariance, row-major q x q
 * @returns null where V is not available or singular to working precision
 */
export function squaredDistance(b: ArrayLike<number>, v: ArrayLike<number>): number | null {
  const q = b.length;
  if (q === 0 || !Array.from(v).every(Number.isFinite)) return null;
  // Scaling to unit diagonal keeps the solve well behaved when coefficients differ by orders of magnitude.
  const scale = Array.from({ length: q }, (_, i) => Math.sqrt(v[i * q + i]!));
  if (!scale.every((s) => s > 0)) return null;
  const matrix = Float64Array.from({ length: q * q }, (_, at) => v[at]! / (scale[Math.floor(at / q)]! * scale[at % q]!));
  if (!(choleskyInPlace(matrix, q, q) > SINGULAR)) return null;
  const rhs = Float64Array.from(scale, (s, i) => b[i]! / s);
  const x = rhs.slice();
  choleskySolveInPlace(matrix, q, q, x);
  return rhs.reduce((sum, value, i) => sum + value * x[i]!, 0);
}

/**
 * Wald F of “these coefficients are all zero”: b' V^-1 b / q on (q, df); with classical V the usual F.
 * @param b the q coefficients; @param v their covariance, row-major q x q
 */
export function waldF(b: ArrayLike<number>, v: ArrayLike<number>, df: number): FTest | null {
  const distance = squaredDistance(b, v);
  if (distance === null) return null;
  const F = distance / b.length;
  return { F, df1: b.length, df2: df, p: fisherP(F, b.length, df) };
}

/** Weights that pick one coefficient each. */
const picks = (positions: readonly number[], p: number): number[][] =>
  positions.map((at) => Array.from({ length: p }, (_, i) => (i === at ? 1 : 0)));

/** Wald F that the coefficients at these positions (intercept = 0) are all zero. */
export const coefficientsF = (
  fit: EquationFit,
  v: JointCovariance,
  start: number,
  kind: CovarianceKind,
  positions: number[],
): FTest | null => jointF(fit, v, start, kind, picks(positions, fit.p));

/**
 * Wald F that linear functions of one equation's coefficients are all zero. Under cluster-robust errors the
 * approximate Hotelling test of Pustejovsky & Tipton (2018): with eta degrees of freedom, (eta - q + 1) / (eta q) times
 * b' V^-1 b on (q, eta - q + 1).
 * @param start where the equation's coefficients begin in the covariance
 * @param weights of the coefficients in each function, intercept first
 */
export function jointF(
  fit: EquationFit,
  v: JointCovariance,
  start: number,
  kind: CovarianceKind,
  weights: ArrayLike<number>[],
): FTest | null {
  const b = weights.map((w) => fit.b.reduce((sum, value, i) => sum + w[i]! * value, 0));
  const block = weights.flatMap((w) => weights.map((u) => form(w, u, v, start, fit.p)));
  if (kind !== "CR2") return waldF(b, block, fit.df);
  const distance = squaredDistance(b, block);
  if (distance === null || fit.clusters === null) return null;
  const q = b.length;
  const eta = fit.clusters.jointDf(weights.map((w) => lineOf(fit, w)));
  const df2 = eta - q + 1;
  if (!(df2 > 0)) return null;
  const F = (distance * df2) / (eta * q);
  return { F, df1: q, df2, p: fisherP(F, q, df2) };
}
