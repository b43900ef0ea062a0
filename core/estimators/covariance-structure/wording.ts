import { plain } from "../../wording/numbers";
import { warningsIn } from "../../wording/warnings";
import { StudyProblem } from "../../problems";
import { listed } from "../../wording";
import type { ModelFault } from "./arrows";

/**
 * A warning of covariance-structure models; what its sentences say stands here and nowhere else.
 */
export const warning = warningsIn({
  negative_variance: ({
    name,
    estimate,
    se,
    mayBeZero,
    group,
  }: {
    name: string;
    estimate: number;
    se: number | null;
    mayBeZero: boolean | null;
    group: string | null;
  }) =>
    `The ${name}${group === null ? "" : ` in ${group}`} is negative (${plain(estimate)}${se === null ? "" : `, SE ${plain(se)}`}), which no variance can be (Heywood case). ${
      mayBeZero === null
        ? "The solution is shown as it is."
        : mayBeZero
          ? "Zero lies within its 95 % interval, so it may be chance; the solution is shown as it is."
          : "Zero lies outside its 95 % interval: the model does not suit these items."
    }`,
  r2_above_one: ({ name, value }: { name: string; value: number }) =>
    `More than all variance of “${name}” would be explained (R² ${plain(value, 2)}): that follows from its negative residual variance.`,
  latent_correlation: ({ a, b, r }: { a: string; b: string; r: number }) =>
    `The latent variables “${a}” and “${b}” correlate ${plain(r, 2)}: they cannot be told apart. Measure them by one latent variable, or take one out.`,
  latent_covariance: ({ group }: { group: string | null }) =>
    `The covariances that the model implies among latent variables${group === null ? "" : ` in ${group}`} cannot belong to any variables (the matrix is not positive definite). Look for latent variables that are hardly different.`,
  residual_covariance: ({ group }: { group: string | null }) =>
    `The residual covariances${group === null ? "" : ` in ${group}`} cannot belong to any variables (the matrix is not positive definite). Take out residual covariances that were added.`,
  beyond_one_legitimate: ({ from, to, value, r, simple, vif, r2 }: Beyond) =>
    `The standardised path from “${from}” to “${to}” is ${plain(value, 2)}${simple * value < 0 ? `, against a simple correlation of ${plain(simple, 2)}` : ""}. That is possible, and no improper solution (no variance is negative, R² is ${plain(r2, 2)}), because its predictors correlate (r = ${plain(r, 2)}${vif === null ? "" : `, variance inflation ${plain(vif, 1)}`}): ${simple * value < 0 ? "suppression" : "collinearity"}, which also widens its standard error. Check whether the predictors overlap.`,
  never_together: ({ pairs, group }: { pairs: [string, string][]; group: string | null }) =>
    `No case${group === null ? "" : ` of “${group}”`} has an answer to both ${listed(pairs.map(([a, b]) => `“${a}” and “${b}”`))}: the data say nothing of ${pairs.length === 1 ? "their covariance, which is no moment" : "these covariances, which are no moments"} of the fit; what the model says of ${pairs.length === 1 ? "it" : "them"} rests on its other equations.`,
  empty_cell: ({ a, b }: { a: string; b: string }) =>
    `Nobody has one of the four combinations of “${a}” and “${b}”: half a case was added there, the margins kept, so that their correlation exists. Look at it as a rough one.`,
  correlation_near_one: ({ a, b, r }: { a: string; b: string; r: number }) =>
    `“${a}” and “${b}” correlate ${plain(r, 3)} behind their answers: they hardly differ. Leave one of them out.`,
  correlations_not_positive_definite: ({ smallest }: { smallest: number }) =>
    `The correlations behind the answers belong to no set of variables taken together (smallest eigenvalue ${plain(smallest, 3)}): each pair was estimated by itself. Estimates stand, with weights that do not need the matrix; fit and errors deserve caution.`,
  kept_as_numbers: ({ names }: { names: string[] }) =>
    `${listed(names.map((n) => `“${n}”`))} ${names.length === 1 ? "has" : "have"} more than seven levels and ${names.length === 1 ? "stays a number" : "stay numbers"}.`,
  answers_hardly_numbers: ({
    name,
    item,
    reason,
    others,
  }: {
    name: string;
    item: string;
    reason: string;
    others: number;
  }) =>
    `Answers to “${name}” are hardly numbers: ${item} ${reason}${others > 0 ? ` (and ${others} more like it)` : ""}. A line “model ${name} as ordered” takes them as levels of a tendency; Compare shows both.`,
  levels_left_out: ({ name, levels }: { name: string; levels: number[] }) =>
    `Nobody chose ${listed(levels.map(String))} of “${name}”: these levels take no part.`,
  empty_cases: ({ cases }: { cases: number }) =>
    `${cases} ${cases === 1 ? "case has" : "cases have"} no answer on any variable of the model and ${cases === 1 ? "is" : "are"} left out.`,
  keep_everybody: ({ dropped }: { dropped: number }) =>
    `${dropped} ${dropped === 1 ? "case is" : "cases are"} left out for a missing answer although ${dropped === 1 ? "it has" : "they have"} others: “keep everybody”, in the settings, uses every answer there is (full-information maximum likelihood).`,
  singular_information: () =>
    "The information matrix is singular at the estimates: there are no standard errors. Look for parameters that the data hardly determine.",
  scale_dependent: () =>
    "Unweighted least squares depends on the scales of the items: in other units other estimates follow.",
  correlations_as_covariances: () =>
    "The correlations came without standard deviations and are analysed as covariances: standard errors are wrong for models that depend on scale (Cudeck 1989).",
  loadings_not_invariant: ({ groups }: { groups: string }) =>
    `Paths are compared between the groups of “${groups}” although their loadings are not held equal: unstandardised paths are comparable only where the items measure alike. Write “with loadings equal”.`,
  surplus_items: ({ name, items }: { name: string; items: string[] }) =>
    `${items.join(", ")} of “${name}” ${items.length === 1 ? "takes" : "take"} no part in the products, since the other latent variable has fewer items.`,
});

