import { subtract } from "../model";
import { asProduct, indirectId } from "./path-effects";
import type { EffectContext, EffectPair, Quantity } from "./quantity";

/**
 * Differences between every two specific indirect effects of the same pair, the earlier minus the
 * later.
 */
export function contrasts({ pairs }: EffectContext): Quantity[] {
  return pairs.flatMap((pair) =>
    pair.indirect.flatMap((first, i) =>
      pair.indirect.slice(i + 1).map((second): Quantity => ({
        id: `contrast (${indirectId(pair.from, first.nodes)}) - (${indirectId(pair.from, second.nodes)})`,
        kind: "contrast",
        ...asProduct(pair, first.nodes),
        ...(isDifference(pair, first.nodes) && isDifference(pair, second.nodes)
          ? { difference: true as const }
          : {}),
        ...words(
          pair,
          `through ${route(first.nodes)} minus through ${route(second.nodes)}${asProduct(pair, first.nodes).linkScale ? ", as products of coefficients" : ""}`,
        ),
        from: pair.from,
        to: pair.to,
        via: [],
        of: null,
        expression: subtract(first.expression, second.expression),
      })),
    ),
  );
}

const isDifference = ({ routes }: EffectPair, nodes: string[]): boolean =>
  routes.some((r) => r.nodes === nodes && r.difference);

const words = (pair: EffectPair, difference: string): Pick<Quantity, "label" | "detail"> => ({
  label: `${pair.fromLabel} on ${pair.to}: ${difference}`,
  detail: `: ${difference}`,
});

const route = (nodes: string[]): string => nodes.slice(1, -1).join(", then ");
