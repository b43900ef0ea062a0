import { conditionalEffects, interactions } from "./conditional";
import { contrasts } from "./contrasts";
import { averages } from "./averages";
import { claims } from "./claims";
import { comparisons } from "./comparisons";
import { ownQuantities } from "./own";
import { pathEffects } from "./path-effects";
import { proportions } from "./proportions";
import type { EffectContext, EffectFamily, Quantity } from "./quantity";
import { explainedVariance, standardised } from "./standardised";

/**
 * The families of effects. To add a kind of effect, write a file that turns an `EffectContext` into
 * quantities and list it here: estimates, delta errors, bootstrap intervals, tables and exports
 * follow from the list.
 */
const FAMILIES: EffectFamily[] = [
  pathEffects,
  interactions,
  conditionalEffects,
  averages,
  comparisons,
  claims,
  contrasts,
  proportions,
  standardised,
  explainedVariance,
  ownQuantities,
];

/**
 * Every quantity of the model, in the order of the families; one that two families or sentences
 * name is listed once.
 * @param more families that only the engine at hand knows
 */
export const allQuantities = (context: EffectContext, more: EffectFamily[] = []): Quantity[] =>
  [
    ...new Map(
      [...FAMILIES, ...more]
        .flatMap((family) => family(context))
        .reverse()
        .map((q) => [q.id, q]),
    ).values(),
  ].reverse();

export { claimOf, directOf, type Claim, type Claimed } from "./claims";
export { pathEffect } from "./path-claims";
export { averageId } from "./averages";
export { conditionalId, indexId, interactionId } from "./conditional";
export { atWords, probeGrid, valuesOf, type Combination, type Moderator } from "./probes";
export type { Probe } from "./probes";
export { directId, indirectId, LINK_SCALE_WORDS, totalId, totalIndirectId } from "./path-effects";
export {
  effectContext,
  type ConditionalRoute,
  type EffectContext,
  type EffectFamily,
  type EffectKind,
  type EffectPair,
  type EffectSource,
  type ModeratorChange,
  type Quantity,
} from "./quantity";
