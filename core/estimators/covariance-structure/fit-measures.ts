import { chiSquaredP } from "../../numerics/distributions";
import { ln } from "../../numerics/elementary";
import { noncentralChiSquaredCdf, noncentralityAt } from "./noncentral";

/** A test statistic with its degrees of freedom. */
export interface Statistic {
  chi2: number;
  df: number;
}

/**
 * Fit in terms of a test statistic and that of the baseline; null where a measure does not exist.
 */
export interface ComparativeFit extends Statistic {
  p: number | null;
  baseline: Statistic & { p: number };
  cfi: number;
  tli: number | null;
  rmsea: number;
  /** 90 % limits. */
  rmseaLimits: [number, number];
  /** p of the hypothesis that RMSEA is .05 or less. */
  closeFit: number | null;
}

/**
 * The same from a statistic divided by its scaling factor, and the measures corrected for
 * non-normality.
 */
export interface ScaledFit extends ComparativeFit {
  scaling: number;
  baselineScaling: number;
  robust: Pick<ComparativeFit, "cfi" | "tli" | "rmsea" | "rmseaLimits">;
}

/** Log-likelihoods and criteria; null where there is no likelihood. */
export interface InformationCriteria {
  logLikelihood: number;
  saturated: number;
  baseline: number;
  aic: number;
  bic: number;
  sabic: number;
}

/** Below this an RMSEA counts as close (Browne & Cudeck 1993). */
const CLOSE_RMSEA = 0.05;

/** What fit is measured against: cases that count, and groups. */
export interface FitSize {
  /** All cases; one less with divisor n - 1. */
  n: number;
  groups: number;
}

/**
 * CFI (Bentler 1990), TLI (Tucker & Lewis 1973), RMSEA with 90 % limits and the test of close fit
 * (Steiger & Lind 1980; Browne & Cudeck 1993; for groups Steiger 1998).
 */
export function comparativeFit(
  { chi2, df }: Statistic,
  baseline: Statistic,
  size: FitSize,
): ComparativeFit {
  const excess = Math.max(chi2 - df, 0);
  const excessBaseline = Math.max(chi2 - df, baseline.chi2 - baseline.df, 0);
  const ratio = baseline.chi2 / baseline.df;
  return {
    chi2,
    df,
    p: df > 0 ? chiSquaredP(chi2, df) : null,
    baseline: { ...baseline, p: baseline.df > 0 ? chiSquaredP(baseline.chi2, baseline.df) : 1 },
    cfi: excessBaseline === 0 ? 1 : 1 - excess / excessBaseline,
    tli: df > 0 && baseline.df > 0 ? (ratio - chi2 / df) / (ratio - 1) : null,
    ...rootMeanSquareError(chi2, df, size),
  };
}

function rootMeanSquareError(
  chi2: number,
  df: number,
  { n, groups }: FitSize,
): Pick<ComparativeFit, "rmsea" | "rmseaLimits" | "closeFit"> {
  if (df === 0) return { rmsea: 0, rmseaLimits: [0, 0], closeFit: null };
  const root = (lambda: number): number => Math.sqrt((groups * Math.max(0, lambda)) / (n * df));
  return {
    rmsea: root(chi2 - df),
    rmseaLimits: [root(noncentralityAt(chi2, df, 0.95)), root(noncentralityAt(chi2, df, 0.05))],
    closeFit: 1 - noncentralChiSquaredCdf(chi2, df, (n * df * CLOSE_RMSEA * CLOSE_RMSEA) / groups),
  };
}

/**
 * Fit from a scaled statistic, and the versions of CFI, TLI and RMSEA that estimate their values
 * under normality (Brosseau-Liard, Savalei & Li 2012; Brosseau-Liard & Savalei 2014).
 * @param scaling by which the statistic is divided; @param baselineScaling the baseline's own
 * @returns null without degrees of freedom
 */
