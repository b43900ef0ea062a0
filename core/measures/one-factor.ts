import { exp, ln } from "../numerics/elementary";
import { EigenvalueDecomposition, inverse, Matrix, solve } from "ml-matrix";
import { chiSquaredP } from "../numerics/distributions";

/** A common factor of k standardised items by maximum likelihood. */
export interface OneFactor {
  /** Standardised, oriented so that their sum is positive. */
  loadings: number[];
  uniquenesses: number[];
  /** Minimum of the discrepancy function. */
  discrepancy: number;
  /** A uniqueness stands at its bound. */
  heywood: boolean;
  atBound: boolean[];
  /** Test of one factor with Bartlett's correction; null for three items. */
  test: { chiSquare: number; df: number; p: number } | null;
  converged: boolean;
}

const BOUND = 0.005;
const GRADIENT = 1e-10;
const MAX_STEPS = 500;

interface Point {
  value: number;
  /** With respect to ln psi. */
  gradient: number[];
  /** Eigenvalues, descending, and eigenvectors as columns. */
  e: number[];
  v: number[][];
}

/**
 * One-factor maximum likelihood (Lawley & Maxwell 1971, ch. 4): minimises F(psi) = sum over m >= 2
 * of (e_m - ln e_m) minus (k - 1), e the eigenvalues of Psi^-1/2 R Psi^-1/2, by Newton steps in ln
 * psi with the exact second derivatives (from the derivatives of eigenvalues and eigenvectors) and
 * psi kept at or above 0.005.
 * @param r k x k correlation matrix, k >= 3
 * @param n rows, for the test
 * @returns null when the correlations have no inverse
 */
export function oneFactor(r: number[][], n: number): OneFactor | null {
  const k = r.length;
  const start = startValues(r);
  if (!start) return null;
  const low = ln(BOUND);
  let x = start.map((psi) => Math.max(low, ln(psi)));
  let point = evaluate(r, x);
  let converged = false;
  for (let at = 0; at < MAX_STEPS && !converged; at++) {
    const free = x.map((xi, i) => !(xi <= low && point.gradient[i]! > 0));
    // The gradient in psi itself, which is the one in ln psi over psi.
    converged = point.gradient.every((g, i) => !free[i] || Math.abs(g) / exp(x[i]!) < GRADIENT);
    if (converged) break;
    const next = improve(r, x, point, free, low);
    if (!next) {
      converged = point.gradient.every((g, i) => !free[i] || Math.abs(g) / exp(x[i]!) < 1e-7);
      break;
    }
    ({ x, point } = next);
  }
  const psi = x.map((v) => exp(v));
  const scale = Math.sqrt(Math.max(0, point.e[0]! - 1));
  let loadings = psi.map((p, i) => Math.sqrt(p) * point.v[i]![0]! * scale);
  if (loadings.reduce((a, b) => a + b, 0) < 0) loadings = loadings.map((l) => -l);
  const atBound = x.map((xi) => xi <= low + 1e-9);
  const discrepancy = Math.max(0, point.value);
  const df = (k * (k - 3)) / 2;
  const chiSquare = (n - 1 - (2 * k + 5) / 6 - 2 / 3) * discrepancy;
  return {
    loadings,
    uniquenesses: psi,
    discrepancy,
    heywood: atBound.some(Boolean),
    atBound,
    test: df > 0 ? { chiSquare, df, p: chiSquaredP(chiSquare, df) } : null,
    converged,
  };
}

function startValues(r: number[][]): number[] | null {
  const k = r.length;
  try {
    const inverted = inverse(new Matrix(r));
    const start = r.map((_, i) => (1 - 1 / (2 * k)) / inverted.get(i, i));
    return start.every((psi) => psi > 1e-9 && psi <= 1) ? start : null;
  } catch {
    return null;
  }
}

function evaluate(r: number[][], x: number[]): Point {
  const k = x.length;
  const root = x.map((xi) => exp(-xi / 2));
  const scaled = r.map((row, i) => row.map((value, j) => value * root[i]! * root[j]!));
  const eigen = new EigenvalueDecomposition(new Matrix(scaled), { assumeSymmetric: true });
  const order = eigen.realEigenvalues
    .map((_, m) => m)
    .sort((a, b) => eigen.realEigenvalues[b]! - eigen.realEigenvalues[a]!);
  const e = order.map((m) => eigen.realEigenvalues[m]!);
  const v = x.map((_, i) => order.map((m) => eigen.eigenvectorMatrix.get(i, m)));
  let value = -(k - 1);
  for (let m = 1; m < k; m++) value += e[m]! - ln(e[m]!);
  const gradient = x.map((_, i) => {
    let g = 0;
    for (let m = 1; m < k; m++) g += (1 - e[m]!) * v[i]![m]! ** 2;
    return g;
  });
  return { value, gradient, e, v };
}

/**
 * Second derivative of F in ln psi_i and ln psi_j; the pairs of small roots are joined so that
 * equal roots do no harm.
 */
function secondDerivative({ e, v }: Point, i: number, j: number): number {
  const k = e.length;
  let h = 0;
  for (let m = 1; m < k; m++) {
    const vm = v[i]![m]! * v[j]![m]!;
    h +=
      e[m]! * vm * vm -
      ((1 - e[m]!) * vm * v[i]![0]! * v[j]![0]! * (e[m]! + e[0]!)) / (e[m]! - e[0]!);
    for (let l = m + 1; l < k; l++) h += vm * v[i]![l]! * v[j]![l]! * (e[m]! + e[l]!);
  }
  return h;
}

/**
 * A Newton step on the free coordinates, damped until it is downhill and shortened until F falls;
 * null when none helps.
 */
function improve(
  r: number[][],
  x: number[],
  point: Point,
  free: boolean[],
  low: number,
): { x: number[]; point: Point } | null {
  const at = x.map((_, i) => i).filter((i) => free[i]);
  const g = at.map((i) => point.gradient[i]!);
  const hessian = at.map((i) => at.map((j) => secondDerivative(point, i, j)));
  const size = Math.max(...hessian.map((row, a) => Math.abs(row[a]!)), 1e-8);
  for (let ridge = 0; ridge <= 1e3; ridge = ridge === 0 ? 1e-4 : ridge * 10) {
    const damped = hessian.map((row, a) => row.map((h, b) => (a === b ? h + ridge * size : h)));
    const d = solve(new Matrix(damped), Matrix.columnVector(g.map((value) => -value))).to1DArray();
    if (!(d.reduce((sum, value, a) => sum + value * g[a]!, 0) < 0)) continue;
    for (let t = 1; t > 1e-6; t /= 2) {
      const next = [...x];
      at.forEach((i, a) => (next[i] = Math.max(low, x[i]! + t * Math.max(-3, Math.min(3, d[a]!)))));
      const found = evaluate(r, next);
      const falls = found.value < point.value;
      // Near the minimum F no longer changes in its last digit while the gradient still does.
      const settles =
        Math.abs(found.value - point.value) < 1e-13 &&
        norm(found.gradient, at) < norm(point.gradient, at);
      if (falls || settles) return { x: next, point: found };
    }
  }
  return null;
}

const norm = (values: number[], at: number[]): number =>
  Math.sqrt(at.reduce((sum, i) => sum + values[i]! * values[i]!, 0));
