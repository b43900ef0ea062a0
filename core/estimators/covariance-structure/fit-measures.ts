import { chiSquaredP } from "../../numerics/distributions";
import { ln } from "../../numerics/elementary";
import { noncentralChiSquaredCdf, noncentralityAt } from "./noncentral";
import type { SampleMoments } from "./normal-likelihood";

/** How well a model reproduces the moments of a sample; null where a measure does not exist. */
export interface FitMeasures {
  chi2: number;
  df: number;
  p: number | null;
  baseline: { chi2: number; df: number };
  cfi: number;
  tli: number | null;
  rmsea: number;
  /** 90 % limits. */
  rmseaLimits: [number, number];
  /** p of the hypothesis that RMSEA is .05 or less. */
  closeFit: number | null;
  srmr: number;
  srmrCovariances: number;
  logLikelihood: number;
  aic: number;
  bic: number;
  sabic: number;
}

export interface FitInput {
  sample: SampleMoments;
  /** Implied moments at the estimates. */
  implied: { Sigma: Float64Array; means: Float64Array };
  parameters: number;
  logLikelihood: number;
  saturated: number;
  /** Log-likelihood of all observed variables uncorrelated. */
  baseline: number;
}

/** Below this an RMSEA counts as close (Browne & Cudeck 1993). */
const CLOSE_RMSEA = 0.05;

/**
 * Fit of one group with a mean structure: CFI (Bentler 1990), TLI (Tucker & Lewis 1973), RMSEA with 90 % limits and the test of
 * close fit (Steiger & Lind 1980; Browne & Cudeck 1993), SRMR (Bentler 1995), information criteria (BIC with log N; SABIC after
 * Sclove 1987).
 */
export function fitMeasures(input: FitInput): FitMeasures {
  const { sample, parameters: q, logLikelihood, saturated, baseline } = input;
  const { n } = sample;
  const p = sample.means.length;
  const df = (p * (p + 1)) / 2 + p - q;
  const chi2 = Math.max(0, 2 * (saturated - logLikelihood));
  const chi2Baseline = 2 * (saturated - baseline);
  const dfBaseline = (p * (p - 1)) / 2;
  const excess = Math.max(chi2 - df, 0);
  const excessBaseline = Math.max(chi2 - df, chi2Baseline - dfBaseline, 0);
  return {
    chi2,
    df,
    p: df > 0 ? chiSquaredP(chi2, df) : null,
    baseline: { chi2: chi2Baseline, df: dfBaseline },
    cfi: excessBaseline === 0 ? 1 : 1 - excess / excessBaseline,
    tli: df > 0 ? (chi2Baseline / dfBaseline - chi2 / df) / (chi2Baseline / dfBaseline - 1) : null,
    ...rootMeanSquareError(chi2, df, n),
    ...standardisedResiduals(input),
    logLikelihood,
    aic: -2 * logLikelihood + 2 * q,
    bic: -2 * logLikelihood + q * ln(n),
    sabic: -2 * logLikelihood + q * ln((n + 2) / 24),
  };
}

function rootMeanSquareError(
  chi2: number,
  df: number,
  n: number,
): Pick<FitMeasures, "rmsea" | "rmseaLimits" | "closeFit"> {
  if (df === 0) return { rmsea: 0, rmseaLimits: [0, 0], closeFit: null };
  const root = (lambda: number): number => Math.sqrt(Math.max(0, lambda) / (n * df));
  return {
    rmsea: root(chi2 - df),
    rmseaLimits: [root(noncentralityAt(chi2, df, 0.95)), root(noncentralityAt(chi2, df, 0.05))],
    closeFit: 1 - noncentralChiSquaredCdf(chi2, df, n * df * CLOSE_RMSEA * CLOSE_RMSEA),
  };
}

function standardisedResiduals({
  sample: { means, covariance },
  implied,
}: FitInput): Pick<FitMeasures, "srmr" | "srmrCovariances"> {
  const p = means.length;
  let covariances = 0;
  let squares = 0;
  for (let i = 0; i < p; i++) {
    const si = covariance[i * p + i]!;
    squares += (means[i]! - implied.means[i]!) ** 2 / si;
    for (let j = 0; j <= i; j++)
      covariances +=
        (covariance[i * p + j]! - implied.Sigma[i * p + j]!) ** 2 / (si * covariance[j * p + j]!);
  }
  const moments = (p * (p + 1)) / 2;
  return {
    srmr: Math.sqrt((covariances + squares) / (moments + p)),
    srmrCovariances: Math.sqrt(covariances / moments),
  };
}
