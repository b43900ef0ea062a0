import { heldWords, listed } from "../../wording/condition";
import { plain } from "../../wording/numbers";
import type { EffectScale, NaturalEffect, NaturalEffectKind, ResponseInteraction } from "./types";
import type { UnmeasuredCause } from "../../sensitivity";
import type { Triad } from "./causal-model";
import { isBinary, type FamilyId } from "./families";

/** What has to hold for these effects to be causes (VanderWeele 2015), in plain words. */
export const ASSUMPTIONS = [
  "Nothing that was left out affects both the treatment and the outcome, once covariates are held. Dealing people to treatments by lot secures it.",
  "Nothing that was left out affects both the mediator and the outcome, once treatment and covariates are held. No lot secures that.",
  "Nothing that was left out affects both the treatment and the mediator, once covariates are held. A lot secures it.",
  "No cause of both mediator and outcome is itself changed by the treatment. No lot secures that.",
  "Both models have the right form. Effects with the mediator held need only the first two of these.",
];

/** What one treatment is called: a group by its name, a number by its variable. */
const world = ({ contrast, at }: Triad, x: 0 | 1): string => {
  const value = x === 1 ? contrast.upper : contrast.lower;
  const own = `${contrast.variable} were ${Number.isNaN(Number(value)) ? `“${value}”` : value}`;
  return at ? `${own} and ${at.name} ${heldWords(at)}` : own;
};

/** So many of a hundred, or a mean. */
const amount = (family: FamilyId, { outcome, event }: Triad, mean: number): string =>
  isBinary(family)
    ? `${plain(100 * mean, 1)} in 100 would have ${event}`
    : `${outcome} would be ${plain(mean, 2)} on average`;

/** A mean of potential outcomes as a sentence of the study. */
export function meanWords(
  triad: Triad,
  family: FamilyId,
  x: 0 | 1,
  own: 0 | 1,
  mean: number,
): string {
  const { mediator } = triad;
  const mediated =
    x === own
      ? `, with the ${mediator} that goes with it`
      : `, but with the ${mediator} they would have had if ${world({ ...triad, at: null }, own)}`;
  return `If for everybody ${world(triad, x)}${mediated}, ${amount(family, triad, mean)}.`;
}

/** Where a mediator is held, for people: no more decimals than a reader could hold. */
const short = (value: number): string => {
  const written = plain(value, 2);
  return /\.\d+$/.test(written) ? written.replace(/\.?0+$/, "") : written;
};

const WORDS: Record<NaturalEffectKind, (triad: Triad, at: string) => string> = {
  total_effect: () => "in total",
  pure_natural_direct: ({ mediator, contrast }) =>
    `without ${mediator}: ${mediator} as under ${contrast.lower}`,
  total_natural_indirect: ({ mediator, contrast }) =>
    `through ${mediator}, under ${contrast.upper}`,
  total_natural_direct: ({ mediator, contrast }) =>
    `without ${mediator}: ${mediator} as under ${contrast.upper}`,
  pure_natural_indirect: ({ mediator, contrast }) => `through ${mediator}, under ${contrast.lower}`,
  average_natural_direct: ({ mediator }) => `without ${mediator}, both ways averaged`,
  average_natural_indirect: ({ mediator }) => `through ${mediator}, both ways averaged`,
  mediated_interaction: ({ mediator, contrast }) =>
    `through ${mediator} only because ${contrast.variable} changes what it does`,
  proportion_mediated: ({ mediator }) => `share of the total through ${mediator}`,
  proportion_mediated_average: ({ mediator }) => `share through ${mediator}, both ways averaged`,
  proportion_mediated_odds: ({ mediator }) => `share of the total through ${mediator}, in odds`,
  controlled_direct: ({ mediator }, at) => `with ${mediator} held at ${at}`,
  reference_interaction: ({ mediator }, at) =>
    `because ${mediator} is not at ${at}, by interaction alone`,
  proportion_eliminated: ({ mediator }, at) => `share that goes if ${mediator} is held at ${at}`,
  share_controlled_direct: ({ mediator }, at) => `share with ${mediator} held at ${at}`,
  share_reference_interaction: ({ mediator }, at) =>
    `share by interaction alone, ${mediator} against ${at}`,
  share_interaction_total: ({ mediator }, at) => `share of both interactions, ${mediator} at ${at}`,
  share_mediated_interaction: ({ mediator }) => `share by mediation and interaction, ${mediator}`,
  share_pure_indirect: ({ mediator }) => `share through ${mediator} alone`,
  pure_indirect: ({ mediator }) => `through ${mediator} alone`,
  total: () => "in total",
};

