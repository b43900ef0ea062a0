import type { BinaryCoding, UsedCoding } from "../design";
import type { ExactTest, Section } from "../estimators";
import type { BootstrapSummary, JointTest, MonteCarloInterval } from "../inference";
import type { ByCovariance, NormalTest, Quantity } from "../model";
import type { Warning } from "../problems";
import type { CovarianceKind, IntervalKind, Settings } from "../study";
import type { CompiledTheory, MeasureForm, ModelPath, ModerationVerb, Verb } from "../theory";
import type { ModerationEvidence } from "./moderation-types";
import type { RegionEvidence } from "./region-types";

/** Counts of replicates in equal-width bins, for a picture. */
export interface Histogram {
  min: number;
  max: number;
  counts: number[];
}

/** The one interval a screen shows for a quantity, under the chosen settings. */
export interface ShownInterval {
  method: IntervalKind;
  /** What limits and p rest on; single coefficients use t wherever nothing is simulated. */
  reference: "bootstrap" | "monte_carlo" | "t" | "z";
  /** Degrees of freedom of a t reference. */
  df: number | null;
  se: number | null;
  lower: number | null;
  upper: number | null;
  p: number | null;
  /** p is an upper bound (“p < …”). */
  pIsBound: boolean;
  /** Confidence level of the limits. */
  level: number;
  /** The chosen method is not available (yet), and this one stands in. */
  provisional: boolean;
  /** How far another seed would move each limit; 0 where nothing is simulated. */
  mcseLower: number;
  mcseUpper: number;
  /** How many replicates or draws lie beyond each limit; null where nothing is simulated. */
  beyondLower: number | null;
  beyondUpper: number | null;
}

/**
 * The test of one claim: its own limits and p, whatever other sentences claim of the same quantity.
 * In a one-tailed test only the bound that counts is there, at the whole error; the other limit is
 * null.
 */
export interface ClaimTest extends ShownInterval {
  estimate: number | null;
  nullValue: number;
  /** +1: the claim is that the quantity lies above the null value; -1: below; 0: either. */
  direction: -1 | 0 | 1;
  tail: "two" | "one";
  /**
   * Where a categorical variable leaves the comparison open: the test that all its effects are
   * zero.
   */
  joint: JointTest | null;
}

/** With several hypotheses: what Holm's correction would change. */
export interface SeveralEvidence {
  hypotheses: number;
  /** `holm` where the correction takes part in the verdicts. */
  rule: Settings["several"];
  claims: {
    label: string;
    p: number | null;
    adjustedP: number | null;
    /** The adjusted p is only known to be below that. */
    adjustedIsBound: boolean;
    changes: boolean;
  }[];
  /** For the screen and the report. */
  words: string;
}

export interface BootstrapEvidence extends BootstrapSummary {
  histogram: Histogram;
}

/** Extras of x > m > y: classical standard errors unless the name says otherwise. */
export interface TwoPathEvidence {
  a: number;
  seA: number;
  b: number;
  seB: number;
  sobel: { se: number; z: number; p: number };
  aroian: { se: number; z: number; p: number };
  goodman: { se: number; z: number; p: number } | null;
  upsilonAdjusted: number | null;
}

/** A quantity with everything that is found out about it. */
export interface EffectEvidence extends Omit<Quantity, "expression"> {
  estimate: number | null;
  /**
   * The scale it is told on, where that is not the one of the other effects: “log odds”; else null.
   */
  scale: string | null;
  /**
   * Between which values of its predictor, where it is no change per unit: “6 against 2”; else null.
   */
  between: string | null;
  /**
   * What the estimate is made of, on paper: by the names of what was estimated, and with the
   * numbers put in.
   */
  made: { formula: string; numbers: string };
  delta: Record<"joint" | "zero", ByCovariance<NormalTest>>;
  /**
   * Total effects only: the exact test from the regression without the mediators, where it applies.
   */
  reduced: ExactTest | null;
  twoPath: TwoPathEvidence | null;
  /** Indirect effects: the largest p of the path's coefficients (t tests) under each covariance. */
  jointSignificance: ByCovariance<{ p: number; significant: boolean }> | null;
  bootstrap: BootstrapEvidence | null;
  monteCarlo: MonteCarloInterval | null;
  /**
   * Two-sided, at the confidence level; null where the number must not be reported, and then why.
   */
  shown: ShownInterval | null;
  withheld: string | null;
  /** Differences between levels: p adjusted by Holm for all differences of the same effect. */
  holmP: number | null;
}

/**
 * `undirected`: a direction is claimed of a categorical variable without saying which levels are
 * compared.
 */
