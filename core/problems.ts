/** The conditions that stop an analysis; one code per condition, in every engine. */
export type ProblemCode =
  | "notation"
  | "unknown_variable"
  | "cyclic_model"
  | "not_numeric"
  | "wrong_level"
  | "no_complete_cases"
  | "one_level"
  | "constant_variable"
  | "collinear"
  | "too_few_cases"
  | "invalid_setting"
  | "no_replicates"
  | "nothing_to_estimate"
  | "too_few_items"
  | "out_of_range"
  | "no_observed"
  | "formula"
  | "needs_rows"
  | "not_available";

/** What a message is about, so that a screen can lead the reader to it. */
export interface ProblemPlace {
  equation?: string;
  variables?: string[];
  /** 1-based data row of the imported file, header not counted. */
  row?: number;
  line?: number;
  column?: number;
}

/** An error of the study (not of the program): the text names what is concerned and says what to do. */
export class StudyProblem extends Error {
  constructor(
    readonly code: ProblemCode,
    message: string,
    readonly place: ProblemPlace = {},
  ) {
    super(message);
    this.name = "StudyProblem";
  }
}

/** The conditions worth a look that do not stop an analysis. */
export type WarningCode =
  | "rows_dropped"
  | "rows_excluded"
  | "perfect_fit"
  | "goodman_undefined"
  | "near_collinear"
  | "leverage_one"
  | "inconsistent_mediation"
  | "proportion_unstable"
  | "replicates_failed"
  | "bc_undefined"
  | "bca_undefined"
  | "acceleration_zero"
  | "b_too_small"
  | "verdict_unstable"
  | "binary_outcome"
  | "not_standardisable"
  | "alpha_negative"
  | "negative_item_total"
  | "heywood"
  | "mixed_sign_loadings"
  | "no_missing"
  | "probe_outside_range"
  | "not_converged"
  | "moments_only"
  | "probes_unused"
  | "few_clusters"
  | "bc_liberal"
  | "replicates_missing"
  | "not_made";

export interface Warning {
  code: WarningCode;
  message: string;
  /** Variables, equations or effect ids concerned. */
  about: string[];
}
