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
  | "contrast_equal"
  | "treatment_level_absent"
  | "compared_not_with_reference"
  | "response_not_binary"
  | "count_negative"
  | "count_not_integer"
  | "exposure_not_positive"
  | "empty_cell"
  | "rank_deficient"
  | "separation_complete"
  | "separation_quasi"
  | "separation_counts"
  | "no_replicates"
  | "nothing_to_estimate"
  | "too_few_items"
  | "out_of_range"
  | "no_observed"
  | "formula"
  | "needs_rows"
  | "not_available"
  | "negative_df"
  | "under_identified"
  | "singular_sample_covariance"
  | "no_data"
  | "not_converged"
  | "adf_sample_too_small"
  | "needs_raw_data"
  | "too_many_levels"
  | "perfect_association"
  | "bad_matrix"
  | "item_used_twice"
  | "impossible_paths"
  | "impossible_correlations";

/** A condition worth a look that does not stop an analysis: as data, and said in words. */
export interface Warning {
  /** One of the common codes (wording/warnings.ts), or of the engine's own. */
  code: string;
  /** What the sentence is made of. */
  data: Record<string, unknown>;
  message: string;
  /** Variables, equations or effect ids concerned. */
  about: string[];
}
