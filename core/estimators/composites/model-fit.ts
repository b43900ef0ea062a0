import { choleskyInPlace, solveLower } from "../../numerics/cholesky";
import { ln } from "../../numerics/elementary";
import { EigenvalueDecomposition, inverse, Matrix } from "ml-matrix";
import type { EquationResult } from "./structural";

/**
 * How far implied correlations are from those of the indicators; null where the geodesic distance
 * does not exist.
 */
export interface Discrepancies {
  srmr: number;
  dUls: number;
  dG: number | null;
}

/** Eigenvalues at or below this are none. */
const DEFINITE = 1e-10;

export interface FitInput {
  /** Correlations of the indicators, row-major p x p. */
  r: Float64Array;
  /** The construct of each indicator. */
  owner: number[];
  /** Loading of each indicator on its construct, corrected where the construct is. */
  loadings: Float64Array;
  /** Constructs whose items correlate only through their factor. */
  factor: boolean[];
}

/** Correlations of indicators that a model implies, from those of its constructs (row-major). */
export function impliedCorrelations(
  { r, owner, loadings, factor }: FitInput,
  phi: Float64Array,
): Float64Array {
  const p = owner.length;
  const c = factor.length;
  const out = new Float64Array(p * p);
  for (let k = 0; k < p; k++) {
    out[k * p + k] = 1;
    for (let m = 0; m < k; m++) {
      const [a, b] = [owner[k]!, owner[m]!];
      const both = loadings[k]! * loadings[m]!;
      const value = a !== b ? phi[a * c + b]! * both : factor[a] ? both : r[k * p + m]!;
      out[k * p + m] = value;
      out[m * p + k] = value;
    }
  }
  return out;
}

/** Correlations of constructs that the paths imply: exogenous ones keep theirs. */
export function impliedByPaths(
  names: readonly string[],
  phi: Float64Array,
  order: readonly string[],
  equations: readonly Pick<EquationResult, "outcome" | "predictors" | "coefficients">[],
): Float64Array {
  const c = names.length;
  const at = new Map(names.map((name, j) => [name, j]));
  const out = phi.slice();
  const placed: number[] = names.flatMap((name, j) =>
    equations.some((e) => e.outcome === name) ? [] : [j],
  );
  for (const name of order) {
    const equation = equations.find((e) => e.outcome === name);
    if (!equation) continue;
    const j = at.get(name)!;
    for (const d of placed) {
      const value = equation.predictors.reduce(
        (sum, q, i) => sum + equation.coefficients[i]! * out[at.get(q)! * c + d]!,
        0,
      );
      out[j * c + d] = value;
      out[d * c + j] = value;
    }
    placed.push(j);
  }
  return out;
}

/**
 * SRMR with the diagonal counted (Hu & Bentler 1999); d_ULS, half the sum of squared residuals;
 * d_G, half the sum of squared logarithms of the eigenvalues of R⁻¹Σ (Dijkstra & Henseler 2015,
 * Comput Stat Data Anal 81).
 */
export function discrepancies(r: Float64Array, sigma: Float64Array, p: number): Discrepancies {
  let below = 0;
  let all = 0;
  for (let k = 0; k < p; k++)
    for (let m = 0; m < p; m++) {
      const d = r[k * p + m]! - sigma[k * p + m]!;
      all += d * d;
      if (m <= k) below += d * d;
    }
  return {
    srmr: Math.sqrt(below / ((p * (p + 1)) / 2)),
    dUls: all / 2,
    dG: geodesic(r, sigma, p),
  };
}

function geodesic(r: Float64Array, sigma: Float64Array, p: number): number | null {
  const [left, right] = [lowerInverse(r, p), lowerInverse(sigma, p)];
  if (!left || !right) return null;
  // With R = L L', L⁻¹ Σ L⁻ᵀ is symmetric and has the eigenvalues of R⁻¹Σ.
  const { realEigenvalues } = new EigenvalueDecomposition(turned(left, sigma, p), {
    assumeSymmetric: true,
  });
  return realEigenvalues.reduce((sum, e) => sum + ln(e) ** 2, 0) / 2;
}

