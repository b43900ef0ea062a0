import { moderatorsOf } from "../model";
import { averageId, averageOf } from "./averages";
import { asDifference, asProduct, directId, indirectId, LINK_SCALE_WORDS } from "./path-effects";
import type { EffectContext, EffectPair, Quantity } from "./quantity";

/** The effects of a variable on an outcome: one pair for each of its columns. */
export const pairsOf = (context: EffectContext, from: string, to: string): EffectPair[] =>
  context.pairs.filter((pair) => pair.fromVariable === from && pair.to === to);

export const pathKey = (nodes: readonly string[]): string => nodes.slice(1).join("\u0000");

export const routeOf = (pair: EffectPair, nodes: readonly string[]): EffectPair["routes"][number] =>
  pair.routes.find((route) => pathKey(route.nodes) === pathKey(nodes))!;

/**
 * The effect along one path: a coefficient or product where nothing moderates it, else its average
 * over the sample.
 */
export function pathEffect(
  context: EffectContext,
  pair: EffectPair,
  nodes: readonly string[],
): Quantity {
  const route = routeOf(pair, nodes);
  const { polynomial } = route;
  const via = nodes.slice(1, -1);
  const moderated = moderatorsOf(polynomial).length > 0;
  // What is averaged over a moderator is told with the name of its scale.
  const product = moderated ? {} : asProduct(pair, nodes);
  const through = via.length > 0 ? ` through ${via.join(", then ")}` : "";
  const plainId = via.length > 0 ? indirectId(pair.from, nodes) : directId(pair.from, pair.to);
  const kind =
    via.length > 0
      ? moderated
        ? "average_indirect"
        : "specific_indirect"
      : moderated
        ? "average_direct"
        : "direct";
  return {
    id: moderated ? averageId(pair.from, nodes) : plainId,
    kind,
    label: `${pair.fromLabel} on ${pair.to}${through}${moderated ? ", on average" : ""}${product.linkScale ? LINK_SCALE_WORDS : ""}`,
    from: pair.from,
    to: pair.to,
    via: [...via],
    ...product,
    ...asDifference(route),
    of: null,
    expression: averageOf(context, polynomial),
    ...(moderated ? { averaged: true, detail: through } : {}),
  };
}