const SCALES: Record<EffectScale, string> = {
  difference: "",
  risk_ratio: " (ratio of probabilities)",
  mean_ratio: " (ratio of means)",
  odds_ratio: " (ratio of odds)",
  excess_ratio: " (relative to the mean without treatment)",
};

/** What an effect is, in words of the study. */
export function effectWords(
  { kind, held }: Pick<NaturalEffect, "kind" | "held">,
  scale: EffectScale,
  triad: Triad,
): string {
  return `${WORDS[kind](triad, listed((held ?? []).map(short)))}${SCALES[scale]}`;
}

/** What it all comes to. */
export function summaryWords(
  triad: Triad,
  family: FamilyId,
  effects: readonly NaturalEffect[],
): string[] {
  const of = (name: string): number => effects.find((e) => e.name === name)!.estimate;
  const { contrast, mediator, outcome, event, at } = triad;
  const size = (value: number): string =>
    isBinary(family)
      ? `${plain(Math.abs(100 * value), 1)} ${value >= 0 ? "more" : "fewer"} in 100 would have ${event}`
      : `${outcome} would be ${plain(Math.abs(value), 2)} ${value >= 0 ? "higher" : "lower"} on average`;
  const where = at ? `Where ${at.name} is ${heldWords(at)}: if` : "If";
  return [
    `${where} ${contrast.variable} were ${contrast.upper} instead of ${contrast.lower} for everybody, ${size(of("total_effect"))}.`,
    `Through ${mediator}: ${size(of("total_natural_indirect"))}. Without it: ${size(of("pure_natural_direct"))}.`,
  ];
}

/** How strong something left out would have to be, of the effect through the mediator. */
export function unmeasuredWords(
  { mediator, outcome }: Triad,
  causes: readonly UnmeasuredCause[],
): string[] {
  const own = causes.find((c) => c.effect === "total_natural_indirect");
  if (!own) return [];
  const limit =
    own.eValueOfLimit > 1
      ? `by ${plain(own.eValueOfLimit, 2)} its interval would reach zero`
      : "its interval holds zero as it is";
  return [
    `Something that was left out would have to be related to both ${mediator} and ${outcome} by ratios of ${plain(own.eValue, 2)} each to explain all of the effect through ${mediator}; ${limit} (E-value, VanderWeele & Ding 2017).`,
  ];
}

/** What an interaction on the scale of the response says, and for how many. */
export function interactionWords(
  {
    columns: [x, w],
    kind,
    average,
    shareNegative,
    shareSignificant,
    minimum,
    maximum,
    outcome,
  }: Omit<ResponseInteraction, "words">,
  family: FamilyId,
): string {
  const scale = isBinary(family) ? `the probability of ${outcome}` : `the expected ${outcome}`;
  const size = (v: number): string =>
    isBinary(family) ? `${plain(100 * v, 2)} percentage points` : plain(v, 3);
  const step = {
    cross_derivative: `for each unit more of ${w}, what a unit more of ${x} adds to ${scale}`,
    difference_of_derivatives: `between the two values of one, what a unit more of the other of ${x} and ${w} adds to ${scale}`,
    double_difference: `between the two values of ${w}, what ${x} adds to ${scale}`,
  }[kind];
  return `On average, ${step} changes by ${size(average)}; from row to row by ${size(minimum)} to ${size(maximum)}. It is negative in ${Math.round(100 * shareNegative)} % of the rows, and told apart from zero in ${Math.round(100 * shareSignificant)} %.`;
}
