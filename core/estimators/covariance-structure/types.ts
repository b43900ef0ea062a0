/** A number with its standard error; null where there is none. */
export interface EstimateWithError {
  estimate: number | null;
  se: number | null;
}

/** One arrow of a model of means and covariances. */
export interface ArrowEvidence {
  /** `a -> b`, `a <-> b`, `1 -> b`. */
  arrow: string;
  kind: "path" | "covariance" | "intercept";
  /** What it is in the model: a loading, a path of the theory, a variance, ... */
  role: "loading" | "path" | "variance" | "covariance" | "intercept";
  from: string;
  to: string;
  group: string;
  free: boolean;
  /** Shared by arrows that are held equal; null where fixed. */
  parameter: string | null;
  estimate: number;
  /** Standard errors by kind; null where a kind does not exist. */
  se: Record<string, number | null>;
  /** Under the chosen errors: z, two-sided p, limits. */
  z: number | null;
  p: number | null;
  lower: number | null;
  upper: number | null;
  /** In SDs of both variables, and with only latent variables in SDs. */
  full: EstimateWithError;
  latent: EstimateWithError;
}

export interface ComparativeFitEvidence {
  chi2: number;
  df: number;
  p: number | null;
  baseline: { chi2: number; df: number; p: number };
  cfi: number;
  tli: number | null;
  rmsea: number;
  /** 90 % limits. */
  rmseaLimits: [number, number];
  closeFit: number | null;
}

export interface ScaledFitEvidence extends ComparativeFitEvidence {
  scaling: number;
  baselineScaling: number;
  robust: { cfi: number; tli: number | null; rmsea: number; rmseaLimits: [number, number] };
}

export interface InformationEvidence {
  logLikelihood: number;
  /** Of the unrestricted model, of uncorrelated variables; null where they are no matter. */
  saturated: number | null;
  baseline: number | null;
  aic: number;
  bic: number;
  sabic: number;
}

/** The statistic scaled and shifted to the mean and variance of its chi-squared distribution. */
export interface ShiftedFitEvidence extends ComparativeFitEvidence {
  scale: number;
  shift: number;
  meanAdjusted: { scaling: number; chi2: number; p: number };
}

/** What is known of ordered answers: levels, the thresholds between them, correlations behind them. */
export interface OrderedEvidence {
  variables: {
    variable: string;
    n: number;
    levels: number[];
    counts: number[];
    thresholds: { estimate: number; se: number }[];
  }[];
  /** Observed outcomes among them: effects on these are on the tendency behind. */
  outcomes: string[];
  /** Statistics that the model is fitted to, and free parameters, thresholds among both. */
  statistics: number;
  parameters: number;
  pairs: {
    a: string;
    b: string;
    n: number;
    r: number;
    kind: "polychoric" | "polyserial" | "covariance";
    /** A table of two by two had an empty cell, to which half a case was added. */
    emptyCell: boolean;
  }[];
  correlations: number[][];
  smallestEigenvalue: number;
  /** Of the answers (their sum), and of the tendencies behind them. */
  reliability: { factor: string; omegaAnswers: number; omegaTendency: number }[];
  /**
   * Shares of the levels of an observed outcome at values of a numeric predictor, by its total
   * effect, with limits of the highest level's.
   */
  predicted: {
    outcome: string;
    predictor: string;
    levels: number[];
    at: { sds: number; shares: number[]; topLower: number | null; topUpper: number | null }[];
  }[];
}

/** How well a model reproduces the data. */
export interface FitEvidence {
  discrepancy: number;
  plain: ComparativeFitEvidence;
  /** The unscaled statistic follows a chi-squared distribution where the model holds. */
  chiSquared: boolean;
  srmr: number;
  srmrCovariances: number;
  satorraBentler: ScaledFitEvidence | null;
  yuanBentler: ScaledFitEvidence | null;
  scaled: ScaledFitEvidence | null;
  /** With ordered answers alone. */
  shifted?: ShiftedFitEvidence | null;
  /**
   * Exact fit by resampling data made to fit; null unless asked for, or where it does not apply.
   */
  bollenStine?: {
    p: number;
    replicates: number;
    failed: number;
    meanChi2: number;
    first: number[];
  } | null;
}

/**
 * An arrow as the line on groups lets it go: a path, a covariance, or the variance or intercept of
 * one variable.
 */
export interface FreedArrow {
  kind: "path" | "covariance" | "variance" | "intercept";
  from: string;
  to: string;
}

