import type { BootstrapSummary } from "../inference";
import type { UnmeasuredCause } from "./e-values";

/** Both parts of an effect at one correlation of the errors. */
export interface SensitivityPoint {
  rho: number;
  indirect: number;
  /** Robust, from the influence of every row. */
  indirectSe: number;
  lower: number;
  upper: number;
  direct: number;
  directSe: number;
  /** Of the indirect effect; null where the engine does not resample it. */
  bootstrap: BootstrapSummary | null;
}

/**
 * What something left out would do that is as strong as a covariate, or as strong as somebody
 * guesses.
 */
export interface LeftOut {
  /** The covariate it is as strong as; null for a guess. */
  covariate: string | null;
  /**
   * Its mean under the one treatment less that under the other, at the same mediator and
   * covariates.
   */
  difference: number;
  /** Its effect on the outcome at the same treatment, mediator and covariates. */
  effect: number;
  /** Both parts of the effect once it is allowed for. */
  indirect: number;
  direct: number;
  /**
   * So many times as strong, in both of its relations, it would have to be to make the indirect
   * effect zero, and to make its interval reach zero; null where it has no strength at all.
   */
  timesToZero: number | null;
  timesToLimit: number | null;
}

/**
 * A treatment, a mediator and an outcome, all by straight lines: what an unmeasured common cause of
 * the last two would do.
 */
export interface LinearSensitivity {
  treatment: string;
  contrast: string;
  mediator: string;
  outcome: string;
  n: number;
  /** Units of the treatment that are compared. */
  distance: number;
  /** Residual SDs (divisor n) of outcome and mediator, each given treatment and covariates. */
  sigmaOutcome: number;
  sigmaMediator: number;
  indirect: number;
  total: number;
  /** Correlation of the errors at which the indirect effect is zero. */
  rhoAtZero: number;
  /**
   * The nearest correlations to either side at which its interval stops containing zero; null where
   * it never does.
   */
  rhoOfInterval: [number | null, number | null];
  rhoAtZeroDirect: number[];
  /**
   * Shares of variance that an unmeasured cause would have to explain, multiplied: of the
   * residuals, and of all variance.
   */
  r2Residual: number;
  r2Total: number;
  r2Mediator: number;
  r2Outcome: number;
  curve: SensitivityPoint[];
  eValues: (UnmeasuredCause & { estimate: number; se: number })[];
  leftOut: LeftOut[];
  words: string[];
}

/** How much hidden confounding of mediator and outcome would overturn an indirect effect. */
export interface SensitivitySection {
  kind: "sensitivity";
  effects: LinearSensitivity[];
}