export type Verdict =
  | "supported"
  | "not_supported"
  | "opposite"
  | "unsettled"
  | "undirected"
  | "not_testable"
  | "pending";

/**
 * How the direct and the indirect effect stand to each other (Zhao, Lynch & Chen 2010, J Consumer
 * Research 37).
 */
export type MediationPattern =
  | "indirect_only"
  | "complementary"
  | "competitive"
  | "both"
  | "direct_only"
  | "no_effect"
  | "opposing_routes"
  | "open";

export interface HypothesisEvidence {
  label: string;
  line: number;
  sentence: string;
  from: string;
  verb: Verb | ModerationVerb;
  to: string;
  chains: string[][];
  /** Set for a moderation: who acts on the path from -> to. */
  moderators: string[];
  /** Ids of the claimed effects: one, or one per code column of a categorical predictor. */
  effects: string[];
  quantity: string;
  /** What its estimate is called in a sentence: “b”, or “difference in probability”. */
  measure: string;
  /** The name of an effect that has one of its own: “total natural indirect effect”. */
  named: string | null;
  /** The test that the verdict rests on; null where nothing could be tested. */
  claim: ClaimTest | null;
  /**
   * p corrected for the number of hypotheses, where that decides (Holm); null where each is judged
   * at its own level.
   */
  adjusted: { p: number; isBound: boolean } | null;
  verdict: Verdict;
  /** Why this verdict, in a sentence. */
  reason: string;
  /** Warnings that touch it: told wherever the verdict stands. */
  cautions: Warning[];
  pattern: { kind: MediationPattern; words: string } | null;
  /** Which effect size may be reported, and why; null where none exists for what is claimed. */
  size: string | null;
  /** For the paper. */
  report: string;
  /** Ids of the direct effects of the steps, in order: the components. */
  components: string[];
}

export interface GroupMeans {
  variable: string;
  outcome: string;
  /** In order of the levels; of a binary variable 0 first, then 1. */
  groups: { level: string; label: string; mean: number; sd: number | null; n: number }[];
  /** Binary predictors: the level that counts as 1. */
  one: string | null;
}

export interface BootstrapRun {
  requested: number;
  /** Replicates made so far, failed ones included. */
  done: number;
  failed: number;
  /**
   * Fitted, but with a variance below zero or a correlation beyond one; kept. Null where no engine
   * can say so.
   */
  improper: number | null;
  jackknifeFailed: number;
  seed: number;
  resampling: "rows" | "strata" | "clusters";
}

/**
 * Everything an analysis says: plain, serialisable, complete. Screens and exports read this and
 * nothing else.
 */
export interface Evidence {
  format: "hebel-evidence";
  version: 2;
  /** The program that said it, and the engine that estimated. */
  engine: string;
  estimator: { id: string; label: string };
  /**
   * What one unit of an effect is: as measured, an SD of every variable, found anew in every
   * resample, or the response itself (a probability, a count).
   */
  units: "raw" | "sd" | "response";
  title: string;
  unit: string;
  settings: Settings;
  /**
   * The errors in use: those of the settings, or cluster-robust ones where a cluster column is
   * named.
   */
  errors: CovarianceKind;
  roles: CompiledTheory["roles"];
  /** Variables of the theory that are estimated from their items. */
  latent: { name: string; form: MeasureForm; items: string[] }[];
  /** With the effects of each step; for a moderated step its average over the sample. */
  paths: (ModelPath & { effects: string[]; moderators: string[] })[];
  /** Intervals that are not offered for this model, each with the reason. */
  withheldIntervals: Partial<Record<IntervalKind, string>>;
  sample: {
    rowsRead: number;
    n: number;
    excluded: { filter: string; rows: number[] }[];
    dropped: number[];
    /** Rows with some values missing are in it; those that were dropped have no answer at all. */
    keepsIncomplete: boolean;
    missing: Record<string, number>;
  };
  /** Of numeric variables; without rows nothing is known of the extremes. */
  descriptives: Record<
    string,
    { mean: number; sd: number; min: number | null; max: number | null }
  >;
  /**
   * Mean, SD and number of cases of each outcome in the groups of its binary and categorical
   * predictors.
   */
  groupMeans: GroupMeans[];
  codings: UsedCoding[];
  /** Which value of a binary column is 1. */
  binary: BinaryCoding[];
  warnings: Warning[];
  effects: EffectEvidence[];
  hypotheses: HypothesisEvidence[];
  several: SeveralEvidence | null;
  moderations: ModerationEvidence[];
  regions: RegionEvidence[];
  /** What only this engine says. */
  sections: Section[];
  bootstrap: BootstrapRun | null;
}
