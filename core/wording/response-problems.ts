import { quoted, worded } from "./condition";

/** What may stop a model of yes/no or counted responses, and of effects of treatments. */
export const RESPONSE_PROBLEMS = {
  contrast_equal: worded(
    "contrast_equal",
    ({ name, value }: { name: string; value: number }) =>
      `“compare ${name}” compares ${value} with itself. State two values.`,
  ),
  treatment_level_absent: worded(
    "treatment_level_absent",
    ({ name, value, known }: { name: string; value: number; known: (number | string)[] }) =>
      `“${name}” is never ${value} among the rows that are analysed; its values are ${known.join(", ")}. Compare values that occur.`,
  ),
  compared_not_with_reference: worded(
    "compared_not_with_reference",
    ({ name, reference, lower }: { name: string; reference: string; lower: string }) =>
      `The levels of “${name}” are compared with “${reference}”, so “compare ${name}” cannot compare with “${lower}”. Make “${lower}” the reference on Data, or leave the line out.`,
  ),
  response_not_binary: worded(
    "response_not_binary",
    ({ name, values }: { name: string; values: number }) =>
      `“${name}” has ${values} values, and a yes/no model needs exactly two. Recode it, or write “model ${name} as linear” or “as poisson”.`,
  ),
  count_negative: worded(
    "count_negative",
    ({ name, value }: { name: string; value: number }) =>
      `“${name}” is ${value} in a row, and a count cannot be below zero. Correct it, or write “model ${name} as linear”.`,
  ),
  count_not_integer: worded(
    "count_not_integer",
    ({ name, value }: { name: string; value: number }) =>
      `“${name}” is ${value} in a row, and a count is a whole number. Correct it, or write “model ${name} as linear”.`,
  ),
  exposure_not_positive: worded(
    "exposure_not_positive",
    ({ name, value }: { name: string; value: number }) =>
      `The exposure “${name}” is ${value} in a row; nothing can be counted over that. Leave such rows out.`,
  ),
  empty_cell: worded(
    "empty_cell",
    ({ treatment, mediator }: { treatment: string; mediator: string }) =>
      `At some level of “${treatment}” only one value of “${mediator}” occurs, so what the other would do there is not in the data. Merge levels, or collect more.`,
  ),
  rank_deficient: worded(
    "rank_deficient",
    ({ outcome, names }: { outcome: string; names: string[] }) =>
      `The columns that explain “${outcome}” determine one another (${names.join(", ")}). Leave one of them out.`,
  ),
  separation_complete: worded(
    "separation_complete",
    ({ outcome, names }: { outcome: string; names: string[] }) =>
      `${quoted(names)} ${names.length === 1 ? "tells" : "tell"} every “${outcome}” apart without error (complete separation), so no finite coefficient exists. Merge levels, leave a product out, or collect more data.`,
  ),
  separation_quasi: worded(
    "separation_quasi",
    ({ outcome, names }: { outcome: string; names: string[] }) =>
      `For some values of ${quoted(names)} all “${outcome}” are the same (quasi-complete separation), so some coefficient would be infinite. Merge levels, leave a product out, or collect more data.`,
  ),
  separation_counts: worded(
    "separation_counts",
    ({ outcome, names }: { outcome: string; names: string[] }) =>
      `For some values of ${quoted(names)} every “${outcome}” is zero, so some coefficient would be infinite. Merge levels, or collect more data.`,
  ),
  responses_not_fitted: worded(
    "not_converged",
    ({ outcome }: { outcome: string }) =>
      `The model of “${outcome}” did not settle in 100 rounds. Look for extreme values, or for levels with hardly any rows.`,
  ),
  coding_not_indicator: worded(
    "wrong_level",
    ({ name }: { name: string }) =>
      `What “${name}” does is told level by level here. Choose indicator coding for it on the Data screen.`,
  ),
};
