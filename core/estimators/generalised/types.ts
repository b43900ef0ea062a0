import type { BootstrapSummary } from "../../inference";
import type { UnmeasuredCause } from "../../sensitivity";

/**
 * A number with its error and its limits at the level of the study; of ratios the error is that of
 * the logarithm.
 */
export interface TestedNumber {
  se: number;
  lower: number;
  upper: number;
  p: number | null;
}

export interface ResponseCoefficient {
  /** `(intercept)`, a column, or a product `a:b`. */
  term: string;
  estimate: number;
  /** From the model, and robust to its variance (HC0, HC1). */
  se: { classical: number; hc0: number; hc1: number };
  /** Under the chosen errors: z, of linear models t. */
  z: number;
  p: number;
  lower: number;
  upper: number;
  /** exp(b) with its limits, for logit and log links. */
  ratio: { estimate: number; lower: number; upper: number } | null;
}

/** Mean change of the response with a column: from 0 to 1, or per unit. */
export interface AverageMarginalEffect {
  column: string;
  estimate: number;
  model: TestedNumber;
  /** HC0 errors of the coefficients through the same gradient, covariates held fixed as in `model`. */
  robust: TestedNumber;
}

export interface ResponseFit {
  logLikelihood: number;
  nullLogLikelihood: number;
  deviance: number;
  aic: number;
  bic: number;
  likelihoodRatio: { chi2: number; df: number; p: number };
  mcFadden: number | null;
  coxSnell: number | null;
  nagelkerke: number | null;
  tjur: number | null;
  devianceR2: number | null;
  rSquared: number | null;
  pearson: number;
  dispersion: number;
}

/** One response with its model. */
export interface ResponseModelEvidence {
  outcome: string;
  family: "linear" | "logistic" | "probit" | "poisson" | "negative_binomial";
  exposure: string | null;
  n: number;
  coefficients: ResponseCoefficient[];
  /** Of linear models. */
  residualVariance: number | null;
  /** Of negative binomial models: θ, with a variance of μ + μ²/θ. */
  size: number | null;
  fit: ResponseFit;
  marginal: AverageMarginalEffect[];
}

/** A mean of potential outcomes, in words. */
export interface PotentialMean {
  /** `x1_m_x0`: the outcome under the first value, the mediator as under the second. */
  name: string;
  /** “if everybody had …, but with the … they would have had …”. */
  words: string;
  estimate: number;
  model: TestedNumber;
  robust: TestedNumber;
  bootstrap: BootstrapSummary | null;
  /** Quasi-Bayesian limits (Imai, Keele & Tingley 2010), where Monte Carlo intervals are chosen. */
  drawn: { lower: number; upper: number } | null;
}

/** What an effect of a treatment is (VanderWeele 2014, 2015), wherever mediators are held. */
export type NaturalEffectKind =
  | "total_effect"
  | "pure_natural_direct"
  | "total_natural_indirect"
  | "total_natural_direct"
  | "pure_natural_indirect"
  | "average_natural_direct"
  | "average_natural_indirect"
  | "mediated_interaction"
  | "proportion_mediated"
  | "proportion_mediated_average"
  | "proportion_mediated_odds"
  | "controlled_direct"
  | "reference_interaction"
  | "proportion_eliminated"
  | "share_controlled_direct"
  | "share_reference_interaction"
  | "share_interaction_total"
  | "share_mediated_interaction"
  | "share_pure_indirect"
  | "pure_indirect"
  | "total";

/** One effect on one scale. */
export interface NaturalEffect {
  kind: NaturalEffectKind;
  /** Where the mediator is held, or each of several; null where it is as it would be. */
  held: readonly number[] | null;
  /** Both in one word: `total_natural_indirect`, `controlled_direct[m=30]`. */
  name: string;
  words: string;
  estimate: number;
  model: TestedNumber | null;
  robust: TestedNumber | null;
  bootstrap: BootstrapSummary | null;
  /** Quasi-Bayesian limits, where Monte Carlo intervals are chosen. */
  drawn: { lower: number; upper: number } | null;
  /** Why it must not be reported, in a sentence; null where it may. The number itself stays. */
  withheld: string | null;
}

export type EffectScale =
  "difference" | "risk_ratio" | "mean_ratio" | "odds_ratio" | "excess_ratio";

/**
 * Natural effects as conditional odds ratios in closed form, which rest on a rare outcome; they
 * never stand for the integrated ones.
 */
