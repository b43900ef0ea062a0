import { add, divide } from "../model";
import { indirectId, indirectRoutes, totalIndirect, totalIndirectId } from "./path-effects";
import type { EffectContext, Quantity } from "./quantity";

/**
 * Share of the total effect that is indirect, and the ratio of indirect to direct (MacKinnon, Warsi
 * & Dwyer 1995).
 */
export function proportions({ pairs }: EffectContext): Quantity[] {
  return pairs.flatMap((pair): Quantity[] => {
    const indirect = totalIndirect(pair);
    if (!indirect || !pair.direct) return [];
    const [first, ...others] = indirectRoutes(pair);
    const of =
      others.length === 0
        ? indirectId(pair.from, first!.nodes)
        : totalIndirectId(pair.from, pair.to);
    const base = { from: pair.from, to: pair.to, via: [], of };
    const what = `${pair.fromLabel} on ${pair.to}`;
    return [
      {
        ...base,
        id: `proportion mediated ${pair.from} > ${pair.to}`,
        kind: "proportion_mediated",
        label: `${what}: share of the total that is indirect`,
        expression: divide(indirect, add(pair.direct, indirect)),
      },
      {
        ...base,
        id: `ratio indirect/direct ${pair.from} > ${pair.to}`,
        kind: "ratio_to_direct",
        label: `${what}: indirect over direct`,
        expression: divide(indirect, pair.direct),
      },
    ];
  });
}
