import { plain } from "../../wording/numbers";
import { warningsIn } from "../../wording/warnings";

/** What is said of responses where something deserves a look. */
export const warning = warningsIn({
  few_events: ({
    outcome,
    events,
    columns,
  }: {
    outcome: string;
    events: number;
    columns: number;
  }) =>
    `“${outcome}” has only ${events} of the rarer value for ${columns} columns; below ten for each, coefficients and tests lean to extremes (Peduzzi et al. 1996).`,
  overdispersion: ({ outcome, dispersion }: { outcome: string; dispersion: number }) =>
    `Counts of “${outcome}” scatter ${plain(dispersion, 2)} times as much as a Poisson model has them. Use robust errors (HC0) or the bootstrap.`,
  no_overdispersion: ({ outcome }: { outcome: string }) =>
    `Counts of “${outcome}” scatter no more than a Poisson model has them: θ grows without bound, and the negative binomial model is that Poisson model here, with a parameter that is not needed. “model ${outcome} as poisson” says the same.`,
  far_from_zero: ({ outcome, mean }: { outcome: string; mean: number }) =>
    `“${outcome}” is far from zero throughout (mean ${plain(mean, 1)}), so “model ${outcome} as linear” may say the same more simply.`,
  proportion_unstable: ({
    outcome,
    mediator,
    contrast,
  }: {
    outcome: string;
    mediator: string;
    contrast: string;
  }) =>
    `The total effect on “${outcome}” (${contrast}) may be zero, or lies beyond its parts, so shares of it through “${mediator}” mean little.`,
  controlled_value_outside_range: ({ mediator, at }: { mediator: string; at: number }) =>
    `“${mediator}” never was ${plain(at, 2)} in these data: what would be there is extrapolated.`,
  contrast_outside_range: ({ treatment, at }: { treatment: string; at: number }) =>
    `“${treatment}” never was ${plain(at, 2)} in these data: what would be there is extrapolated.`,
  moderator_outside_range: ({ moderator, at }: { moderator: string; at: number }) =>
    `“${moderator}” never was ${plain(at, 2)} in these data: what would be there is extrapolated.`,
  paths_on_link_scale: ({ outcome, mediators }: { outcome: string; mediators: string }) =>
    `Single paths to “${outcome}” through one of ${mediators} are products of coefficients on the scale of the model: they say in which direction, not how much of the effect (MacKinnon & Dwyer 1993). What goes through all of them together stands beside them as the effect of the block.`,
  not_collapsible: ({ outcome, mediator }: { outcome: string; mediator: string }) =>
    `The coefficients of “${outcome}” without and with “${mediator}” are on different scales, so their difference is no effect through “${mediator}”, and neither is the product of coefficients in shares of people. Rest on the natural effects.`,
  interaction_scale: ({ outcome }: { outcome: string }) =>
    `An interaction on “${outcome}” is told on the scale of its model (log odds, or log counts). Its sign and size can differ in probabilities.`,
});

/** Why responses cannot be modelled so, in words that say what to do. */
export const UNSUITED = {
  moments: "Yes/no and counted responses",
  clusters:
    "Clusters are not allowed for yet where responses are yes or no, or counts. Take the cluster column out of the analysis settings.",
  groups:
    "Groups side by side do not exist where responses are yes or no, or counts. Let the column be a moderator instead.",
  constraints:
    "Paths held equal or at a value, and covariances that are drawn, belong to models of covariances. Take these lines out.",
  several: (outcome: string) =>
    `Several mediators on the way to “${outcome}” are told as one block where all of them are straight lines, and two of them stand in one product only where “${outcome}” is a straight line, too. State one of them, or “model … as linear”.`,
  chain: (label: string) =>
    `${label} claims that a path through one of several mediators is moderated, or one that begins or ends on the way; with a response that is no straight line only the whole effect through a single mediator can be told. Say which single step is moderated.`,
  counted: (mediator: string) =>
    `“${mediator}” by a negative binomial model is told as a mediator only on the way to straight lines. Write “model ${mediator} as poisson” and rest on robust errors or the bootstrap.`,
  square:
    "A variable that moderates its own effect is not told where responses are no straight lines.",
} as const;
