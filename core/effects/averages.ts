import { averagedOver, sum, type Expression, type Polynomial } from "../model";
import type { ConditionalRoute, EffectContext, EffectPair, Quantity } from "./quantity";

export const averageId = (from: string, nodes: readonly string[]): string =>
  `average ${nodes.length > 2 ? "indirect" : "direct"} ${[from, ...nodes.slice(1)].join(" > ")}`;

/**
 * The mean of a moderated effect over the cases of the sample: every product of moderator columns
 * at its sample average. It does not depend on coding, on the order of levels or on probe values. A
 * resample uses its own cases.
 */
export const averageOf = ({ average }: EffectContext, polynomial: Polynomial): Expression =>
  averagedOver(polynomial, average);

/**
 * The average over the sample of every moderated path, and of the whole effect where a path of it
 * is moderated.
 */
export function averages(context: EffectContext): Quantity[] {
  return context.pairs.flatMap((pair) => {
    if (pair.conditional.length === 0) return [];
    const routes = pair.conditional.map((route) => averageQuantity(context, pair, route));
    const parts = [
      ...(pair.direct ? [pair.direct] : []),
      ...pair.indirect.map((i) => i.expression),
      ...routes.map((r) => r.expression),
    ];
    // Differences of means beside slopes on the scale of a model add up to nothing.
    if (parts.length < 2 || pair.natural) return routes;
    const total: Quantity = {
      id: `average total ${pair.from} > ${pair.to}`,
      kind: "average_total",
      label: `${pair.fromLabel} on ${pair.to}, in total, on average`,
      from: pair.from,
      to: pair.to,
      via: [],
      of: null,
      expression: sum(parts),
      averaged: true,
    };
    return [...routes, total];
  });
}

function averageQuantity(
  context: EffectContext,
  pair: EffectPair,
  { nodes, polynomial }: ConditionalRoute,
): Quantity {
  const via = nodes.slice(1, -1);
  const through = via.length > 0 ? ` through ${via.join(", then ")}` : "";
  return {
    id: averageId(pair.from, nodes),
    kind: via.length > 0 ? "average_indirect" : "average_direct",
    label: `${pair.fromLabel} on ${pair.to}${through}, on average`,
    detail: through,
    from: pair.from,
    to: pair.to,
    via,
    of: null,
    expression: averageOf(context, polynomial),
    averaged: true,
  };
}
