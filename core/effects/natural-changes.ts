import type { Expression } from "../model";
import type { Moderation, NameRef } from "../theory";
import { comparedPolynomial, comparedWords } from "./comparisons";
import { knownLevels, refuseComparison } from "./levels";
import type { Moderator } from "./probes";
import type { EffectContext, EffectPair, ModeratorChange, Quantity } from "./quantity";

/** A moderator of a sentence, and what is known of it. */
export interface NamedModerator {
  ref: NameRef;
  moderator: Moderator;
}

/** One way in which moderators change, in words: “by w”, “w high minus low”. */
interface Way {
  words: string[];
  changes: ModeratorChange[];
}

/**
 * Changes of an effect that is a difference of means: it is no polynomial in its moderators, so the
 * engine tells its derivative at what every row has, averaged over the rows, or its difference
 * between two values.
 *
 * @returns null where the effect is a product of slopes
 */
export function naturalChanges(
  context: EffectContext,
  moderation: Moderation,
  moderators: readonly NamedModerator[],
  pairs: readonly EffectPair[],
  nodes: readonly string[],
): Quantity[] | null {
  const ways = moderators.reduce<Way[]>(
    (all, named) =>
      all.flatMap((way) =>
        waysOf(context, named, moderation.line).map((own) => ({
          words: [...way.words, ...own.words],
          changes: [...way.changes, ...own.changes],
        })),
      ),
    [{ words: [], changes: [] }],
  );
  const told = ways.flatMap((way) => {
    const each = pairs.map((pair) => context.changeAlong?.(pair.from, nodes, way.changes) ?? null);
    return each.every((e) => e !== null)
      ? predictorsOf(context, moderation, pairs, each).map((of) => quantityOf(of, way, nodes))
      : [];
  });
  return told.length > 0 ? told : null;
}

function waysOf(context: EffectContext, { ref, moderator }: NamedModerator, line: number): Way[] {
  const between = (upper: number, lower: number, words: string): Way => ({
    words: [words],
    changes: [{ moderator: ref.name, between: [upper, lower] }],
  });
  const labels = moderator.probes.map((p) => p.label);
  if (moderator.kind === "categorical") {
    if (!ref.compared)
      return labels
        .slice(1)
        .map((upper, i) =>
          between(i + 1, 0, comparedWords(ref.name, { upper, lower: labels[0]! })),
        );
    const coding = context.codings.find((c) => c.variable === ref.name)!;
    const compared = knownLevels(context, coding, ref.compared, line);
    const [upper, lower] = [compared.upper, compared.lower].map((l) => coding.levels.indexOf(l));
    return [between(upper!, lower!, comparedWords(ref.name, compared))];
  }
  refuseComparison(ref, line);
  return moderator.kind === "two_values"
    ? [between(1, 0, `${ref.name} ${labels[1]} minus ${labels[0]}`)]
    : [{ words: [ref.name], changes: [{ moderator: ref.name, between: null }] }];
}

interface Predictor {
  from: string;
  label: string;
  to: string;
  expression: Expression;
}

/** The change for every column of the predictor, or for the two levels of it that are compared. */
function predictorsOf(
  context: EffectContext,
  { from, line }: Moderation,
  pairs: readonly EffectPair[],
  each: readonly Expression[],
): Predictor[] {
  const { to } = pairs[0]!;
  const coding = context.codings.find((c) => c.variable === from.name);
  if (!coding || !from.compared)
    return pairs.map((pair, i) => ({
      from: pair.from,
      label: pair.fromLabel,
      to,
      expression: each[i]!,
    }));
  const compared = knownLevels(context, coding, from.compared, line);
  const words = comparedWords(from.name, compared);
  const [difference] = comparedPolynomial(
    coding,
    compared,
    each.map((expression) => [{ moderators: [], expression }]),
  );
  return [{ from: words, label: words, to, expression: difference!.expression }];
}

function quantityOf(
  { from, label, to, expression }: Predictor,
  { words, changes }: Way,
  nodes: readonly string[],
): Quantity {
  const via = nodes.slice(1, -1);
  const by = words.join(" and ");
  const kind = changes.some((c) => c.between !== null) ? "difference," : "change per unit of";
  const detail = ` through ${via.join(", then ")}: ${kind} ${by}, averaged over the sample`;
  return {
    id: `average change ${[from, ...nodes.slice(1)].join(" > ")} by ${by}`,
    kind: "average_change",
    label: `${label} on ${to}${detail}`,
    detail,
    from,
    to,
    via,
    of: null,
    averaged: true,
    ...(changes.some((c) => c.between === null) ? { fromDifferences: true } : {}),
    expression,
  };
}
