/** Numbers by name. */
export type Named<T = number> = Record<string, T>;

export interface DiscrepancyEvidence {
  srmr: number;
  dUls: number;
  /** Null where the matrices are not positive definite. */
  dG: number | null;
}

export interface CompositeFitEvidence {
  /** Every two constructs may correlate: what is off is measurement. */
  saturated: DiscrepancyEvidence;
  /** Constructs correlate as the paths imply. */
  estimated: DiscrepancyEvidence | null;
}

/** Reliability and convergence; one of each for a single item, by convention. */
export interface ConstructQualityEvidence {
  alpha: number | null;
  alphaStandardised: number | null;
  rhoA: number;
  compositeReliability: number;
  ave: number;
}

/** The structural part, from one matrix of correlations of constructs. */
export interface StructuralEvidence {
  constructCorrelations: Named<Named>;
  /** By outcome, then predictor; null where predictors are singular. */
  paths: Named<Named | null>;
  r2: Named<number | null>;
  r2Adjusted: Named<number | null>;
  f2: Named<Named | null>;
  vifInner: Named<Named | null>;
  effects: { specificIndirect: Named; totalIndirect: Named; total: Named };
  quality: Named<ConstructQualityEvidence>;
  fit: CompositeFitEvidence | null;
}

/** Equations with products of scores, by two stages. */
export interface StageTwoEvidence {
  /** By outcome: `(intercept)`, predictors, products `X x W`; null where there is none. */
  coefficients: Named<Named | null>;
  r2: Named<number | null>;
  r2Adjusted: Named<number | null>;
  r2WithoutProducts: Named<number>;
  f2: Named<Named | null>;
  vif: Named<Named | null>;
  productSd: Named;
  coefficientsStandardisedProduct: Named<Named>;
  /** In consistent estimation. */
  productReliability: Named;
}

/** What a composite model says of its sample. */
export interface CompositeResult extends StructuralEvidence {
  n: number;
  converged: boolean;
  rounds: number;
  weights: Named<Named>;
  loadings: Named<Named>;
  /** Of every item with every score: item, then construct. */
  crossLoadings: Named<Named>;
  vifOuter: Named<Named<number | null>>;
  /** Of each construct by all others (full collinearity). */
  vifConstruct: Named<number | null>;
  /** On the items' own scale; null for a construct whose weights nearly cancel. */
  unstandardised: {
    weightsSumToOne: Named<Named | null>;
    paths: Named<Named | null>;
    scoreMean: Named<number | null>;
    scoreSd: Named<number | null>;
    /** Constructs whose raw score runs against the standardised one. */
    turned: string[];
  };
  /**
   * Corrected for the unreliability of common factors; null without correction, and where there is
   * none.
   */
  consistent: (StructuralEvidence & { rho: Named; loadings: Named<Named> }) | null;
  stageTwo: StageTwoEvidence | null;
  /**
   * With products of indicators: by product, the coefficient per SD of both constructs, where it is
   * known.
   */
  rescaledInteractions: Named<{ to: string; sdOfScoreProduct: number; estimate: number }[]>;
}

/** An estimate with what resamples say of it; null until there are any. */
export interface ResampledEvidence {
  estimate: number;
  se: number | null;
  /** Of the interval that was chosen, at the level of the study. */
  lower: number | null;
  upper: number | null;
  /** Two-tailed, from the resamples, by the same method. */
  p: number | null;
  /** All resamples lie on one side of zero, so p is below one in so many. */
  pIsBound: boolean;
}

/** One item of a construct, with everything that is said of it. */
export interface CompositeItem {
  item: string;
  weight: ResampledEvidence;
  loading: ResampledEvidence;
  vif: number | null;
  /** The construct with which it correlates most, where that is not its own. */
  closerTo: string | null;
}

export interface CompositeConstruct {
  construct: string;
  /** For people: common factor, composite weighted by regression, single item. */
  words: string;
  kind: "factor" | "composite" | "single";
  weighting: "correlation" | "regression" | "equal" | "single";
  items: CompositeItem[];
  quality: ConstructQualityEvidence;
  rootAve: number;
  /** The largest correlation (absolute) with another construct; null where there is none. */
  largestCorrelation: number | null;
  fornellLarcker: boolean | null;
  vif: number | null;
}

