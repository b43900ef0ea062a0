import { pow } from "../../numerics/elementary";
import type { Covariance } from "../../model";
import { COVARIANCES, type CovarianceKind } from "../../study";
import type { EquationFit } from "./fit";

/** A leverage above this leaves the row without a usable residual: HC2 to HC4 are then not available. */
export const LEVERAGE_ONE = 1 - 1e-10;

/**
 * Covariances of all coefficients of all equations, by kind. NaN where an equation has none (a perfect fit, or a leverage of
 * one under HC2 to HC4).
 */
export type CovarianceSet = Record<CovarianceKind, Covariance>;

/**
 * Covariance of the stacked coefficients for every kind, cross-equation blocks included.
 * Classical blocks s_gh A_g X_g'X_h A_h with s_gh = e_g'e_h / sqrt(df_g df_h) (Zellner 1962, JASA 57);
 * HC0 White 1980, HC1-HC3 MacKinnon & White 1985, HC4 Cribari-Neto 2004; CR2 with residuals adjusted by cluster and
 * added up within clusters, also between equations.
 */
export function covariances(fits: readonly EquationFit[]): CovarianceSet {
  return Object.fromEntries(COVARIANCES.map((kind) => [kind, jointCovariance(fits, kind)])) as CovarianceSet;
}

function isAvailable(fit: EquationFit, kind: CovarianceKind): boolean {
  if (kind === "CR2") return !fit.perfect && fit.clusters !== null;
  const needsLeverage = kind === "HC2" || kind === "HC3" || kind === "HC4";
  return !fit.perfect && !(needsLeverage && fit.leverage.some((h) => h > LEVERAGE_ONE));
}

function jointCovariance(fits: readonly EquationFit[], kind: CovarianceKind): Covariance {
  const size = fits.reduce((sum, fit) => sum + fit.p, 0);
  const values = new Float64Array(size * size);
  const available = fits.map((fit) => isAvailable(fit, kind));
  // Columns whose products sum to the covariance: (A x_i) e_i v_i, or A x_i alone for the classical blocks.
  const scored = fits.map((fit, g) => (kind === "classical" || !available[g] ? fit.hat : scoredColumns(fit, kind)));
  let rowStart = 0;
  fits.forEach((g, gi) => {
    let columnStart = 0;
    fits.forEach((h, hi) => {
      if (hi >= gi) {
        const scale = !available[gi] || !available[hi] ? NaN : kind === "classical" ? residualCovariance(g, h) : 1;
        fillBlock(values, size, rowStart, columnStart, scored[gi]!, scored[hi]!, scale);
      }
      columnStart += h.p;
    });
    rowStart += g.p;
  });
  return { size, values };
}

function fillBlock(
  values: Float64Array,
  size: number,
  row: number,
  column: number,
  left: Float64Array[],
  right: Float64Array[],
  scale: number,
): void {
  for (let a = 0; a < left.length; a++) {
    for (let c = 0; c < right.length; c++) {
      const x = left[a]!;
      const y = right[c]!;
      let sum = 0;
      // Columns differ in length only where one of them stands in for scores that are not available.
      for (let i = 0; i < x.length; i++) sum += x[i]! * y[i]!;
      values[(row + a) * size + column + c] = scale * sum;
      values[(column + c) * size + row + a] = scale * sum;
    }
  }
}

function residualCovariance(g: EquationFit, h: EquationFit): number {
  let sum = 0;
  for (let i = 0; i < g.n; i++) sum += g.residuals[i]! * h.residuals[i]!;
  return sum / Math.sqrt(g.df * h.df);
}

function scoredColumns(fit: EquationFit, kind: CovarianceKind): Float64Array[] {
  if (kind === "CR2") return clusterScores(fit);
  const weights = Float64Array.from(fit.residuals, (e, i) => e * residualMultiplier(kind, fit.leverage[i]!, fit.n, fit.p));
  return fit.hat.map((column) => column.map((value, i) => value * weights[i]!));
}

/** Sums over each cluster of (A x_i) times the adjusted residual. */
function clusterScores({ clusters, residuals, hat }: EquationFit): Float64Array[] {
  const adjusted = clusters!.adjust(residuals);
  return hat.map((column) =>
    Float64Array.from(clusters!.members, (rows) => {
      let sum = 0;
      for (const i of rows) sum += column[i]! * adjusted[i]!;
      return sum;
    }),
  );
}

/** The factor v on a residual whose square is the HC multiplier. */
export function residualMultiplier(kind: CovarianceKind, h: number, n: number, p: number): number {
  switch (kind) {
    case "HC1":
      return Math.sqrt(n / (n - p));
    case "HC2":
      return 1 / Math.sqrt(1 - h);
    case "HC3":
      return 1 / (1 - h);
    case "HC4":
      return pow(1 - h, -Math.min(4, (n * h) / p) / 2);
    default:
      return 1;
  }
}
