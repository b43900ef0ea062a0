import type { Variable } from "../data";
import type { StudyPlan } from "./plan";
import type { ReportChoices } from "./report-choices";
import type { Correction, DerivedVariable, RowFilter } from "../derive";

/** Standard errors that can be chosen: classical, or heteroscedasticity-consistent. */
export const ERRORS = ["classical", "HC0", "HC1", "HC2", "HC3", "HC4"] as const;

/**
 * Standard errors of models of covariances: from expected or observed information, their
 * sandwiches, and those of weighted moments.
 */
export const MODEL_ERRORS = [
  "expected",
  "observed",
  "robust",
  "robust_expected",
  "naive",
  "normal_theory",
] as const;
export type ErrorKind = (typeof ERRORS)[number] | (typeof MODEL_ERRORS)[number];

/**
 * Covariances of the coefficients: those that can be chosen, and the cluster-robust one that a
 * cluster column calls for.
 */
export const COVARIANCES = [...ERRORS, "CR2", ...MODEL_ERRORS] as const;
export type CovarianceKind = (typeof COVARIANCES)[number];

/**
 * The covariance that tests rest on: with clusters the cluster-robust one, whatever errors are
 * chosen.
 */
export const chosenCovariance = ({ cluster, errors }: Settings): CovarianceKind =>
  cluster === null ? errors : "CR2";

/** Intervals a verdict can rest on. */
export const INTERVALS = [
  "bca",
  "bc",
  "percentile",
  "bootstrap_t",
  "basic",
  "normal",
  "monte_carlo",
  "delta",
] as const;
export type IntervalKind = (typeof INTERVALS)[number];

export interface Settings {
  /** Which engine estimates; its id in core/estimators. */
  engine: string;
  /** Choices that only this engine offers, by the names of its options. */
  options: Record<string, string | number>;
  /** Confidence level, e.g. 0.95. */
  level: number;
  /** `one`: a directional hypothesis is tested at 1 - level in its stated direction. */
  tail: "two" | "one";
  /** `holm`: a verdict also needs a p adjusted for the number of hypotheses (Holm 1979). */
  several: "none" | "holm";
  interval: IntervalKind;
  /** Bootstrap replicates, 1 to 100,000; 0 leaves the bootstrap out. */
  replications: number;
  /** Integer 0 to 2^53 - 1; with the replicate's number it determines every draw. */
  seed: number;
  errors: ErrorKind;
  /** Covariance between coefficients of different equations: estimated, or set to zero. */
  crossEquations: "joint" | "zero";
  /** Resample within the levels of this column. */
  strata: string | null;
  /** Resample whole clusters, the values of this column. */
  cluster: string | null;
  monteCarloDraws: number;
  /**
   * Columns that enter products: as they are, centred wherever they predict, or centred in products
   * only; or every numeric variable as a z-score, outcomes too, with products made of z-scores.
   */
  centring: (typeof CENTRINGS)[number];
  /**
   * Where the effects of a moderated path are looked at, by moderator; mean and one SD to each side
   * unless said otherwise.
   */
  probes: Record<string, ProbeChoice[]>;
  /**
   * Guesses of something left out that moves mediator and outcome: its mean under one treatment
   * less that under the other, and what a unit of it does to the outcome; both at the same mediator
   * and covariates.
   */
  leftOut: { difference: number; effect: number }[];
}

export const CENTRINGS = ["none", "mean", "products", "standardised"] as const;

/**
 * Mean and SDs; quartiles (25, 50, 75 %); tenths (10, 50, 90 %); the points 16, 50 and 84 %; one
 * percentile such as `20 %`; or a value of one's own in raw units.
 */
export type ProbeChoice =
  "mean_sd" | "quartiles" | "tenths" | "percentile" | `${number} %` | number;

export const DEFAULT_SETTINGS: Settings = {
  engine: "least_squares",
  options: {},
  level: 0.95,
  tail: "two",
  several: "none",
  interval: "bca",
  replications: 5000,
  seed: 20261,
  errors: "classical",
  crossEquations: "joint",
  strata: null,
  cluster: null,
  monteCarloDraws: 20000,
  centring: "none",
  probes: {},
  leftOut: [],
};

export const MAX_REPLICATIONS = 100_000;
/** The most Monte Carlo draws. */
export const MAX_DRAWS = 1_000_000;

/** A study's plan as it was laid down, to be held against what was done later. */
export interface Registration {
  /** ISO 8601, UTC. */
  when: string;
  question: string;
  unit: string;
  theory: string;
  settings: Settings;
  derived: DerivedVariable[];
  filters: RowFilter[];
  /** What was expected, and how many people were planned. */
  plan?: Partial<StudyPlan>;
}

/** Everything a study states, apart from its data. */
export interface StudyDefinition {
  title: string;
  question: string;
  /** What one row of the data is, in the plural: people, teams, firms. */
  unit: string;
  variables: Variable[];
  /** Variables made of others, each with its recipe. */
  derived: DerivedVariable[];
  /** Cells changed by hand; the raw data stay as they were imported. */
  corrections: Correction[];
  /** Rows left out of analyses, each group with a name. */
  filters: RowFilter[];
  /**
   * Sets of variables that are screened together; none means the numeric variables of the study.
   */
  screening: ScreeningSet[];
  theory: string;
  settings: Settings;
  /** Bootstrap samples to be used instead of drawn ones: rows of the data from 0. */
  resamples?: number[][];
  /** Permutations of the rows, likewise: the first so many of each are the first group. */
  permutations?: number[][];
  /** What stands in the report, and in what style; the initial choices where nothing was chosen. */
  report?: ReportChoices;
  /** What is expected before there are data, and how sure the study is to be. */
  plan?: Partial<StudyPlan>;
  /** The plan as it was laid down; absent where none was. */
  registered?: Registration;
  /** What was done to the study, the oldest first. */
  log: LogEntry[];
}

/** Variables looked at together: correlations, missing values, distances, joint normality. */
export interface ScreeningSet {
  name: string;
  variables: string[];
}

/** One change in words. */
export interface LogEntry {
  /** ISO 8601, UTC. */
  when: string;
  what: string;
  why: string;
}

/** A study around data, about which nothing has been said yet. */
export const newDefinition = (title: string, variables: Variable[]): StudyDefinition => ({
  title,
  question: "",
  unit: "people",
  variables,
  derived: [],
  corrections: [],
  filters: [],
  screening: [],
  theory: "",
  settings: { ...DEFAULT_SETTINGS },
  log: [],
});
