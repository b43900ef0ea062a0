import { inverse, Matrix, solve } from "ml-matrix";
import { chiSquaredP } from "../numerics/distributions";
import { ln } from "../numerics/elementary";
import { rootsOf, type Roots } from "./eigen";

/** How common factors are taken from correlations. */
export type Extraction = "maximum_likelihood" | "minimum_residual";

/** Factors as they were extracted, before any rotation. */
export interface Extracted {
  /** Items by factors, in descending order of what the factors explain. */
  loadings: number[][];
  uniquenesses: number[];
  /** Of what was minimised, at its minimum. */
  value: number;
  /** Whether the gradient came to zero. */
  converged: boolean;
  /** A uniqueness stands at its bound of 0.005. */
  atBound: boolean[];
  fit: FactorFit;
}

export interface FactorFit {
  /** Likelihood ratio with Bartlett's correction; null without degrees of freedom. */
  test: { chiSquare: number; df: number; p: number } | null;
  rmsea: number | null;
  /** Root mean square of the residual correlations. */
  rmsr: number;
  /** Chi-squared minus df times ln n: lower is better. */
  bic: number | null;
}

const BOUND = 0.005;
const GRADIENT = 1e-10;
const MAX_STEPS = 500;

/**
 * Common factors of standardised items. Both ways minimise a function of the uniquenesses psi alone
 * by Newton steps with exact second derivatives, psi kept between 0.005 and 1: maximum likelihood
 * (Lawley & Maxwell 1971, ch. 4) by the roots beyond the factors of Psi^-1/2 R Psi^-1/2; minimum
 * residual (Harman & Jones 1966; Joreskog 1977: the same as unweighted least squares) by half the
 * squared roots beyond the factors of R - Psi.
 * @param r k x k correlation matrix with an inverse
 * @param factors at least 1, with non-negative degrees of freedom
 * @param n rows, for the test
 * @returns null where the correlations have no inverse
 */
export function extractFactors(
  r: number[][],
  factors: number,
  n: number,
  by: Extraction,
): Extracted | null {
  const inverted = invert(r);
  if (!inverted) return null;
  const evaluate = by === "maximum_likelihood" ? likelihoodAt : residualsAt;
  let psi = inverted.map((row, i) => clamp((1 - factors / (2 * r.length)) / row[i]!));
  let point = evaluate(r, psi, factors);
  let converged = false;
  for (let at = 0; at < MAX_STEPS; at++) {
    const free = psi.map((p, i) => !stays(p, point.gradient[i]!));
    converged = point.gradient.every((g, i) => !free[i] || Math.abs(g) < GRADIENT);
    if (converged) break;
    const next = improve(psi, point, free, (x) => evaluate(r, x, factors));
    if (!next) {
      converged = point.gradient.every((g, i) => !free[i] || Math.abs(g) < 1e-7);
      break;
    }
    ({ psi, point } = next);
  }
  const loadings = point.loadings();
  return {
    loadings,
    uniquenesses: psi,
    value: point.value,
    converged,
    atBound: psi.map((p) => p <= BOUND + 1e-9),
    fit: factorFit(r, loadings, psi, factors, n),
  };
}

/** The most factors that leave no negative degrees of freedom. */
export function mostFactors(items: number): number {
  let most = 0;
  while (degreesOfFreedom(items, most + 1) >= 0) most++;
  return most;
}

const degreesOfFreedom = (items: number, factors: number): number =>
  ((items - factors) ** 2 - items - factors) / 2;

interface Point {
  value: number;
  /** With respect to the uniquenesses. */
  gradient: number[];
  second: (i: number, j: number) => number;
  loadings: () => number[][];
}

const clamp = (psi: number): number => Math.min(1, Math.max(BOUND, psi));
const stays = (psi: number, slope: number): boolean =>
  (psi <= BOUND && slope > 0) || (psi >= 1 && slope < 0);

