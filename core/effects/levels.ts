import type { UsedCoding } from "../design";
import { StudyProblem } from "../problems";
import { nearestName, type LevelPair, type NameRef } from "../theory";
import type { Claimed } from "./claimed";
import { comparedEffects, comparedPolynomial, comparedWords, comparisonId } from "./comparisons";
import type { EffectContext, EffectPair, Quantity } from "./quantity";

/** Quantities of each code column as one comparison where levels are named, else as they are. */
export function overLevels(
  context: EffectContext,
  ref: NameRef,
  line: number,
  pairs: EffectPair[],
  quantities: Quantity[],
): Pick<Claimed, "quantities" | "joint" | "open"> {
  const coding = context.codings.find((c) => c.variable === ref.name);
  if (!coding) {
    refuseComparison(ref, line);
    return { quantities, joint: false, open: null };
  }
  if (!ref.compared)
    return { quantities, joint: true, open: { variable: ref.name, levels: coding.levels } };
  const compared = knownLevels(context, coding, ref.compared, line);
  const [first] = quantities;
  const known = comparedEffects(context, coding, compared).find(
    (q) => q.id === comparisonId(first!.id, pairs[0]!.from, ref.name, compared),
  );
  return {
    quantities: [known ?? comparedCombination(coding, compared, pairs, quantities)],
    joint: false,
    open: null,
  };
}

function comparedCombination(
  coding: UsedCoding,
  compared: LevelPair,
  pairs: EffectPair[],
  quantities: Quantity[],
): Quantity {
  const [first] = quantities;
  const polynomials = quantities.map((q) => [{ moderators: [], expression: q.expression }]);
  const words = comparedWords(coding.variable, compared);
  return {
    ...first!,
    id: comparisonId(first!.id, pairs[0]!.from, coding.variable, compared),
    kind: "comparison",
    compared: { kind: first!.kind, variable: coding.variable, ...compared },
    label: first!.label.replace(pairs[0]!.fromLabel, words),
    from: words,
    expression: comparedPolynomial(coding, compared, polynomials)[0]!.expression,
  };
}

export function refuseComparison(ref: NameRef, line: number): void {
  if (!ref.compared) return;
  throw new StudyProblem(
    "no_levels",
    { line, name: ref.name },
    {
      line,
      variables: [ref.name],
    },
  );
}

/** The levels as the data write them; value labels are understood too. */
export function knownLevels(
  context: EffectContext,
  { variable, levels }: UsedCoding,
  { upper, lower }: LevelPair,
  line: number,
): LevelPair {
  const find = (name: string): string => {
    const found =
      levels.find((level) => level === name) ??
      levels.find((level) => context.levelLabel(variable, level) === name);
    if (found !== undefined) return found;
    const near = nearestName(name, levels);
    throw new StudyProblem(
      "no_such_level",
      { line, name: variable, level: name, near: near ?? null, levels },
      { line, variables: [variable] },
    );
  };
  return { upper: find(upper), lower: find(lower) };
}