interface Beyond {
  from: string;
  to: string;
  value: number;
  /** The largest correlation with another predictor. */
  r: number;
  /** With the outcome, no other predictor held. */
  simple: number;
  vif: number | null;
  r2: number;
}

/** Why a model of latent variables cannot be estimated, in words that say what to do. */
export const UNSUITED = {
  joint:
    "Products of three variables are not estimated among latent variables. Leave one moderator out, or measure by averages.",
  squares:
    "A latent variable's own curve is not estimated. Measure it by an average (“averages” instead of “reflects”) for a curve by least squares.",
  outcome: (name: string) =>
    `“${name}” is categorical and explained by others; this engine explains numbers only.`,
  clusters:
    "Clusters are not allowed for yet in models of covariances. Take the cluster column out of the analysis settings.",
  products: "Interactions need single cases; from a matrix of covariances there are no products.",
  severalGroups: (names: string[]) =>
    `Paths are said to differ by ${names.join(" and ")}; groups can be told by one column only. Leave one of them to the line “groups by”, or make one column that tells all their combinations.`,
  grouped: (name: string) =>
    `“${name}” tells the groups and has an effect of its own in another sentence. Among latent variables it can be one or the other: take it out of that sentence, or out of the moderation.`,
  incompleteGroups: "Everybody must belong to a group; complete cases only are used with groups.",
  heldDependent: (name: string) =>
    `The residual variance of “${name}” is what is left of one where answers are ordered: it cannot be held or shared. Take it out of that line.`,
  fullGroups:
    "Full information for interactions is not available with groups. Choose products of items.",
} as const;

const CONDITIONS = {
  "negative-df": "negative_df",
  "under-identified": "under_identified",
  "singular-sample-covariance": "singular_sample_covariance",
  "no-data": "no_data",
  "no-variance": "item_never_varies",
  "not-converged": "not_converged",
  "adf-sample-too-small": "adf_sample_too_small",
  "needs-raw-data": "needs_raw_data",
  "bad-weight": "bad_weight",
  "one-level": "items_one_level",
  "too-many-levels": "too_many_levels",
  "perfect-association": "perfect_association",
  "ordered-groups": "ordered_groups",
} as const;

/** What stopped a model, as a problem of the study. */
export function faultProblem({
  code,
  variables,
  counts,
  message,
  group,
}: ModelFault): StudyProblem {
  const place = { variables: code === "under-identified" ? [] : variables };
  switch (code) {
    case "negative-df":
      return new StudyProblem(
        CONDITIONS[code],
        { parameters: counts.parameters!, moments: counts.moments! },
        place,
      );
    case "under-identified":
      return new StudyProblem(
        CONDITIONS[code],
        {
          rank: counts.rank ?? 0,
          parameters: counts.parameters ?? 0,
          involved: variables,
        },
        place,
      );
    case "singular-sample-covariance":
      return new StudyProblem(
        CONDITIONS[code],
        { names: variables, n: counts.n ?? null, p: counts.p ?? null },
        place,
      );
    case "no-data":
    case "no-variance":
      return new StudyProblem(CONDITIONS[code], { names: variables, group: group || null }, place);
    case "bad-weight":
      return new StudyProblem(CONDITIONS[code], { names: variables }, place);
    case "not-converged":
      return new StudyProblem(CONDITIONS[code], {}, place);
    case "adf-sample-too-small":
      return new StudyProblem(
        CONDITIONS[code],
        { n: counts.n!, moments: counts.moments!, least: counts.least },
        place,
      );
    case "needs-raw-data":
      return new StudyProblem(CONDITIONS[code], { what: message }, place);
    case "one-level":
    case "perfect-association":
      return new StudyProblem(CONDITIONS[code], { names: variables }, place);
    case "too-many-levels":
      return new StudyProblem(
        CONDITIONS[code],
        { names: variables, levels: counts.levels!, most: counts.most! },
        place,
      );
    case "ordered-groups":
      return new StudyProblem(CONDITIONS[code], {}, place);
    case "held-dependent":
      return new StudyProblem(
        "engine_unsuited",
        { reason: UNSUITED.heldDependent(variables[0]!) },
        place,
      );
    case "unknown-variable":
    case "doubled-arrow":
    case "cycle":
      return new StudyProblem("engine_unsuited", { reason: message }, place);
  }
}