function likelihoodAt(r: number[][], psi: number[], factors: number): Point {
  const root = psi.map((p) => 1 / Math.sqrt(p));
  const roots = rootsOf(r.map((row, i) => row.map((value, j) => value * root[i]! * root[j]!)));
  const { values: e, vectors: v } = roots;
  let value = 0;
  for (let m = factors; m < e.length; m++) value += e[m]! - ln(e[m]!) - 1;
  // In ln psi, and from there to psi.
  const inLogs = psi.map((_, i) => {
    let g = 0;
    for (let m = factors; m < e.length; m++) g += (1 - e[m]!) * v[i]![m]! ** 2;
    return g;
  });
  return {
    value,
    gradient: inLogs.map((g, i) => g / psi[i]!),
    second: (i, j) =>
      (likelihoodSecond(roots, factors, i, j) - (i === j ? inLogs[i]! : 0)) / (psi[i]! * psi[j]!),
    loadings: () =>
      psi.map((p, i) => weights(e, factors, 1).map((w, t) => Math.sqrt(p) * v[i]![t]! * w)),
  };
}

/** In ln psi_i and ln psi_j; pairs of small roots are joined so that equal ones do no harm. */
function likelihoodSecond({ values: e, vectors: v }: Roots, factors: number, i: number, j: number) {
  let h = 0;
  for (let m = factors; m < e.length; m++) {
    const vm = v[i]![m]! * v[j]![m]!;
    h += e[m]! * vm * vm;
    for (let t = 0; t < factors; t++)
      h -= ((1 - e[m]!) * vm * v[i]![t]! * v[j]![t]! * (e[m]! + e[t]!)) / (e[m]! - e[t]!);
    for (let l = m + 1; l < e.length; l++) h += vm * v[i]![l]! * v[j]![l]! * (e[m]! + e[l]!);
  }
  return h;
}

function residualsAt(r: number[][], psi: number[], factors: number): Point {
  const roots = rootsOf(r.map((row, i) => row.map((value, j) => value - (i === j ? psi[i]! : 0))));
  const { values: e, vectors: v } = roots;
  let value = 0;
  for (let m = factors; m < e.length; m++) value += e[m]! ** 2 / 2;
  const gradient = psi.map((_, i) => {
    let g = 0;
    for (let m = factors; m < e.length; m++) g -= e[m]! * v[i]![m]! ** 2;
    return g;
  });
  return {
    value,
    gradient,
    second: (i, j) => residualsSecond(roots, factors, i, j),
    loadings: () => psi.map((_, i) => weights(e, factors, 0).map((w, t) => v[i]![t]! * w)),
  };
}

function residualsSecond({ values: e, vectors: v }: Roots, factors: number, i: number, j: number) {
  let h = 0;
  for (let m = factors; m < e.length; m++) {
    const vm = v[i]![m]! * v[j]![m]!;
    h += vm * vm;
    for (let t = 0; t < factors; t++)
      h += (2 * e[m]! * vm * v[i]![t]! * v[j]![t]!) / (e[m]! - e[t]!);
    for (let l = m + 1; l < e.length; l++) h += 2 * vm * v[i]![l]! * v[j]![l]!;
  }
  return h;
}

const weights = (e: readonly number[], factors: number, less: number): number[] =>
  e.slice(0, factors).map((value) => Math.sqrt(Math.max(0, value - less)));

/**
 * A Newton step on what is free, damped until it is downhill and shortened until the value falls;
 * null when none helps.
 */
