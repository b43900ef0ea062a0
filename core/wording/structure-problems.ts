import { quoted, worded } from "./condition";

/** What may be wrong with models of means and covariances. */
export const STRUCTURE_PROBLEMS = {
  negative_df: worded(
    "negative_df",
    ({ parameters, moments }: { parameters: number; moments: number }) =>
      `There are more free parameters (${parameters}) than means, variances and covariances (${moments}), so nothing can be estimated. Give each latent variable more items, leave out paths, or hold some values.`,
  ),
  under_identified: worded(
    "under_identified",
    ({ rank, parameters, involved }: { rank: number; parameters: number; involved: string[] }) =>
      `The data cannot tell all parameters of this model apart (it is under-identified): they have rank ${rank}, but there are ${parameters}. Involved are ${involved.join("; ")}. A latent variable needs a scale (a loading or its variance held), and with two items also a covariance with another variable.`,
  ),
  singular_sample_covariance: worded(
    "singular_sample_covariance",
    ({ names, n, p }: { names: string[]; n: number | null; p: number | null }) =>
      n !== null && p !== null && n <= p
        ? `There are ${n} cases for ${p} observed variables, too few for their covariances. Use fewer items or more cases.`
        : `The sample covariances of ${quoted(names)} are singular: one of these never varies or is computed from others. Take it out of its measure.`,
  ),
  no_data: worded(
    "no_data",
    ({ names, group = null }: { names: string[]; group?: string | null }) =>
      `${quoted(names)} ${names.length === 1 ? "has" : "have"} no values at all in ${group === null ? "this sample" : `the group “${group}”`}. Take it out of the theory, or look at its filters and groups.`,
  ),
  item_never_varies: worded(
    "singular_sample_covariance",
    ({ names, group }: { names: string[]; group: string | null }) =>
      `${quoted(names)} never ${names.length === 1 ? "varies" : "vary"}${group === null ? "" : ` in the group “${group}”`}, so nothing can go together with ${names.length === 1 ? "it" : "them"} there. Take ${names.length === 1 ? "it" : "them"} out of the measure, or merge groups.`,
  ),
  not_converged: worded(
    "not_converged",
    () =>
      "The estimates did not settle down within 500 steps, so there is no result. Look for items that hardly correlate with the others of their measure, or for a latent variable that explains nothing.",
  ),
  adf_sample_too_small: worded(
    "adf_sample_too_small",
    ({ n, moments, least }: { n: number; moments: number; least: number | undefined }) =>
      least !== undefined
        ? `Full weights (ADF, WLS) of ${moments} thresholds, correlations and moments need ${least} cases or more; there are ${n}. Choose diagonally weighted least squares.`
        : `Weights by fourth moments (ADF) of ${moments} means and covariances need more than ${moments} cases; there are ${n}. Choose maximum likelihood with robust errors.`,
  ),
  needs_raw_data: worded(
    "needs_raw_data",
    ({ what }: { what: string }) =>
      `${what} needs single cases; only means and covariances are known. Import the data themselves, or choose maximum likelihood with errors from the information.`,
  ),
  bad_weight: worded(
    "singular_sample_covariance",
    ({ names }: { names: string[] }) =>
      `The weights of this estimator cannot be computed from ${quoted(names)}: their covariances or fourth moments are singular. Choose maximum likelihood.`,
  ),
  items_one_level: worded(
    "one_level",
    ({ names }: { names: string[] }) =>
      `All answers to ${quoted(names)} are the same, so no tendency can be seen behind them. Take ${names.length === 1 ? "it" : "them"} out of the measure.`,
  ),
  too_many_levels: worded(
    "too_many_levels",
    ({ names, levels, most }: { names: string[]; levels: number; most: number }) =>
      `${quoted(names)} ${names.length === 1 ? "has" : "have"} ${levels} levels; up to ${most} can be taken as ordered. Take the line “model … as ordered” out: with so many levels numbers do well.`,
  ),
  perfect_association: worded(
    "perfect_association",
    ({ names }: { names: string[] }) =>
      `${quoted(names)} keep to one order without exception, so their correlation has no estimate below one. Merge the rarest level of one of them with its neighbour (Recode, in Data), or take one out.`,
  ),
  ordered_groups: worded(
    "not_available",
    () =>
      "Groups are not compared yet where answers are taken as ordered. Take answers as numbers (in the settings, or without “model … as ordered”), or the groups out.",
  ),
  ordered_products: worded(
    "not_available",
    () =>
      "Interactions need items as numbers: products of ordered answers have no meaning. Take answers as numbers (in the settings, or without “model … as ordered”), or the moderator out.",
  ),
  item_not_alone: worded(
    "notation",
    ({ name, line }: { name: string; line: number }) =>
      `Line ${line}: “${name}” is an item; all items of a measure are taken alike. Name the measure instead.`,
  ),
  bad_matrix: worded(
    "bad_matrix",
    ({ reason }: { reason: string }) => `This is no matrix of covariances: ${reason}.`,
  ),
  held_and_free: worded(
    "notation",
    ({ arrow, line, held }: { arrow: string; line: number; held: number }) =>
      `Line ${line} frees “${arrow}”, and line ${held} holds it at a value. Leave one of the two out.`,
  ),
  no_such_arrow: worded(
    "notation",
    ({ line, arrow }: { line: number; arrow: string }) =>
      `Line ${line}: the model has no “${arrow}” that could be held equal to something. State it first, or hold it at a value.`,
  ),
  contradicting_holds: worded(
    "notation",
    ({
      arrow,
      line,
      value,
      other,
      otherValue,
    }: {
      arrow: string;
      line: number;
      value: number;
      other: number;
      otherValue: number;
    }) =>
      line === other
        ? `Line ${line}: what it holds equal stands at ${value} and at ${otherValue} already (“${arrow}” among it). Hold all of it at one number, or let one of the factors concerned be scaled otherwise.`
        : `Lines ${line} and ${other} contradict each other: “${arrow}” would be ${value} and ${otherValue}. Take one of them out, or state the same number.`,
  ),
  grouped_and_predicting: worded(
    "not_available",
    ({ name }: { name: string }) =>
      `“${name}” tells the groups and is a predictor at the same time. Among latent variables it can be one or the other: take it out of the sentences in which it has an effect of its own.`,
  ),
};
