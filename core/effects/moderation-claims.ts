import {
  add,
  combined,
  derivative,
  moderatorsOf,
  powerOf,
  substitute,
  type Expression,
  type Polynomial,
} from "../model";
import { nodesOf, type Moderation, type NameRef } from "../theory";
import { averageOf } from "./averages";
import type { Claimed } from "./claimed";
import { comparedPolynomial, comparedWords } from "./comparisons";
import { indexId, interactionId } from "./conditional";
import { knownLevels, overLevels, refuseComparison } from "./levels";
import { naturalChanges } from "./natural-changes";
import { pairsOf, pathEffect, routeOf } from "./path-claims";
import type { Moderator } from "./probes";
import type { EffectContext, EffectPair, Quantity } from "./quantity";

/**
 * A moderation claims the change of the focal effect with its moderators: the derivative, averaged
 * over the sample where it is not constant; the difference between the two values of a binary
 * moderator; the difference between two named levels of a categorical one. Nothing here depends on
 * the choice or order of probe values.
 */
export function moderationClaim(context: EffectContext, moderation: Moderation): Claimed {
  const nodes = nodesOf(moderation);
  const pairs = pairsOf(context, nodes[0]!, nodes.at(-1)!);
  const moderators = moderation.moderators.map((ref) => ({
    ref,
    moderator: context.moderators.find((m) => m.name === ref.name)!,
  }));
  const focal = overLevels(
    context,
    moderation.from,
    moderation.line,
    pairs,
    pairs.map((pair) => pathEffect(context, pair, nodes)),
  );
  const natural = naturalChanges(context, moderation, moderators, pairs, nodes);
  const sources = natural ? [] : focalPolynomials(context, moderation, pairs, nodes);
  const changes = moderators.reduce<Change[]>(
    (all, { ref, moderator }) =>
      all.flatMap((change) => changesBy(context, change, ref, moderator, moderation.line)),
    sources.map((source) => ({ ...source, steps: [], keys: [] })),
  );
  const open = moderators.find(
    ({ ref, moderator }) => moderator.kind === "categorical" && !ref.compared,
  );
  const single =
    moderators.length === 1 &&
    moderators[0]!.moderator.kind !== "categorical" &&
    sources.length === 1;
  return {
    quantities: natural ?? changes.map((change) => changeQuantity(context, change, nodes)),
    joint: focal.joint || open !== undefined,
    open:
      focal.open ??
      (open
        ? { variable: open.ref.name, levels: open.moderator.probes.map((p) => p.label) }
        : null),
    focal: focal.quantities,
    along: single ? alongOne(context, sources[0]!.polynomial, moderators[0]!.moderator) : null,
  };
}

interface Source {
  from: string;
  fromLabel: string;
  to: string;
  polynomial: Polynomial;
}

/** How an effect changes with some moderators, step by step. */
interface Change extends Source {
  /** What was done, in words: “by w”, “w high minus low”. */
  steps: string[];
  /** Columns by which it was differentiated; null after a difference. */
  keys: (string | null)[];
}

/** The effect as a polynomial: of every code column, or of a comparison of levels. */
function focalPolynomials(
  context: EffectContext,
  { from, line }: Moderation,
  pairs: EffectPair[],
  nodes: string[],
): Source[] {
  const coding = context.codings.find((c) => c.variable === from.name);
  const to = nodes.at(-1)!;
  if (!coding || !from.compared) {
    return pairs.map((pair) => ({
      from: pair.from,
      fromLabel: pair.fromLabel,
      to,
      polynomial: routeOf(pair, nodes).polynomial,
    }));
  }
  const compared = knownLevels(context, coding, from.compared, line);
  const words = comparedWords(from.name, compared);
  const polynomials = pairs.map((pair) => routeOf(pair, nodes).polynomial);
  return [
    {
      from: words,
      fromLabel: words,
      to,
      polynomial: comparedPolynomial(coding, compared, polynomials),
    },
  ];
}

function changesBy(
  context: EffectContext,
  change: Change,
  ref: NameRef,
  moderator: Moderator,
  line: number,
): Change[] {
  const next = (polynomial: Polynomial, step: string, key: string | null): Change => ({
    ...change,
    polynomial,
    steps: [...change.steps, step],
    keys: [...change.keys, key],
  });
  if (moderator.kind === "categorical") {
    const coding = context.codings.find((c) => c.variable === moderator.name)!;
    if (!ref.compared)
      return moderator.columns.map((c) => next(derivative(change.polynomial, c.key), c.key, c.key));
    const compared = knownLevels(context, coding, ref.compared, line);
    const [upper, lower] = [compared.upper, compared.lower].map(
      (level) => moderator.probes.find((p) => p.label === level)!.centred,
    );
    return [
      next(difference(change.polynomial, upper!, lower!), comparedWords(ref.name, compared), null),
    ];
  }
  refuseComparison(ref, line);
  const [column] = moderator.columns;
  const key = column!.key;
  if (moderator.kind === "two_values" && powerOf(change.polynomial, key) > 1) {
    const [low, high] = moderator.probes.map((p) => p.centred);
    return [
      next(
        difference(change.polynomial, high!, low!),
        `${moderator.name} ${moderator.probes[1]!.label} minus ${moderator.probes[0]!.label}`,
        null,
      ),
    ];
  }
  return [next(derivative(change.polynomial, key), key, key)];
}