function improve(
  psi: number[],
  point: Point,
  free: boolean[],
  evaluate: (psi: number[]) => Point,
): { psi: number[]; point: Point } | null {
  const at = psi.map((_, i) => i).filter((i) => free[i]);
  const g = at.map((i) => point.gradient[i]!);
  const hessian = at.map((i) => at.map((j) => point.second(i, j)));
  const size = Math.max(...hessian.map((row, a) => Math.abs(row[a]!)), 1e-8);
  for (let ridge = 0; ridge <= 1e3; ridge = ridge === 0 ? 1e-4 : ridge * 10) {
    const d = downhill(hessian, g, ridge * size);
    if (!d) continue;
    for (let t = 1; t > 1e-6; t /= 2) {
      const next = [...psi];
      at.forEach((i, a) => (next[i] = clamp(Math.max(psi[i]! / 4, psi[i]! + t * d[a]!))));
      const found = evaluate(next);
      // Near the minimum the value no longer changes in its last digit while the gradient does.
      const settles =
        Math.abs(found.value - point.value) < 1e-13 * Math.max(1, point.value) &&
        norm(found.gradient, at) < norm(point.gradient, at);
      if (found.value < point.value || settles) return { psi: next, point: found };
    }
  }
  return null;
}

function downhill(hessian: number[][], g: number[], ridge: number): number[] | null {
  const damped = hessian.map((row, a) => row.map((h, b) => (a === b ? h + ridge : h)));
  try {
    const d = solve(new Matrix(damped), Matrix.columnVector(g.map((x) => -x))).to1DArray();
    return d.reduce((sum, x, a) => sum + x * g[a]!, 0) < 0 ? d : null;
  } catch {
    return null;
  }
}

const norm = (values: number[], at: number[]): number =>
  Math.sqrt(at.reduce((sum, i) => sum + values[i]! ** 2, 0));

/**
 * Fit of the model LL' + Psi. The test is that of maximum likelihood also for minimum residuals, at
 * their solution (Bartlett's correction: Lawley & Maxwell 1971, 2.6).
 */
function factorFit(
  r: number[][],
  loadings: number[][],
  psi: number[],
  factors: number,
  n: number,
): FactorFit {
  const k = r.length;
  const implied = r.map((_, i) =>
    r.map((__, j) => product(loadings[i]!, loadings[j]!) + (i === j ? psi[i]! : 0)),
  );
  let squares = 0;
  for (let i = 0; i < k; i++)
    for (let j = 0; j < i; j++) squares += (r[i]![j]! - implied[i]![j]!) ** 2;
  const rmsr = Math.sqrt(squares / ((k * (k - 1)) / 2));
  const df = degreesOfFreedom(k, factors);
  const discrepancy = df > 0 ? discrepancyOf(r, implied) : null;
  if (discrepancy === null) return { test: null, rmsea: null, rmsr, bic: null };
  const chiSquare = Math.max(0, (n - 1 - (2 * k + 5) / 6 - (2 * factors) / 3) * discrepancy);
  return {
    test: { chiSquare, df, p: chiSquaredP(chiSquare, df) },
    rmsea: Math.sqrt(Math.max(0, (chiSquare - df) / (df * (n - 1)))),
    rmsr,
    bic: chiSquare - df * ln(n),
  };
}

/** Ln |Sigma| - ln |R| + tr(R Sigma^-1) - k. */
function discrepancyOf(r: number[][], implied: number[][]): number | null {
  const inverted = invert(implied);
  if (!inverted) return null;
  const trace = r.reduce((sum, row, i) => sum + product(row, inverted[i]!), 0);
  return logDeterminant(implied) - logDeterminant(r) + trace - r.length;
}

const logDeterminant = (m: number[][]): number =>
  rootsOf(m).values.reduce((sum, e) => sum + ln(e), 0);

export const product = (a: readonly number[], b: readonly number[]): number =>
  a.reduce((sum, x, t) => sum + x * b[t]!, 0);

/** Null where the matrix is singular to 1e-8 of a variance. */
export function invert(r: number[][]): number[][] | null {
  try {
    const found = inverse(new Matrix(r)).to2DArray();
    return found.every((row, i) => row[i]! > 0 && row[i]! < 1e8) ? found : null;
  } catch {
    return null;
  }
}
