import {
  coefficientTest,
  squaredDistance,
  waldF,
  type CoefficientTest,
  type Covariance,
  type FTest,
} from "../../model";
import { fisherP } from "../../numerics/distributions";
import type { CovarianceKind } from "../../study";
import type { EquationFit } from "./fit";

/**
 * How a linear function of an equation's coefficients weighs the rows: X (X'X)^-1 c.
 * @param weights c, intercept first
 */
export function lineOf(
  { pseudoInverse, n }: EquationFit,
  weights: ArrayLike<number>,
): Float64Array {
  const line = new Float64Array(n);
  pseudoInverse.forEach((column, j) => {
    const weight = weights[j]!;
    if (weight !== 0) for (let i = 0; i < n; i++) line[i] = line[i]! + weight * column[i]!;
  });
  return line;
}

/**
 * Where clusters stand alone on one side of what is compared they show no spread: degrees of freedom
 * that are none, below one, or above the number of cases are no basis of a test.
 */
const canBeTested = (df: number, n: number): boolean => df >= 1 && df <= n;

/** Degrees of freedom of a t test of c'b: n - p, or Satterthwaite's under cluster-robust errors. */
export function degreesOfFreedom(
  fit: EquationFit,
  kind: CovarianceKind,
  weights: ArrayLike<number>,
): number {
  if (kind !== "CR2") return fit.df;
  return fit.clusters === null ? NaN : fit.clusters.df(lineOf(fit, weights));
}

/**
 * The t test of a linear function c'b of one equation's coefficients.
 * @param start where the equation's coefficients begin in the covariance
 */
export function linearTest(
  fit: EquationFit,
  v: Covariance,
  start: number,
  kind: CovarianceKind,
  weights: ArrayLike<number>,
  level: number,
): CoefficientTest | null {
  let estimate = 0;
  for (let i = 0; i < fit.p; i++) if (weights[i] !== 0) estimate += weights[i]! * fit.b[i]!;
  const variance = form(weights, weights, v, start, fit.p);
  if (!Number.isFinite(variance)) return null;
  const df = degreesOfFreedom(fit, kind, weights);
  if (kind === "CR2" && !canBeTested(df, fit.n)) return null;
  return coefficientTest(estimate, Math.max(0, variance), df, level);
}

/** w' V u over the coefficients of one equation. */
function form(
  w: ArrayLike<number>,
  u: ArrayLike<number>,
  v: Covariance,
  start: number,
  p: number,
): number {
  let sum = 0;
  for (let i = 0; i < p; i++) {
    if (w[i] === 0) continue;
    for (let j = 0; j < p; j++)
      if (u[j] !== 0) sum += w[i]! * u[j]! * v.values[(start + i) * v.size + start + j]!;
  }
  return sum;
}

/** Weights that pick one coefficient each. */
const picks = (positions: readonly number[], p: number): number[][] =>
  positions.map((at) => Array.from({ length: p }, (_, i) => (i === at ? 1 : 0)));

/** Wald F that the coefficients at these positions (intercept = 0) are all zero. */
export const coefficientsF = (
  fit: EquationFit,
  v: Covariance,
  start: number,
  kind: CovarianceKind,
  positions: number[],
): FTest | null => jointF(fit, v, start, kind, picks(positions, fit.p));

/**
 * Wald F that linear functions of one equation's coefficients are all zero. Under cluster-robust
 * errors the approximate Hotelling test of Pustejovsky & Tipton (2018): with eta degrees of
 * freedom, (eta - q + 1) / (eta q) times b' V^-1 b on (q, eta - q + 1).
 * @param start where the equation's coefficients begin in the covariance
 * @param weights of the coefficients in each function, intercept first
 */
export function jointF(
  fit: EquationFit,
  v: Covariance,
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
  if (!(df2 > 0) || !canBeTested(eta, fit.n)) return null;
  const F = (distance * df2) / (eta * q);
  return { F, df1: q, df2, p: fisherP(F, q, df2) };
}
