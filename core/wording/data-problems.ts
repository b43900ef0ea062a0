import { didYouMean, numbered, quoted, worded } from "./condition";

interface Named {
  name: string;
}
interface Names {
  names: string[];
}

/** What may be wrong with columns, cells, rows and recipes. */
export const DATA_PROBLEMS = {
  no_column: worded(
    "unknown_variable",
    ({ name, near }: Named & { near?: string | null }) =>
      `The data have no column “${name}”.${didYouMean(near)}`,
  ),
  not_a_number: worded(
    "not_numeric",
    ({ name, cell, row }: Named & { cell: string; row: number }) =>
      `“${cell}” in column “${name}”, row ${row}, is not a number. Correct the cell, declare it a missing code, or make the column categorical.`,
  ),
  names_not_numbers: worded(
    "not_numeric",
    ({ name }: Named) =>
      `“${name}” holds names, not numbers. Compare it with a text, as in ${name} = 'a level', recode it, or choose another variable.`,
  ),
  more_than_two_levels: worded(
    "wrong_level",
    ({ name, levels }: Named & { levels: string[] }) =>
      `Column “${name}” is called binary but holds ${levels.length} different values (${levels.slice(0, 4).join(", ")}, …). Change its level, or declare the extra values as missing codes.`,
  ),
  identifier: worded(
    "wrong_level",
    ({ name }: Named) =>
      `“${name}” is an identifier, so it cannot take part in an equation. Change its level, or choose another variable.`,
  ),
  one_level: worded(
    "one_level",
    ({ name, levels }: Named & { levels: string[] }) =>
      `“${name}” has ${levels.length === 1 ? `only the level “${levels[0]}”` : "no level"} among the rows used, so nothing can be compared. Choose another variable or keep more rows.`,
  ),
  no_such_reference: worded(
    "invalid_setting",
    ({ name, reference, levels }: Named & { reference: string; levels: string[] }) =>
      `The reference level “${reference}” of “${name}” does not occur among the rows used. Levels: ${levels.join(", ")}.`,
  ),
  no_rows: worded("no_complete_cases", () => "The data have no rows."),
  all_filtered: worded(
    "no_complete_cases",
    () => "The filters leave every row out. Switch one of them off.",
  ),
  no_complete_row: worded(
    "no_complete_cases",
    ({ columns, worst, missing, rows }: NoCompleteRow) =>
      `No row is complete on all ${columns} variables of the model. Most cells are missing in “${worst}” (${missing} of ${rows}).`,
  ),
  never_observed: worded(
    "no_observed",
    ({ names }: Names) =>
      `${quoted(names)} ${numbered(names.length, "has", "have")} no observed value. Leave ${numbered(names.length, "it", "them")} out.`,
  ),
  never_varies: worded(
    "constant_variable",
    ({ names, group = null }: Names & { group?: string | null }) =>
      `${quoted(names)} never ${numbered(names.length, "varies", "vary")} among the rows ${group === null ? "used" : `of the group “${group}”`}. Leave ${numbered(names.length, "it", "them")} out.`,
  ),
  too_few_rows_for: worded(
    "too_few_cases",
    ({ purpose, variables, rows }: { purpose: string; variables: number; rows: number }) =>
      `${purpose} of ${variables} variables needs more than ${variables} complete rows; there are ${rows}. Choose fewer variables.`,
  ),
  determine_one_another: worded(
    "collinear",
    ({ names, purpose }: Names & { purpose: string }) =>
      `${quoted(names)} determine one another exactly, so ${purpose.toLowerCase()} cannot be computed. Leave one of them out.`,
  ),
  too_close_for_little: worded(
    "collinear",
    ({ names }: Names) =>
      `${quoted(names)} are too nearly determined by one another to test their missing values. Leave one of them out.`,
  ),
  moments_of_few_rows: worded(
    "too_few_cases",
    ({ variables, n }: { variables: number; n: number }) =>
      `Covariances of ${variables} variables from ${n} rows cannot be analysed; at least ${variables + 2} rows are needed.`,
  ),
  no_covariance_matrix: worded(
    "bad_matrix",
    () =>
      "The matrix is not positive definite: some variable is a combination of others, or entries contradict one another. Correct the matrix or leave a variable out.",
  ),
  rows_needed: worded(
    "needs_rows",
    ({ what }: { what: string }) =>
      `${what} needs the rows of the data, but only means and covariances are known here. Bring the rows, or take it out.`,
  ),
  product_needs_rows: worded(
    "needs_rows",
    ({ names, sentences }: Names & { sentences: string[] }) =>
      `The product of ${names.map((name) => `“${name}”`).join(" and ")} cannot be estimated from means and covariances alone: it needs the rows of the data. Bring the rows, or take ${sentences.join(", ")} out.`,
  ),
  circle_of_recipes: worded(
    "formula",
    ({ names }: Names) =>
      `${names.join(" needs ")}: these recipes go round in a circle. Change one of them.`,
  ),
  recipe_fails: worded("formula", ({ reason }: { reason: string }) => reason),
  not_made: worded(
    "not_available",
    ({ name, reason }: Named & { reason: string }) => `“${name}” could not be made. ${reason}`,
  ),
  log_of_no_positive: worded(
    "out_of_range",
    ({ name, value, row }: Named & { value: number; row: number }) =>
      `“${name}” is ${value} in row ${row}, and a logarithm needs values above 0. Add a constant, such as 1, before the logarithm is taken.`,
  ),
  unit_zero: worded(
    "invalid_setting",
    ({ name }: Named) => `“${name}”: A unit has to be a number other than 0.`,
  ),
  no_standard_scores: worded(
    "invalid_setting",
    ({ name }: Named) => `“${name}”: It never varies, so it has no standard scores.`,
  ),
  percentiles_out_of_order: worded(
    "invalid_setting",
    ({ name, lower, upper }: Named & { lower: number; upper: number }) =>
      `“${name}”: The percentiles ${lower} and ${upper} are not in order between 0 and 100.`,
  ),
  percentiles_must_rise: worded(
    "invalid_setting",
    ({ name, at }: Named & { at: number[] }) =>
      `“${name}”: The percentiles ${at.join(", ")} have to rise and lie between 0 and 100.`,
  ),
  no_such_code_column: worded(
    "invalid_setting",
    ({ name, levels, columns, index }: NoCodeColumn) =>
      `“${name}”: Its ${levels} levels have ${columns} code columns; there is no column ${index}.`,
  ),
  name_empty: worded("invalid_setting", () => "A variable needs a name."),
  name_broken: worded(
    "invalid_setting",
    () => "A name cannot hold quotation marks or line breaks.",
  ),
  name_taken: worded(
    "invalid_setting",
    ({ name }: Named) =>
      `“${name}” is the name of another column or measure. Choose one that is free.`,
  ),
};

interface NoCompleteRow {
  columns: number;
  worst: string;
  missing: number;
  rows: number;
}
interface NoCodeColumn extends Named {
  levels: number;
  columns: number;
  index: number;
}