/** The inverse of the Cholesky factor; null where an eigenvalue is none. */
function lowerInverse(values: Float64Array, p: number): Float64Array | null {
  const l = values.slice();
  if (!(choleskyInPlace(l, p, p) > 0)) return null;
  const inverse = new Float64Array(p * p);
  const column = new Float64Array(p);
  // Σ 1/eigenvalue, of which none is larger than the sum.
  let trace = 0;
  for (let j = 0; j < p; j++) {
    column.fill(0);
    column[j] = 1;
    solveLower(l, column, p);
    for (let i = j; i < p; i++) {
      inverse[i * p + j] = column[i]!;
      trace += column[i]! * column[i]!;
    }
  }
  return trace < 1 / DEFINITE || smallestOf(values, p) > DEFINITE ? inverse : null;
}

/** A Σ A' for a lower triangle A. */
function turned(a: Float64Array, sigma: Float64Array, p: number): Matrix {
  const half = new Float64Array(p * p);
  for (let i = 0; i < p; i++)
    for (let m = 0; m <= i; m++) {
      const left = a[i * p + m]!;
      for (let k = 0; k < p; k++) half[i * p + k] = half[i * p + k]! + left * sigma[m * p + k]!;
    }
  const out = Matrix.zeros(p, p);
  for (let i = 0; i < p; i++)
    for (let j = 0; j <= i; j++) {
      let sum = 0;
      for (let k = 0; k <= j; k++) sum += half[i * p + k]! * a[j * p + k]!;
      out.set(i, j, sum);
      out.set(j, i, sum);
    }
  return out;
}

const matrixOf = (values: Float64Array, p: number): Matrix =>
  new Matrix(Array.from({ length: p }, (_, k) => [...values.subarray(k * p, (k + 1) * p)]));

const smallestEigenvalue = (m: Matrix): number =>
  Math.min(...new EigenvalueDecomposition(m, { assumeSymmetric: true }).realEigenvalues);

/** The smallest eigenvalue of a symmetric matrix, row-major. */
export const smallestOf = (values: Float64Array, p: number): number =>
  smallestEigenvalue(matrixOf(values, p));

/** The symmetric square root of a positive definite matrix, or that of its inverse (`sign` -1). */
export const symmetricRoot = (m: Matrix, sign: 1 | -1): Matrix =>
  rootOf(new EigenvalueDecomposition(m, { assumeSymmetric: true }), sign);

function rootOf(
  { eigenvectorMatrix: v, realEigenvalues }: EigenvalueDecomposition,
  sign: 1 | -1,
): Matrix {
  const d = realEigenvalues.map((e) => {
    const root = Math.sqrt(Math.max(0, e));
    return sign === 1 ? root : 1 / root;
  });
  return v.mmul(Matrix.diag(d)).mmul(v.transpose());
}

/**
 * X* = X R^-1/2 Σ^1/2: the same cases, made to follow a model (Beran & Srivastava 1985).
 * @param x row-major, standardised
 */
export function transformed(
  x: Float64Array,
  r: Float64Array,
  sigma: Float64Array,
  p: number,
): Float64Array {
  const t = symmetricRoot(matrixOf(r, p), -1).mmul(symmetricRoot(matrixOf(sigma, p), 1));
  const out = new Float64Array(x.length);
  for (let i = 0; i < x.length / p; i++)
    for (let k = 0; k < p; k++) {
      let sum = 0;
      for (let m = 0; m < p; m++) sum += x[i * p + m]! * t.get(m, k);
      out[i * p + k] = sum;
    }
  return out;
}

/**
 * Diagonal of the inverse of a correlation matrix: variance inflation; null where it is singular.
 */
export function inflation(values: Float64Array, p: number): (number | null)[] {
  if (p === 1) return [1];
  const m = matrixOf(values, p);
  // A variable that others repeat has no finite inflation; the rest still have theirs from what is
  // left.
  if (smallestEigenvalue(m) <= DEFINITE) return singularInflation(m);
  return inverse(m).diagonal();
}

function singularInflation(m: Matrix): (number | null)[] {
  const p = m.rows;
  return Array.from({ length: p }, (_, k) => {
    const others = Array.from({ length: p }, (__, i) => i).filter((i) => i !== k);
    const kept: number[] = [];
    for (const i of others) {
      const trial = m.selection([...kept, i], [...kept, i]);
      if (smallestEigenvalue(trial) > DEFINITE) kept.push(i);
    }
    const block = inverse(m.selection(kept, kept));
    const y = Matrix.columnVector(kept.map((i) => m.get(i, k)));
    const r2 = y.transpose().mmul(block).mmul(y).get(0, 0);
    return 1 - r2 < 1e-8 ? null : 1 / (1 - r2);
  });
}
