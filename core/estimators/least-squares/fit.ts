import {
  dot,
  inverseGram,
  orthogonalFactor,
  solveUpper,
  type OrthogonalFactor,
} from "../../numerics/orthogonal";
import { mean, sumOfSquares } from "../../numerics/moments";
import { StudyProblem } from "../../problems";
import { ClusterRobust } from "./cluster-robust";
import type { Equation } from "../../design";

/** Residual sums of squares at or below this share of the total count as a perfect fit. */
const PERFECT_FIT = 1e-20;

/**
 * Least-squares fit of one equation. Coefficients and `pseudoInverse` are in raw units, intercept
 * first.
 */
export interface EquationFit {
  equation: Equation;
  n: number;
  /** Number of coefficients, the intercept included. */
  p: number;
  df: number;
  b: Float64Array;
  residuals: Float64Array;
  leverage: Float64Array;
  rss: number;
  tss: number;
  r2: number;
  adjustedR2: number;
  /** Residual variance rss / df. */
  s2: number;
  perfect: boolean;
  /** Rows (X'X)^-1 x_i as p columns of n: sums of their products give every covariance. */
  pseudoInverse: Float64Array[];
  /** Diagonal of the inverse correlation matrix of the columns, one per column. */
  vif: Float64Array;
  factor: OrthogonalFactor;
  /** What cluster-robust errors need; null without clusters. */
  clusters: ClusterRobust | null;
}

/**
 * Fits y on an intercept and the equation's columns by orthogonalising the centred, unit-length
 * columns; the raw intercept follows by shifting back, so nothing is lost at means of 1e6.
 * @param clusters row positions of each cluster, where errors have to allow for them
 * @throws StudyProblem `collinear`, naming the equation, the dependent column and its partners
 */
export function fitEquation(equation: Equation, clusters: Int32Array[] | null = null): EquationFit {
  const { columns, y } = equation;
  const n = y.length;
  const k = columns.length;
  const p = k + 1;
  const factor = orthogonalFactor(columns.map((c) => c.values));
  refuseDependent(equation, factor);
  const meanY = mean(y);
  const projections = factor.q.map((q) => {
    let sum = 0;
    for (let i = 0; i < n; i++) sum += q[i]! * (y[i]! - meanY);
    return sum;
  });
  const unit = solveUpper(factor.r, k, projections);
  const b = new Float64Array(p);
  b[0] = meanY;
  for (let j = 0; j < k; j++) {
    b[j + 1] = unit[j]! / factor.lengths[j]!;
    b[0] -= b[j + 1]! * factor.means[j]!;
  }
  const residuals = new Float64Array(n);
  const leverage = new Float64Array(n).fill(1 / n);
  for (let i = 0; i < n; i++) {
    let fitted = 0;
    for (let m = 0; m < k; m++) {
      const q = factor.q[m]![i]!;
      fitted += q * projections[m]!;
      leverage[i] = leverage[i]! + q * q;
    }
    residuals[i] = y[i]! - meanY - fitted;
  }
  const rss = dot(residuals, residuals);
  const tss = sumOfSquares(y, meanY);
  const df = n - p;
  const r2 = 1 - rss / tss;
  const inverse = inverseGram(factor.r, k);
  return {
    equation,
    n,
    p,
    df,
    b,
    residuals,
    leverage,
    rss,
    tss,
    r2,
    adjustedR2: 1 - ((1 - r2) * (n - 1)) / df,
    s2: rss / df,
    perfect: rss <= PERFECT_FIT * tss,
    pseudoInverse: pseudoInverseOf(factor, n),
    vif: Float64Array.from({ length: k }, (_, j) => inverse[j * k + j]!),
    factor,
    clusters: clusters && new ClusterRobust({ factor, n }, clusters),
  };
}

/**
 * The same fit with the intercept at the mean of every column: it is then the mean of the outcome,
 * and predictions and their errors keep their digits however far the columns lie from zero.
 */
export function atTheMeans(fit: EquationFit): EquationFit {
  const b = fit.b.slice();
  b[0] = mean(fit.equation.y);
  return {
    ...fit,
    b,
    pseudoInverse: [new Float64Array(fit.n).fill(1 / fit.n), ...fit.pseudoInverse.slice(1)],
  };
}

/**
 * The map back from the intercept at the means to that of the columns as they are; row-major p x p.
 */
export function fromTheMeans({ p, factor }: EquationFit): Float64Array {
  const map = new Float64Array(p * p);
  for (let j = 0; j < p; j++) map[j * p + j] = 1;
  for (let j = 1; j < p; j++) map[j] = -factor.means[j - 1]!;
  return map;
}

/**
 * The columns of X (X'X)^-1 in raw units: slopes from R^-1 q_i, then the intercept by shifting
 * back.
 */
function pseudoInverseOf(factor: OrthogonalFactor, n: number): Float64Array[] {
  const k = factor.columns;
  const intercept = new Float64Array(n).fill(1 / n);
  const slopes = Array.from({ length: k }, () => new Float64Array(n));
  const unit = new Float64Array(k);
  for (let m = 0; m < k; m++) {
    unit.fill(0);
    unit[m] = 1;
    const column = solveUpper(factor.r, k, unit);
    const q = factor.q[m]!;
    for (let j = 0; j <= m; j++) {
      const weight = column[j]! / factor.lengths[j]!;
      const out = slopes[j]!;
      for (let i = 0; i < n; i++) out[i] = out[i]! + weight * q[i]!;
    }
  }
  slopes.forEach((slope, j) => {
    for (let i = 0; i < n; i++) intercept[i] = intercept[i]! - factor.means[j]! * slope[i]!;
  });
  return [intercept, ...slopes];
}

function refuseDependent(equation: Equation, factor: OrthogonalFactor): void {
  if (!factor.dependent) return;
  const name = (j: number): string => equation.columns[j]!.label;
  const column = factor.dependent.column;
  const partners = factor.dependent.partners;
  throw new StudyProblem(
    "determined_predictor",
    { outcome: equation.outcome, column: name(column), partners: partners.map(name) },
    {
      equation: equation.outcome,
      variables: [column, ...partners].map((j) => equation.columns[j]!.key),
    },
  );
}