export function scaledFit(
  { chi2, df }: Statistic,
  baseline: Statistic,
  scaling: number,
  baselineScaling: number,
  size: FitSize,
): ScaledFit | null {
  if (df === 0) return null;
  const scaled = comparativeFit(
    { chi2: chi2 / scaling, df },
    { chi2: baseline.chi2 / baselineScaling, df: baseline.df },
    size,
  );
  const excess = chi2 - scaling * df;
  const excessBaseline = baseline.chi2 - baselineScaling * baseline.df;
  const largest = Math.max(excess, excessBaseline, 0);
  const root = (x: number): number => Math.sqrt((size.groups * Math.max(0, x)) / (size.n * df));
  const bound = (share: number): number => scaling * noncentralityAt(scaled.chi2, df, share);
  return {
    ...scaled,
    scaling,
    baselineScaling,
    robust: {
      cfi: largest === 0 ? 1 : 1 - Math.max(excess, 0) / largest,
      tli: excessBaseline === 0 ? null : 1 - ((excess / excessBaseline) * baseline.df) / df,
      rmsea: root(excess),
      rmseaLimits: [root(bound(0.95)), root(bound(0.05))],
    },
  };
}

/** AIC, BIC (log N) and the sample-size adjusted BIC (Sclove 1987). */
export const informationCriteria = (
  logLikelihood: number,
  saturated: number,
  baseline: number,
  parameters: number,
  n: number,
): InformationCriteria => ({
  logLikelihood,
  saturated,
  baseline,
  aic: -2 * logLikelihood + 2 * parameters,
  bic: -2 * logLikelihood + parameters * ln(n),
  sabic: -2 * logLikelihood + parameters * ln((n + 2) / 24),
});

/** Moments of a sample beside those that a model implies, of one group. */
export interface MomentsCompared {
  n: number;
  means: Float64Array;
  covariance: Float64Array;
  impliedMeans: Float64Array;
  implied: Float64Array;
  /** How many pairs of variables no case has both of; none where it is left out. */
  apart?: number;
}

/**
 * Root mean square of standardised residuals (Bentler 1995): with means, and of covariances alone;
 * mean over groups by size.
 */
export function standardisedResiduals(
  groups: readonly MomentsCompared[],
  means: boolean,
): { srmr: number; srmrCovariances: number } {
  const total = groups.reduce((sum, g) => sum + g.n, 0);
  let srmr = 0;
  let srmrCovariances = 0;
  for (const g of groups) {
    const p = g.means.length;
    let covariances = 0;
    let squares = 0;
    for (let i = 0; i < p; i++) {
      const si = g.covariance[i * p + i]!;
      squares += (g.means[i]! - g.impliedMeans[i]!) ** 2 / si;
      for (let j = 0; j <= i; j++)
        covariances +=
          (g.covariance[i * p + j]! - g.implied[i * p + j]!) ** 2 / (si * g.covariance[j * p + j]!);
    }
    const moments = (p * (p + 1)) / 2 - (g.apart ?? 0);
    const alone = Math.sqrt(covariances / moments);
    srmrCovariances += (g.n / total) * alone;
    srmr += (g.n / total) * (means ? Math.sqrt((covariances + squares) / (moments + p)) : alone);
  }
  return { srmr, srmrCovariances };
}

/**
 * Residuals of correlations, and of covariances in units of their standard errors under the model.
 */
export function residualMatrices({ n, covariance, implied, means }: MomentsCompared): {
  correlation: number[][];
  normalised: number[][];
} {
  const p = means.length;
  const at = (m: Float64Array, i: number, j: number): number => m[i * p + j]!;
  const matrix = (of: (i: number, j: number) => number): number[][] =>
    Array.from({ length: p }, (_, i) => Array.from({ length: p }, (__, j) => of(i, j)));
  return {
    correlation: matrix(
      (i, j) =>
        at(covariance, i, j) / Math.sqrt(at(covariance, i, i) * at(covariance, j, j)) -
        at(implied, i, j) / Math.sqrt(at(implied, i, i) * at(implied, j, j)),
    ),
    normalised: matrix(
      (i, j) =>
        (at(covariance, i, j) - at(implied, i, j)) /
        Math.sqrt((at(implied, i, i) * at(implied, j, j) + at(implied, i, j) ** 2) / n),
    ),
  };
}
