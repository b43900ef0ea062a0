import { numbered, quoted, worded } from "./condition";

/** What may be wrong with measures and their items. */
export const MEASURE_PROBLEMS = {
  scale_unknown: worded(
    "invalid_setting",
    ({ item }: { item: string }) =>
      `“${item}” cannot be reversed before its scale is known. Add the lowest and highest answer to the measure, as in “… on 1 to 5”.`,
  ),
  beyond_scale: worded(
    "out_of_range",
    ({ item, value, row, low, high }: BeyondScale) =>
      `“${item}” is ${value} in row ${row}, beyond its scale from ${low} to ${high}, so it cannot be reversed. Correct the cell, declare the value a missing code, or widen the scale.`,
  ),
  one_item: worded(
    "too_few_items",
    () => "Reliability needs at least two items. Add another item to the measure.",
  ),
  few_rows_for_reliability: worded(
    "too_few_cases",
    ({ names, n, least }: { names: string[]; n: number; least: number }) =>
      `Only ${n} ${numbered(n, "row has", "rows have")} an answer on every item of ${names.join(", ")}; reliability needs at least ${least}.`,
  ),
  items_never_vary: worded(
    "constant_variable",
    ({ names }: { names: string[] }) =>
      `${quoted(names)} never ${numbered(names.length, "varies", "vary")} among the complete rows, so reliability is not defined. Drop ${numbered(names.length, "this item", "these items")}.`,
  ),
  few_items_to_explore: worded(
    "too_few_items",
    ({ n }: { n: number }) =>
      `${n === 0 ? "No item is" : n === 1 ? "One item is" : "Two items are"} chosen; common factors need at least three. Tick more items.`,
  ),
  few_rows_to_explore: worded(
    "too_few_cases",
    ({ n, least, items, half }: { n: number; least: number; items: number; half: 1 | 2 | null }) =>
      `Only ${n} ${numbered(n, "row has", "rows have")} an answer on all ${items} items${half === null ? "" : " in this half"}; at least ${least} are needed. Leave out items with many missing answers${half === null ? "" : ", or explore everybody"}.`,
  ),
  still_items: worded(
    "constant_variable",
    ({ names }: { names: string[] }) =>
      `${quoted(names)} never ${numbered(names.length, "varies", "vary")} among the complete rows. Untick ${numbered(names.length, "this item", "these items")}.`,
  ),
  items_repeat_one_another: worded(
    "collinear",
    ({ names }: { names: string[] }) =>
      `Some items are (nearly) sums or copies of others, so their correlations have no inverse; ${quoted(names)} correlate most. Untick one of them, or a score that is made of other items.`,
  ),
  items_hardly_differ: worded(
    "collinear",
    ({ names }: { names: string[] }) =>
      `The correlations behind these answers belong to no set of variables taken together (the matrix is not positive definite); ${quoted(names)} correlate most. Take answers as numbers, or untick one of them.`,
  ),
  too_many_levels_to_explore: worded(
    "too_many_levels",
    ({ names, most }: { names: string[]; most: number }) =>
      `${quoted(names)} ${numbered(names.length, "has", "have")} more than ${most} levels. Take answers as numbers, or untick ${numbered(names.length, "it", "them")}.`,
  ),
  few_rows_for_measures: worded(
    "too_few_cases",
    ({ n }: { n: number }) =>
      `Only ${n} ${numbered(n, "row has", "rows have")} an answer on every item of the measures.`,
  ),
  no_scores_of_its_own: worded(
    "not_available",
    ({ name, form }: { name: string; form: "reflects" | "combines" }) =>
      form === "reflects"
        ? `“${name}” is a latent variable: it has no scores of its own and is estimated together with the paths of the theory.`
        : `“${name}” is a composite: the weights of its items follow from the paths of the theory, so its scores are made with them, on Evidence.`,
  ),
};

interface BeyondScale {
  item: string;
  value: number;
  row: number;
  low: number;
  high: number;
}