const difference = (
  polynomial: Polynomial,
  upper: ReadonlyMap<string, number>,
  lower: ReadonlyMap<string, number>,
): Polynomial =>
  combined([
    { weight: 1, polynomial: substitute(polynomial, upper) },
    { weight: -1, polynomial: substitute(polynomial, lower) },
  ]);

/**
 * The change as a quantity, under the id of the interaction or index that it is where it is one.
 */
function changeQuantity(context: EffectContext, change: Change, nodes: string[]): Quantity {
  const { polynomial, steps, keys, from, fromLabel, to } = change;
  const via = nodes.slice(1, -1);
  const constant = moderatorsOf(polynomial).length === 0;
  const base = { from, to, via, of: null, expression: averageOf(context, polynomial) };
  const through = via.length > 0 ? ` through ${via.join(", then ")}` : "";
  const on = `${fromLabel} on ${to}${through}`;
  const withDetail = (more: string): Pick<Quantity, "label" | "detail"> => ({
    label: `${on}: ${more}`,
    detail: via.length > 0 ? `${through}: ${more}` : `, ${more}`,
  });
  const known =
    constant && keys.every((key) => key !== null) && context.pairs.some((p) => p.from === from);
  if (known && via.length === 0) {
    const product = context.products.find(
      (p) => p.outcome === to && sameKeys(p.keys, [from, ...keys]),
    );
    // The square's coefficient is half the change of the slope; its sign and test are the same.
    if (product)
      return {
        ...base,
        id: interactionId(to, product.key),
        kind: "interaction",
        label: `${product.label} on ${to}`,
        detail: `, ${product.label}`,
        expression: product.expression,
      };
  }
  const pair = { from, fromLabel, to };
  // Paths that differ between groups have no product in the model; what one group adds to the path
  // is its interaction all the same.
  if (known && keys.length === 1 && via.length === 0) {
    const label = `${fromLabel} × ${context.columnLabel(keys[0]!)}`;
    return {
      ...base,
      id: interactionId(to, `${from}:${keys[0]!}`),
      kind: "interaction",
      label: `${label} on ${to}`,
      detail: `, ${label}`,
    };
  }
  if (known && keys.length === 1)
    return {
      ...base,
      id: indexId(pair, nodes, keys[0]!),
      kind: "index",
      label: `${on}: index of moderated mediation by ${context.columnLabel(keys[0]!)}`,
      detail: `${through} by ${context.columnLabel(keys[0]!)}`,
    };
  if (known && keys.length === 2) {
    const [a, b] = [...keys].sort() as [string, string];
    const route = [from, ...nodes.slice(1)].join(" > ");
    return {
      ...base,
      id: `index of moderated moderated mediation ${route} by ${a} and ${b}`,
      kind: "index",
      ...withDetail(
        `index of moderated moderated mediation by ${context.columnLabel(a)} and ${context.columnLabel(b)}`,
      ),
    };
  }
  const compares = keys.includes(null);
  return {
    ...base,
    id: `average change ${[from, ...nodes.slice(1)].join(" > ")} by ${steps.join(" and ")}`,
    kind: "average_change",
    averaged: true,
    ...withDetail(
      `${compares ? "difference," : "change per unit of"} ${steps.map((s) => context.columnLabel(s)).join(" and ")}${constant ? "" : ", averaged over the sample"}`,
    ),
  };
}

const sameKeys = (a: (string | null)[], b: (string | null)[]): boolean =>
  [...a].sort().join("\u0000") === [...b].sort().join("\u0000");

/**
 * Coefficients of 1, w, w2 ... of the effect along one moderator, everything else averaged over the
 * sample.
 */
function alongOne(
  context: EffectContext,
  polynomial: Polynomial,
  moderator: Moderator,
): Claimed["along"] {
  const key = moderator.columns[0]!.key;
  const highest = powerOf(polynomial, key);
  const coefficients = Array.from({ length: highest + 1 }, (_, power): Expression => {
    const terms = polynomial
      .filter((t) => t.moderators.filter((m) => m === key).length === power)
      .map((t) => ({ ...t, moderators: t.moderators.filter((m) => m !== key) }));
    return terms.length > 0
      ? terms.map((t) => averageOf(context, [t])).reduce(add)
      : { op: "number", value: 0 };
  });
  return { moderator, key, coefficients };
}
