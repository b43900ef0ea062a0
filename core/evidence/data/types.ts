import type { Level } from "../../data";
import type { Recipe } from "../../derive";
import type { HeterotraitRatio, Reliability } from "../../measures";
import type { ProblemCode, Warning } from "../../problems";
import type {
  CorrelationTable,
  Description,
  LittleResult,
  MahalanobisResult,
  MardiaResult,
  MissingPatterns,
  RobustOutliers,
} from "../../screening";
import type { MeasureForm } from "../../theory";

/** A result, or why there is none. */
export type Result<T> =
  | { value: T; problem: null }
  | { value: null; problem: { code: ProblemCode; message: string; variables: string[] } };

/**
 * Rows everywhere in this section are data rows of the file, counted from 1, and exclude those that
 * filters leave out.
 */
export interface VariableEvidence extends Description {
  name: string;
  label: string | null;
  level: Level;
  origin: "raw" | "derived" | "measure";
  outliers: RobustOutliers;
  /** Values beyond the declared range. */
  rangeErrors: { row: number; value: number }[];
}

export interface SetEvidence {
  name: string;
  variables: string[];
  correlations: { pairwise: CorrelationTable; listwise: CorrelationTable };
  /**
   * Whether the pairwise Pearson matrix could feed a model; null where a correlation is lacking.
   */
  pairwisePositiveDefinite: boolean | null;
  patterns: MissingPatterns;
  little: Result<LittleResult>;
  mahalanobis: Result<MahalanobisResult>;
  mardia: Result<MardiaResult>;
}

export interface MeasureEvidence {
  name: string;
  form: MeasureForm;
  items: { item: string; reversed: boolean }[];
  scale: [number, number] | null;
  /** Smallest share of answered items for a score. */
  answered: number;
  /** With the reversed items reversed. */
  reliability: Result<Reliability>;
  /** Raw answers, in the order of the items. */
  straightLining: Result<{
    longestRun: number[];
    withinPersonSd: (number | null)[];
    flaggedRows: number[];
  }>;
  /**
   * One score per row of the file, filters aside; null where too few items are answered, or for
   * factors and composites.
   */
  scores: Result<(number | null)[]>;
}

export interface ValidityEvidence {
  /** Complete rows on all items. */
  n: number;
  ratios: HeterotraitRatio[];
}

/** What a finding offers to do about it. */
export type Remedy =
  | { kind: "exclude"; words: string; filter: string; rows: number[]; why: string }
  | { kind: "missing_codes"; words: string; variable: string; codes: string[]; why: string }
  | { kind: "derive"; words: string; name: string; recipe: Recipe; why: string }
  | { kind: "reverse"; words: string; measure: string; item: string; why: string };

export interface Finding {
  id: string;
  /** `look`: deserves a decision. `note`: good to know. */
  weight: "look" | "note";
  topic: "values" | "duplicates" | "missing" | "outliers" | "answers" | "shape" | "relations";
  /** What was found and what it means for the analysis. */
  message: string;
  variables: string[];
  rows: number[];
  remedies: Remedy[];
}

/** What the data say before any model. */
export interface DataEvidence {
  rows: number;
  /** Rows that no filter leaves out. */
  n: number;
  excluded: { filter: string; rows: number[] }[];
  descriptives: Record<string, VariableEvidence>;
  /** Groups of rows with the same cells, and of identifiers that stand in several rows. */
  duplicates: {
    rows: number[][];
    identifiers: { variable: string; value: string; rows: number[] }[];
  };
  sets: SetEvidence[];
  measures: MeasureEvidence[];
  validity: Result<ValidityEvidence> | null;
  findings: Finding[];
  warnings: Warning[];
}