export interface HtmtEvidence {
  first: string;
  second: string;
  htmt: number;
  /**
   * What it is made of: mean absolute correlations between the items of both, and among those of
   * either.
   */
  between: number;
  within: [number, number];
  /**
   * Percentile limits, and the one-sided upper limit at the level of the study; null until
   * resampled.
   */
  lower: number | null;
  upper: number | null;
}

/** One path with its size. */
export interface CompositePath {
  from: string;
  to: string;
  /** In SDs of both scores. */
  estimate: number;
  /**
   * As every effect is reported: from one value to the other where there are two, else per SD; null
   * for what no coefficient reports.
   */
  reported: ResampledEvidence | null;
  f2: number | null;
  vif: number | null;
  /** It is part of a product, so its f² depends on where zero lies. */
  partOfProduct: boolean;
  product: boolean;
}

/** Exact fit by resampling data that were made to fit. */
export interface ExactFitEvidence {
  replicates: number;
  failed: number;
  measures: {
    model: "saturated" | "estimated";
    measure: "srmr" | "dUls" | "dG";
    value: number;
    upper95: number;
    upper99: number;
    p: number;
  }[];
  /** The values of the first replicates, so that they can be checked elsewhere. */
  first: Record<string, number[]>;
}

/** A composite model: measurement, structure, fit; groups side by side. */
export interface CompositeSection {
  kind: "composites";
  method: {
    scheme: string;
    consistent: boolean;
    approach: string | null;
    missing: string;
    /** For a report. */
    words: string;
  };
  groupVariable: string | null;
  /** Variables of two values or of levels: what is said of them is per step, not per SD. */
  steps: string[];
  groups: {
    group: string;
    result: CompositeResult;
    constructs: CompositeConstruct[];
    htmt: HtmtEvidence[];
    paths: CompositePath[];
  }[];
  /**
   * Rows of the file (from 1) with the scores of each construct: of variance one, and on the items'
   * own scale.
   */
  scores: { rows: number[]; standardised: Named<number[]>; raw: Named<number[] | null> };
  /**
   * In how many replicates each construct's score points the other way; null until resampled, and
   * with groups.
   */
  turned: Named | null;
  /** Null until everything has been resampled, and with groups. */
  exactFit: ExactFitEvidence | null;
  /** Every two groups; none until everything has been resampled, and where there are no groups. */
  comparisons: GroupComparisonEvidence[];
  /** Null until everything has been resampled, and with groups. */
  prediction: PredictionEvidence | null;
  /** With groups: the same of each of them; else empty. */
  byGroup: GroupStudies[];
  /** What the fit means, in sentences. */
  fitWords: string[];
}

/** What is resampled of one group. */
export interface GroupStudies extends Pick<CompositeSection, "turned" | "exactFit" | "prediction"> {
  group: string;
}

export interface PermutationTest {
  estimate: number;
  lower: number;
  upper: number;
  p: number;
}

/** Two groups: do they measure alike (in three steps), and do paths differ? By permutation. */
export interface GroupComparisonEvidence {
  first: string;
  second: string;
  permutations: number;
  failed: number;
  constructs: {
    construct: string;
    /** Correlation of scores by the weights of either group, on everybody's data. */
    compositional: { estimate: number; limit: number; p: number; invariant: boolean };
    means: PermutationTest & { equal: boolean };
    /** Logarithm of the ratio of variances. */
    variances: PermutationTest & { equal: boolean };
    step: "none" | "partial" | "full";
  }[];
  paths: (PermutationTest & { from: string; to: string; first: number; second: number })[];
  words: string[];
}

/** How well the model predicts answers of people it has not seen. */
export interface PredictionEvidence {
  folds: number;
  repetitions: number;
  items: {
    construct: string;
    item: string;
    q2: number;
    rmse: number;
    mae: number;
    benchmark: { q2: number; rmse: number; mae: number };
  }[];
  verdict: "high" | "medium" | "low" | "none";
  words: string[];
}