export interface RareOutcome {
  pureDirect: number;
  totalIndirect: number;
  /** Share of yes in the sample; above a tenth (`rare` is false) these ratios are off. */
  share: number;
  rare: boolean;
}

/** A value that a moderator has for everybody; of levels the position, and the name. */
export interface HeldAt {
  name: string;
  value: number;
  level: string | null;
}

/** What of a treatment through a mediator. */
export interface NaturalEffectsEvidence {
  treatment: string;
  /** `weekly cafe against waiting list`. */
  contrast: string;
  upper: string;
  lower: string;
  /** Where a moderator is set for everybody; null where everything is as it was. */
  at: HeldAt | null;
  mediator: string;
  outcome: string;
  /** The four means, the outcome under the first value with its own mediator first. */
  means: PotentialMean[];
  /** Means with the mediator held; with several, one value for each. */
  controlled: { at: number[]; x1: number; x0: number }[];
  /**
   * The effect with the mediator held, along its observed values, with limits from the model; for a
   * picture.
   */
  along: { at: number; estimate: number; lower: number; upper: number }[];
  effects: Partial<Record<EffectScale, NaturalEffect[]>>;
  unmeasured: UnmeasuredCause[];
  /** With a logistic outcome and one straight-line mediator; null otherwise. */
  rareOutcome: RareOutcome | null;
  /** What it all says, in sentences. */
  words: string[];
}

/**
 * How effects differ between two values of a moderator, everybody's set to the one or to the other.
 */
export interface ChangedEffects {
  treatment: string;
  contrast: string;
  mediator: string;
  outcome: string;
  moderator: string;
  upper: number;
  lower: number;
  /** What both values are called. */
  upperWords: string;
  lowerWords: string;
  effects: NaturalEffect[];
}

/**
 * A product as an interaction on the scale of the response: how the change of a probability, or of
 * a count, with one column changes with the other, row by row with covariates as they are.
 */
export interface ResponseInteraction {
  outcome: string;
  columns: [string, string];
  /** Both columns continuous; one of two values; both of two values. */
  kind: "cross_derivative" | "difference_of_derivatives" | "double_difference";
  /** Over the rows, with its errors from the model and robust ones; covariates fixed. */
  average: number;
  model: TestedNumber;
  robust: TestedNumber;
  /** Of the rows. */
  minimum: number;
  maximum: number;
  /** Shares of rows, from 0 to 1: below zero; further from zero than its error allows by chance. */
  shareNegative: number;
  shareSignificant: number;
  words: string;
}

/** A coefficient with its error from the model. */
export interface LinkCoefficient {
  estimate: number;
  se: number;
}

/**
 * The product of coefficients of a mediator on the way to a yes/no response, on the scale of its
 * model, without a product of treatment and mediator. It has no reading as a share of people; the
 * natural effects have.
 */
export interface LinkProduct {
  treatment: string;
  contrast: string;
  mediator: string;
  outcome: string;
  /**
   * Treatment on mediator; mediator on outcome; treatment on outcome without and with the mediator.
   */
  a: LinkCoefficient;
  b: LinkCoefficient;
  total: LinkCoefficient;
  direct: LinkCoefficient;
  /** a b, with its first-order error (Sobel 1982) and a robust one. */
  product: TestedNumber & { estimate: number; z: number; robustSe: number };
  /** Resamples, where the outcome is modelled without the product of treatment and mediator. */
  bootstrap: BootstrapSummary | null;
  /** total - direct, which is no mediated effect: the two are on different scales. */
  difference: number;
  /** SDs of what stands behind the response, in the model without and with the mediator. */
  latentSd: { total: number; full: number };
  /** Divided by the latent SDs (MacKinnon & Dwyer 1993; Winship & Mare 1983). */
  rescaled: {
    b: number;
    total: number;
    direct: number;
    product: number;
    difference: number;
    proportionProduct: number;
    proportionDifference: number;
    /** Why both shares must not be reported; null where they may. */
    withheld: string | null;
  };
}

/** Responses by generalised linear models, and effects as differences of what would have been. */
export interface ResponseSection {
  kind: "responses";
  models: ResponseModelEvidence[];
  natural: NaturalEffectsEvidence[];
  changes: ChangedEffects[];
  /** Of every stated product of two columns, where the response is no straight line. */
  interactions: ResponseInteraction[];
  /** Products of coefficients with yes/no responses, with their caution. */
  products: LinkProduct[];
  /**
   * What has to hold for the effects to be causes, in plain words; none where nothing is mediated.
   */
  assumptions: string[];
}