/** What letting one more arrow go would do, and how the theory would say it. */
export interface ChangeEvidence {
  arrow: string;
  kind: "loading" | "covariance" | "path" | "release";
  from: string;
  to: string;
  group: string;
  mi: number;
  p: number;
  /** Expected value, or difference from the common one where an equality is let go. */
  epc: number;
  sepc: number | null;
  /** For people. */
  words: string;
  /**
   * A line to add, an item to add to a measure, or an arrow to let differ between groups; null
   * where the notation has no word for it.
   */
  change: { line: string } | { measure: string; item: string } | { free: FreedArrow } | null;
  /** Labels of the hypotheses whose paths it bears on. */
  touches: string[];
}

/** A test of what groups, or arrows, have in common. */
export interface DifferenceEvidence {
  what: string;
  /** Label of the moderation it tests, where it does. */
  hypothesis: string | null;
  chi2: number;
  df: number;
  p: number;
  scaled: { scaling: number; chi2: number; p: number } | null;
  wald: { wald: number; df: number; p: number } | null;
  warnings: string[];
}

/** A step of the comparison of groups. */
export interface InvarianceEvidence {
  step: string;
  words: string;
  fit: FitEvidence | null;
  /** Against the step before; null for the first and where one did not converge. */
  difference: DifferenceEvidence | null;
  problem: string | null;
}

/** An interaction of latent variables. */
export interface LatentInteractionEvidence {
  x: string;
  w: string;
  to: string;
  estimate: number;
  /** b3 sd(X) sd(W) / sd(Y). */
  standardised: { estimate: number; se: Record<string, number | null> };
}

/** How well the items of one group measure. */
export interface MeasurementEvidence {
  group: string;
  factors: {
    factor: string;
    items: number;
    alpha: number | null;
    /** From the model's loadings, in the items' units and in SDs. */
    omega: number;
    compositeReliability: number;
    /** Average variance extracted, and its root. */
    ave: number;
    rootAve: number | null;
    /**
     * The largest correlation (absolute) with another latent variable; null where there is none.
     */
    largestCorrelation: number | null;
    fornellLarcker: boolean | null;
  }[];
  /** Of latent variables, in the order of `factors`. */
  correlations: number[][];
  htmt: {
    first: string;
    second: string;
    htmt: number | null;
    htmt2: number | null;
    /**
     * What HTMT is made of: mean absolute correlations between the items of both, and among those
     * of either.
     */
    between: number;
    within: [number, number];
    /** 95 % percentile limits; null until resampled. */
    lower: number | null;
    upper: number | null;
  }[];
  items: {
    item: string;
    factor: string;
    loading: number;
    standardised: number;
    r2: number;
    /** Variance inflation by all other items. */
    vif: number | null;
    /** The largest score test of a loading on another latent variable. */
    crossLoading: { factor: string; mi: number; p: number; sepc: number | null } | null;
  }[];
}

/**
 * A model of means and covariances: what `a -> b` and the rest are, how well it fits, what would
 * change it.
 */
export interface StructureSection {
  kind: "structure";
  method: {
    estimator: string;
    missing: "complete" | "everybody";
    means: boolean;
    scaling: string;
    convention: string;
    interactions: string | null;
    errors: string;
    /** Confidence level of all limits here. */
    level: number;
    /** For a report. */
    words: string;
  };
  counts: {
    n: number;
    byGroup: { group: string; n: number }[];
    observed: number;
    moments: number;
    parameters: number;
    df: number;
    emptyCases: number;
    patterns: number;
    iterations: number;
  };
  observed: string[];
  latent: string[];
  groups: string[];
  groupVariable: string | null;
  arrows: ArrowEvidence[];
  r2: { group: string; variable: string; value: number }[];
  fit: FitEvidence | null;
  information: InformationEvidence | null;
  /** What the fit means, in sentences. */
  fitWords: string[];
  residuals: {
    group: string;
    variables: string[];
    correlation: number[][];
    normalised: (number | null)[][];
  }[];
  /** The unrestricted moments by EM, where values are missing. */
  saturated: { group: string; means: number[]; covariance: number[][] }[] | null;
  changes: ChangeEvidence[];
  measurement: MeasurementEvidence[];
  improper: Record<string, unknown>[];
  interactions: LatentInteractionEvidence[];
  /** With full information: against the same model without interactions. */
  likelihoodRatio: { chi2: number; df: number; p: number; linear: number } | null;
  /** What each line that holds arrows costs: the model against the one without that line. */
  /** Where some variables are ordered answers. */
  ordered?: OrderedEvidence;
  constraints: DifferenceEvidence[];
  differences: DifferenceEvidence[];
  invariance: InvarianceEvidence[];
}
