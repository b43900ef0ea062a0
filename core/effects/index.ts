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
  claims,
  contrasts,
  proportions,
  standardised,
  explainedVariance,
  ownQuantities,
];

/** Every quantity of the model, in the order of the families. */
export const allQuantities = (context: EffectContext): Quantity[] => FAMILIES.flatMap((family) => family(context));

export { claimIds } from "./own";
export { directId, indirectId, totalId, totalIndirectId } from "./path-effects";
export { effectContext, type EffectContext, type EffectKind, type EffectPair, type Quantity } from "./quantity";
export { compileExpression, gradient, parametersOf, type Evaluator, type Expression } from "./expression";
