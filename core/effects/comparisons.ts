import { multiply, number, sum, type Expression, combined, type Polynomial } from "../model";
import type { UsedCoding } from "../design";
import type { LevelPair } from "../theory";
import { averages } from "./averages";
import { pathEffects } from "./path-effects";
import type { EffectContext, EffectPair, Quantity } from "./quantity";

/** With more levels than this only the comparisons that hypotheses name are listed. */
const MOST_LEVELS = 8;

/**
 * Every effect of a categorical predictor once for every two of its levels, the later minus the
 * earlier: the same whatever the coding and the reference, since only the code rows of the two
 * levels enter.
 */
export function comparisons(context: EffectContext): Quantity[] {
  return context.codings
    .filter((coding) => coding.levels.length <= MOST_LEVELS)
    .flatMap((coding) =>
      pairsOfLevels(coding.levels).flatMap((compared) =>
        comparedEffects(context, coding, compared),
      ),
    );
}

const pairsOfLevels = (levels: string[]): LevelPair[] =>
  levels.flatMap((upper, j) => levels.slice(0, j).map((lower) => ({ upper, lower })));

export const comparedWords = (variable: string, { upper, lower }: LevelPair): string =>
  `${variable} (${upper} against ${lower})`;

/** The id of an effect of a code column, for a comparison of levels instead. */
export const comparisonId = (
  id: string,
  key: string,
  variable: string,
  compared: LevelPair,
): string => `comparison ${id.replace(` ${key} >`, ` ${comparedWords(variable, compared)} >`)}`;

/** The effects of one comparison of levels, on every outcome that has effects of the variable. */
export function comparedEffects(
  context: EffectContext,
  coding: UsedCoding,
  compared: LevelPair,
): Quantity[] {
  const { variable } = coding;
  const outcomes = [
    ...new Set(context.pairs.filter((p) => p.fromVariable === variable).map((p) => p.to)),
  ];
  return outcomes.flatMap((to) => {
    const pairs = context.pairs.filter((p) => p.fromVariable === variable && p.to === to);
    const lists = pairs.map((pair) => effectsOfPair(context, pair));
    return lists[0]!.map((first, at): Quantity => {
      const words = comparedWords(variable, compared);
      return {
        ...first,
        id: comparisonId(first.id, first.from!, variable, compared),
        kind: "comparison",
        compared: { kind: first.kind, variable, ...compared },
        label: first.label.replace(pairs[0]!.fromLabel, words),
        from: words,
        family: `${variable} ${first.id.replace(first.from!, "")}`,
        expression: weighted(
          coding,
          compared,
          lists.map((list) => list[at]!.expression),
        ),
      };
    });
  });
}

const effectsOfPair = (context: EffectContext, pair: EffectPair): Quantity[] => {
  const alone = { ...context, pairs: [pair] };
  return [...pathEffects(alone), ...averages(alone)];
};

/** What each code column counts in the difference of two levels. */
export function codeDifferences(
  { levels, columns }: UsedCoding,
  { upper, lower }: LevelPair,
): number[] {
  const [a, b] = [levels.indexOf(upper), levels.indexOf(lower)];
  return columns.map(({ codes }) => codes[a]! - codes[b]!);
}

function weighted(coding: UsedCoding, compared: LevelPair, expressions: Expression[]): Expression {
  const parts = codeDifferences(coding, compared).flatMap((weight, j) =>
    weight === 0
      ? []
      : [weight === 1 ? expressions[j]! : multiply(number(weight), expressions[j]!)],
  );
  return sum(parts);
}

/** The effect of a comparison of levels as one function of the moderators. */
export const comparedPolynomial = (
  coding: UsedCoding,
  compared: LevelPair,
  polynomials: Polynomial[],
): Polynomial =>
  combined(
    codeDifferences(coding, compared).map((weight, j) => ({ weight, polynomial: polynomials[j]! })),
  );
