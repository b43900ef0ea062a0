import type { CompositeSection } from "./composites/types";
import type { ResponseSection } from "./generalised/types";
import type { BootstrapSummary } from "../inference";
import type { SensitivitySection } from "../sensitivity";
import type { StructureSection } from "./covariance-structure/types";
import type { ByCovariance, CoefficientTest, FTest } from "../model";

export interface ChiSquaredTest {
  statistic: number;
  df: number;
  p: number;
}

/** A row of the file with what it does to the fit. */
export interface InfluentialRow {
  /** 1-based data row of the imported file. */
  row: number;
  cook: number;
  leverage: number;
  studentisedInternal: number;
  studentisedExternal: number;
}

export interface EquationChecks {
  skewness: number;
  excessKurtosis: number;
  adjustedSkewness: number;
  adjustedExcessKurtosis: number;
  /** Of the residuals; null where the sample is too small or too large for it. */
  shapiroWilk: { W: number; p: number } | null;
  breuschPagan: ChiSquaredTest;
  koenker: ChiSquaredTest;
  reset: FTest | null;
  /** The five rows with the largest Cook's distance. */
  topCook: InfluentialRow[];
  highLeverage: number;
  highCook: number;
  outlierCritical: number;
  outliers: number;
}

export type SuppressionFlag = "sign_reversed" | "beta_above_one" | "enhanced";

/** A standardised coefficient beside the simple correlation it is compared with. */
export interface Suppression {
  term: string;
  beta: number;
  /** Correlation of the column with the outcome, no other predictor held. */
  correlation: number;
  vif: number;
  semipartial: number;
  flags: SuppressionFlag[];
  /**
   * What the difference between the two is called, if anything: the one place where that is
   * decided.
   */
  kind: "suppression" | "collinearity" | null;
}

/** The rows of one equation for residual pictures. */
export interface ResidualRows {
  outcome: string;
  /** Data rows of the file, from 1. */
  rows: number[];
  fitted: number[];
  /** Internally studentised; null at a leverage of one. */
  studentised: (number | null)[];
  /**
   * Where each studentised residual would be expected if residuals were normal: standard normal
   * quantiles; null where there is no residual.
   */
  normal: (number | null)[];
  leverage: number[];
  cook: (number | null)[];
}

export interface CoefficientEvidence {
  term: string;
  label: string;
  /**
   * The variable, or the product of variables, whose column it belongs to: the same for all code
   * columns of one; null for the intercept.
   */
  variable: string | null;
  covariate: boolean;
  /** There because it moderates a step, not because a path starts from it. */
  moderator: boolean;
  /** The columns multiplied, where the term is a product. */
  components: { key: string; variable: string }[] | null;
  /**
   * In a theory with products: the coefficient when every numeric variable is a z-score, products
   * made of z-scores.
   */
  zScores: { b: number; errors: ByCovariance<CoefficientTest> } | null;
  b: number;
  errors: ByCovariance<CoefficientTest>;
  beta: number | null;
  vif: number | null;
  tolerance: number | null;
  semipartial: number | null;
  bootstrap: BootstrapSummary | null;
}

export interface EquationEvidence {
  outcome: string;
  terms: string[];
  n: number;
  p: number;
  dfResidual: number;
  r2: number;
  adjustedR2: number;
  residualVariance: number;
  residualSd: number;
  rss: number;
  modelF: ByCovariance<FTest>;
  conditionNumber: { scaled: number; centred: number };
  coefficients: CoefficientEvidence[];
  /** Joint test of a categorical predictor's code columns. */
  omnibus: {
    variable: string;
    test: ByCovariance<FTest>;
    /**
     * Generalised variance inflation of its columns together, and per dimension: GVIF^(1 / (2 df))
     * (Fox & Monette 1992).
     */
    gvif: number | null;
    gvifPerDimension: number | null;
  }[];
  checks: EquationChecks | null;
  suppression: Suppression[];
  /** What the products of highest order explain beyond the rest: each alone, and all together. */
  r2Change: { terms: string[]; r2Change: number; tests: ByCovariance<FTest> }[];
}

/** A table of an engine's own: cells are numbers, words, or null where there is none. */
export interface TableSection {
  kind: "table";
  title: string;
  /** `p` for p values, `words` for a column that is read from the left. */
  columns: { key: string; label: string; kind?: "p" | "words" }[];
  rows: Record<string, number | string | null>[];
  /** What a reader has to know of it, in a sentence; empty for nothing. */
  note: string;
}

/** Regression equations with everything that is said of them. */
export interface EquationsSection {
  kind: "equations";
  equations: EquationEvidence[];
  /** Joint tests of a categorical predictor's total effects. */
  totalOmnibus: { variable: string; outcome: string; test: ByCovariance<FTest> }[];
}

/** What engines say besides the effects: one kind, one renderer on the screen. */
export type Section =
  | EquationsSection
  | TableSection
  | StructureSection
  | CompositeSection
  | ResponseSection
  | SensitivitySection;
