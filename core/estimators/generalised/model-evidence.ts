import {
  chiSquaredP,
  normalP,
  studentP,
  studentQuantile,
  zQuantile,
} from "../../numerics/distributions";
import { logFactorial } from "../../numerics/counting";
import { exp, ln } from "../../numerics/elementary";
import type { ResponseCoefficient, ResponseFit, ResponseModelEvidence } from "./types";
import type { Response } from "./causal-model";
import { countLogLikelihood } from "./dispersion";
import { isBinary, isCount } from "./families";
import { GeneralisedFit } from "./generalised-fit";
import { termName } from "./terms";

interface Covered {
  /** Diagonals of both covariances, at the places of the equation's coefficients. */
  classical: Float64Array;
  robust: Float64Array;
}

/**
 * One response with its model, tests and measures of fit.
 * @param reported its coefficients, of columns as they are
 */
export function modelEvidence(
  { outcome, family, exposure, terms, equation }: Response,
  fit: GeneralisedFit,
  reported: Float64Array,
  variances: Covered,
  level: number,
  robust: boolean,
): Omit<ResponseModelEvidence, "marginal"> {
  const n = equation.y.length;
  const p = equation.columns;
  const df = family === "linear" ? n - p : null;
  const tail = 1 - (1 - level) / 2;
  const reach = df === null ? zQuantile(tail) : studentQuantile(tail, df);
  const coefficients = terms.map((term, k): ResponseCoefficient => {
    const estimate = reported[k]!;
    const classical = Math.sqrt(variances.classical[k]!);
    const hc0 = Math.sqrt(variances.robust[k]!);
    const hc1 = hc0 * Math.sqrt(n / (n - p));
    const se = robust ? hc0 : classical;
    const [lower, upper] = [estimate - reach * se, estimate + reach * se];
    const curved = family === "logistic" || isCount(family);
    return {
      term: termName(term),
      estimate,
      se: { classical, hc0, hc1 },
      z: estimate / se,
      p: df === null ? normalP(estimate / se) : studentP(estimate / se, df),
      lower,
      upper,
      ratio: curved ? { estimate: exp(estimate), lower: exp(lower), upper: exp(upper) } : null,
    };
  });
  return {
    outcome,
    family,
    exposure,
    n,
    coefficients,
    residualVariance: family === "linear" ? fit.deviance / (n - p) : null,
    size: fit.size,
    fit: fitOf(fit),
  };
}

/** Log-likelihoods with all constants. */
function logLikelihood({ equation, mu, deviance, size }: GeneralisedFit): number {
  const { y, family } = equation;
  const n = y.length;
  if (family === "linear") return (-n / 2) * (ln((2 * Math.PI * deviance) / n) + 1);
  if (isBinary(family)) return -deviance / 2;
  if (size !== null) return countLogLikelihood(y, mu, size);
  let sum = 0;
  for (let i = 0; i < n; i++) sum += y[i]! * ln(mu[i]!) - mu[i]! - logFactorial(y[i]!);
  return sum;
}

function fitOf(fit: GeneralisedFit): ResponseFit {
  const { equation, mu } = fit;
  const { y, family, offset, columns: p } = equation;
  const n = y.length;
  const empty = new GeneralisedFit({
    family,
    y,
    offset,
    columns: 1,
    design: new Float64Array(n).fill(1),
  });
  empty.fit(new Float64Array(n).fill(1));
  const own = logLikelihood(fit);
  const none = logLikelihood(empty);
  const chi2 = 2 * (own - none);
  const coxSnell = 1 - exp((2 / n) * (none - own));
  const { variance } = fit.response;
  let pearson = 0;
  for (let i = 0; i < n; i++) pearson += (y[i]! - mu[i]!) ** 2 / variance(mu[i]!);
  const binary = isBinary(family);
  const k = family === "linear" || fit.size !== null ? p + 1 : p;
  const share = (value: number): number => {
    const at = mu.filter((_, i) => y[i] === value);
    return at.reduce((a, b) => a + b, 0) / at.length;
  };
  return {
    logLikelihood: own,
    nullLogLikelihood: none,
    deviance: fit.deviance,
    aic: -2 * own + 2 * k,
    bic: -2 * own + k * ln(n),
    likelihoodRatio: { chi2, df: p - 1, p: p > 1 ? chiSquaredP(chi2, p - 1) : 1 },
    mcFadden: family === "linear" ? null : 1 - own / none,
    coxSnell: binary ? coxSnell : null,
    nagelkerke: binary ? coxSnell / (1 - exp((2 / n) * none)) : null,
    tjur: binary ? share(1) - share(0) : null,
    devianceR2: isCount(family) ? 1 - fit.deviance / empty.deviance : null,
    rSquared: family === "linear" ? 1 - fit.deviance / empty.deviance : null,
    pearson,
    dispersion: pearson / (n - p),
  };
}
