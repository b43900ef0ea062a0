import { conditionalEffects, interactions } from "./conditional";
import { contrasts } from "./contrasts";
import { claims, ownQuantities } from "./own";
import { pathEffects } from "./path-effects";
import { proportions } from "./proportions";
import type { EffectContext, Quantity } from "./quantity";
import { explainedVariance, standardised } from "./standardised";

/**
 * The families of effects. To add a kind of effect, write a file that turns an `EffectContext` into quantities and
 * list it here: estimates, delta errors, bootstrap intervals, tables and exports follow from the list.
 */
const FAMILIES: ((context: EffectContext) => Quantity[])[] = [
  pathEffects,
  interactions,
  conditionalEffects,
  claims,
  contrasts,
  proportions,
  standardised,
  explainedVariance,
  ownQuantities,
];

/** Every quantity of the model, in the order of the families. */
export const allQuantities = (context: EffectContext): Quantity[] => FAMILIES.flatMap((family) => family(context));

export { claimIds, middleId, moderationClaimIds } from "./own";
export { conditionalId, indexId, interactionId } from "./conditional";
export { atWords, probeGrid, valuesOf, type Combination, type Moderator } from "./probes";
export { at, derivative, moderatorsOf, slopeOf, type Polynomial } from "./polynomial";
export { coefficientQuantities } from "./coefficients";
export { directId, indirectId, totalId, totalIndirectId } from "./path-effects";
export { effectContext, type ConditionalRoute, type EffectContext, type EffectKind, type EffectPair, type Quantity } from "./quantity";
export { multiply, number, parameter, sum } from "./expression";
export {
  compileExpression,
  compileGradient,
  gradient,
  parametersOf,
  type Evaluator,
  type Expression,
  type GradientAdder,
} from "./expression";
