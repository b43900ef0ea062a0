import { divide, multiply, product } from "../model";
import { conditionalEffects } from "./conditional";
import { indirectId, pathEffects } from "./path-effects";
import type { EffectContext, Quantity } from "./quantity";

/**
 * Effects in SDs of the outcome (partially standardised) and, for a numeric predictor, in SDs of
 * both (Preacher & Kelley 2011, Psychol Methods 16). The SDs are parameters, so every replicate
 * uses its own.
 */
export function standardised(context: EffectContext): Quantity[] {
  const categorical = new Set(context.pairs.filter((p) => p.categorical).map((p) => p.from));
  const natural = new Set(
    context.pairs.flatMap((p) => (p.natural ? [`${p.from}\u0000${p.to}`] : [])),
  );
  const slopes = conditionalEffects(context).filter((q) => q.kind === "conditional_direct");
  return [...pathEffects(context), ...slopes].flatMap((effect): Quantity[] => {
    if (natural.has(`${effect.from}\u0000${effect.to}`)) return [];
    const partial = divide(effect.expression, context.sd(effect.to!));
    const list: Quantity[] = [
      {
        ...effect,
        id: `partially standardised ${effect.id}`,
        kind: "partially_standardised",
        of: effect.id,
        expression: partial,
      },
    ];
    if (!categorical.has(effect.from!)) {
      list.push({
        ...effect,
        id: `completely standardised ${effect.id}`,
        kind: "completely_standardised",
        of: effect.id,
        expression: multiply(partial, context.sd(effect.from!)),
      });
    }
    return list;
  });
}

/**
 * Upsilon, the explained-variance size of x > m > y (Lachowicz, Preacher & Kelley 2018, Psychol
 * Methods 23).
 */
export function explainedVariance({ pairs, sd }: EffectContext): Quantity[] {
  return pairs.flatMap((pair) =>
    pair.indirect
      .filter((i) => i.nodes.length === 3 && !pair.categorical && !pair.natural)
      .map(({ nodes, expression }): Quantity => {
        const beta = product([expression, divide(sd(pair.from), sd(pair.to))]);
        const of = indirectId(pair.from, nodes);
        return {
          id: `upsilon ${of}`,
          kind: "explained_variance",
          label: `${pair.fromLabel} on ${pair.to} through ${nodes[1]}: variance explained indirectly`,
          from: pair.from,
          to: pair.to,
          via: [nodes[1]!],
          of,
          expression: multiply(beta, beta),
        };
      }),
  );
}
