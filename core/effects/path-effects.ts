import { add, sum } from "../model";
import type { ConditionalRoute, EffectContext, EffectPair, Quantity } from "./quantity";

export const indirectId = (from: string, nodes: readonly string[]): string =>
  `indirect ${[from, ...nodes.slice(1)].join(" > ")}`;
export const directId = (from: string, to: string): string => `direct ${from} > ${to}`;
export const totalIndirectId = (from: string, to: string): string =>
  `total indirect ${from} > ${to}`;
export const totalId = (from: string, to: string): string => `total ${from} > ${to}`;

/**
 * Direct, specific indirect, total indirect and total effects of every pair. Only what exists is
 * listed: a total indirect effect needs two specific ones, a total effect a direct and an indirect
 * one.
 */
export function pathEffects({ pairs }: EffectContext): Quantity[] {
  return pairs.flatMap((pair) => {
    const base = { from: pair.from, to: pair.to, of: null };
    const on = `${pair.fromLabel} on ${pair.to}`;
    const list: Quantity[] = [];
    if (pair.direct) {
      list.push({
        ...base,
        id: directId(pair.from, pair.to),
        kind: "direct",
        label: on,
        via: [],
        expression: pair.direct,
        ...asDifference(pair.routes.find((r) => r.nodes.length === 2)),
      });
    }
    for (const { nodes, expression } of pair.indirect) {
      const via = nodes.slice(1, -1);
      const product = asProduct(pair, nodes);
      const label = `${on} through ${via.join(", then ")}${product.linkScale ? LINK_SCALE_WORDS : ""}`;
      list.push({
        ...base,
        ...product,
        ...asDifference(pair.routes.find((r) => r.nodes === nodes)),
        id: indirectId(pair.from, nodes),
        kind: "specific_indirect",
        label,
        via,
        expression,
      });
    }
    const total = totalIndirect(pair);
    if (total && indirectRoutes(pair).length > 1) {
      list.push({
        ...base,
        id: totalIndirectId(pair.from, pair.to),
        kind: "total_indirect",
        label: `${on}, all indirect`,
        via: [],
        expression: total,
        ...(pair.natural ? { difference: true as const } : {}),
      });
    }
    if (total && pair.direct) {
      list.push({
        ...base,
        id: totalId(pair.from, pair.to),
        kind: "total",
        label: `${on}, in total`,
        via: [],
        expression: add(pair.direct, total),
        ...(pair.natural ? { difference: true as const } : {}),
      });
    }
    return list;
  });
}

/** Every path of a pair that leads through something, moderated or not. */
export const indirectRoutes = ({ routes }: EffectPair) => routes.filter((r) => r.nodes.length > 2);

/**
 * What goes through all mediators of a pair: the sum of specific indirect effects, where those add
 * up; null when there are none, or when paths are moderated and not known together.
 */
export const totalIndirect = (pair: EffectPair) =>
  pair.together ??
  (pair.indirect.length > 0 && pair.conditional.length === 0 && !pair.apart
    ? sum(pair.indirect.map((i) => i.expression))
    : null);

/** Said of paths whose effects are no differences of means. */
export const asProduct = (pair: EffectPair, nodes: readonly string[]): { linkScale?: true } =>
  (pair.together !== null || pair.apart) && nodes.length > 2 ? { linkScale: true } : {};

/** Said of a path whose effect is a difference of means. */
export const asDifference = (route?: ConditionalRoute): { difference?: true } =>
  route?.difference ? { difference: true } : {};

export const LINK_SCALE_WORDS = ", as a product of coefficients";
