import { add, sum, type Expression, combined, derivative, moderatorsOf, powerOf, substitute, type Polynomial } from "../model";
import { StudyProblem } from "../problems";
import { nearestName, nodesOf, type Hypothesis, type LevelPair, type Moderation, type NameRef } from "../theory";
import type { UsedCoding } from "../design";
import { averageId, averageOf } from "./averages";
import { comparedEffects, comparedPolynomial, comparedWords, comparisonId } from "./comparisons";
import { indexId, interactionId } from "./conditional";
import { directId, indirectId } from "./path-effects";
import type { Moderator } from "./probes";
import type { EffectContext, EffectPair, Quantity } from "./quantity";

export type Claim = Hypothesis | Moderation;

/** What a sentence claims something about. */
export interface Claimed {
  /** One quantity, or one for every code column where a categorical variable leaves the comparison open. */
  quantities: Quantity[];
  /** The quantities only make sense together: a direction cannot be claimed of them. */
  joint: boolean;
  /** The categorical variable that leaves it open, and its levels. */
  open: { variable: string; levels: string[] } | null;
  /** Moderations only: the focal effect itself, averaged over the sample. */
  focal: Quantity[];
  /** Moderations by one numeric variable: the focal effect as a function of it alone, others averaged over the sample. */
  along: { moderator: Moderator; key: string; coefficients: Expression[] } | null;
}

/** What a hypothesis or a moderation is about; quantities may be new ones that no family lists. */
export const claimOf = (context: EffectContext, claim: Claim): Claimed =>
  claim.kind === "hypothesis" ? hypothesisClaim(context, claim) : moderationClaim(context, claim);

/** Every claimed quantity, so that it is estimated like all others; known ones are recognised by their ids. */
export const claims = (context: EffectContext): Quantity[] =>
  [...context.theory.hypotheses, ...context.theory.moderations].flatMap((claim) => {
    const { quantities, focal } = claimOf(context, claim);
    const direct = claim.kind === "hypothesis" ? directOf(context, claim) : null;
    return [...quantities, ...focal, ...(direct?.quantities ?? [])];
  });

/** The direct effect that stands beside a claimed indirect one, of the same levels where some are compared; null where the theory has none. */
export function directOf(context: EffectContext, hypothesis: Hypothesis): Claimed | null {
  const pairs = pairsOf(context, hypothesis.from.name, hypothesis.to.name);
  const exists = pairs.some((pair) => pair.routes.some((route) => route.nodes.length === 2));
  return exists ? hypothesisClaim(context, { ...hypothesis, chains: [] }) : null;
}

const routeNodes = ({ from, to, chains }: Hypothesis): string[][] =>
  chains.length === 0 ? [[from.name, to.name]] : chains.map((chain) => [from.name, ...chain.map((r) => r.name), to.name]);

const pairsOf = (context: EffectContext, from: string, to: string): EffectPair[] =>
  context.pairs.filter((pair) => pair.fromVariable === from && pair.to === to);

const pathKey = (nodes: readonly string[]): string => nodes.slice(1).join("\u0000");

const routeOf = (pair: EffectPair, nodes: readonly string[]): EffectPair["routes"][number] =>
  pair.routes.find((route) => pathKey(route.nodes) === pathKey(nodes))!;

/** The effect along one path: a coefficient or product where nothing moderates it, else its average over the sample. */
export function pathEffect(context: EffectContext, pair: EffectPair, nodes: readonly string[]): Quantity {
  const { polynomial } = routeOf(pair, nodes);
  const via = nodes.slice(1, -1);
  const moderated = moderatorsOf(polynomial).length > 0;
  const plainId = via.length > 0 ? indirectId(pair.from, nodes) : directId(pair.from, pair.to);
  const kind = via.length > 0 ? (moderated ? "average_indirect" : "specific_indirect") : moderated ? "average_direct" : "direct";
  return {
    id: moderated ? averageId(pair.from, nodes) : plainId,
    kind,
    label: `${pair.fromLabel} on ${pair.to}${via.length > 0 ? ` through ${via.join(", then ")}` : ""}${moderated ? ", on average" : ""}`,
    from: pair.from,
    to: pair.to,
    via: [...via],
    of: null,
    expression: averageOf(context, polynomial),
    ...(moderated ? { averaged: true } : {}),
  };
}

/** “through A and B”: the sum over all named routes, moderated ones by their averages; the order of naming does not matter. */
function combinedEffect(context: EffectContext, pair: EffectPair, routes: string[][]): Quantity {
  const inOrder = pair.routes.filter((r) => routes.some((nodes) => pathKey(nodes) === pathKey(r.nodes))).map((r) => r.nodes);
  const through = inOrder.map((nodes) => nodes.slice(1, -1).join(", then ")).join(" and ");
  const moderated = inOrder.some((nodes) => moderatorsOf(routeOf(pair, nodes).polynomial).length > 0);
  return {
    id: `combined indirect ${pair.from} > ${pair.to} through ${through}`,
    kind: "combined_indirect",
    label: `${pair.fromLabel} on ${pair.to} through ${through} together${moderated ? ", on average" : ""}`,
    from: pair.from,
    to: pair.to,
    via: [],
    of: null,
    expression: sum(inOrder.map((nodes) => pathEffect(context, pair, nodes).expression)),
    ...(moderated ? { averaged: true } : {}),
  };
}

function hypothesisClaim(context: EffectContext, hypothesis: Hypothesis): Claimed {
  const routes = routeNodes(hypothesis);
  const effectOf = (pair: EffectPair): Quantity =>
    routes.length > 1 ? combinedEffect(context, pair, routes) : pathEffect(context, pair, routes[0]!);
  const pairs = pairsOf(context, hypothesis.from.name, hypothesis.to.name);
  return { ...overLevels(context, hypothesis.from, hypothesis.line, pairs, pairs.map(effectOf)), focal: [], along: null };
}

/** Quantities of each code column as one comparison where levels are named, else as they are. */
function overLevels(
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
  if (!ref.compared) return { quantities, joint: true, open: { variable: ref.name, levels: coding.levels } };
  const compared = knownLevels(context, coding, ref.compared, line);
  const [first] = quantities;
  const known = comparedEffects(context, coding, compared).find(
    (q) => q.id === comparisonId(first!.id, pairs[0]!.from, ref.name, compared),
  );
  return { quantities: [known ?? comparedCombination(coding, compared, pairs, quantities)], joint: false, open: null };
}

function comparedCombination(coding: UsedCoding, compared: LevelPair, pairs: EffectPair[], quantities: Quantity[]): Quantity {
  const [first] = quantities;
  const polynomials = quantities.map((q) => [{ moderators: [], expression: q.expression }]);
  const words = comparedWords(coding.variable, compared);
  return {
    ...first!,
    id: comparisonId(first!.id, pairs[0]!.from, coding.variable, compared),
    kind: "comparison",
    label: first!.label.replace(pairs[0]!.fromLabel, words),
    from: words,
    expression: comparedPolynomial(coding, compared, polynomials)[0]!.expression,
  };
}

function refuseComparison(ref: NameRef, line: number): void {
  if (!ref.compared) return;
  throw new StudyProblem(
    "notation",
    `Line ${line}: “${ref.name}” is not categorical here, so it has no levels to compare. Leave the comparison out.`,
    {
      line,
      variables: [ref.name],
    },
  );
}

/** The levels as the data write them; value labels are understood too. */
function knownLevels(context: EffectContext, { variable, levels }: UsedCoding, { upper, lower }: LevelPair, line: number): LevelPair {
  const find = (name: string): string => {
    const found = levels.find((level) => level === name) ?? levels.find((level) => context.levelLabel(variable, level) === name);
    if (found !== undefined) return found;
    const near = nearestName(name, levels);
    throw new StudyProblem(
      "notation",
      `Line ${line}: “${variable}” has no level “${name}” among the rows used.${near ? ` Did you mean “${near}”?` : ""} Levels: ${levels.join(", ")}.`,
      { line, variables: [variable] },
    );
  };
  return { upper: find(upper), lower: find(lower) };
}

/**
 * A moderation claims the change of the focal effect with its moderators: the derivative, averaged over the sample where it
 * is not constant; the difference between the two values of a binary moderator; the difference between two named levels of
 * a categorical one. Nothing here depends on the choice or order of probe values.
 */
function moderationClaim(context: EffectContext, moderation: Moderation): Claimed {
  const nodes = nodesOf(moderation);
  const pairs = pairsOf(context, nodes[0]!, nodes.at(-1)!);
  const moderators = moderation.moderators.map((ref) => ({ ref, moderator: context.moderators.find((m) => m.name === ref.name)! }));
  const focal = overLevels(
    context,
    moderation.from,
    moderation.line,
    pairs,
    pairs.map((pair) => pathEffect(context, pair, nodes)),
  );
  const sources = focalPolynomials(context, moderation, pairs, nodes);
  const changes = moderators.reduce<Change[]>(
    (all, { ref, moderator }) => all.flatMap((change) => changesBy(context, change, ref, moderator, moderation.line)),
    sources.map((source) => ({ ...source, steps: [], keys: [] })),
  );
  const open = moderators.find(({ ref, moderator }) => moderator.kind === "categorical" && !ref.compared);
  const single = moderators.length === 1 && moderators[0]!.moderator.kind !== "categorical" && sources.length === 1;
  return {
    quantities: changes.map((change) => changeQuantity(context, change, nodes)),
    joint: focal.joint || open !== undefined,
    open: focal.open ?? (open ? { variable: open.ref.name, levels: open.moderator.probes.map((p) => p.label) } : null),
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
function focalPolynomials(context: EffectContext, { from, line }: Moderation, pairs: EffectPair[], nodes: string[]): Source[] {
  const coding = context.codings.find((c) => c.variable === from.name);
  const to = nodes.at(-1)!;
  if (!coding || !from.compared) {
    return pairs.map((pair) => ({ from: pair.from, fromLabel: pair.fromLabel, to, polynomial: routeOf(pair, nodes).polynomial }));
  }
  const compared = knownLevels(context, coding, from.compared, line);
  const words = comparedWords(from.name, compared);
  const polynomials = pairs.map((pair) => routeOf(pair, nodes).polynomial);
  return [{ from: words, fromLabel: words, to, polynomial: comparedPolynomial(coding, compared, polynomials) }];
}

function changesBy(context: EffectContext, change: Change, ref: NameRef, moderator: Moderator, line: number): Change[] {
  const next = (polynomial: Polynomial, step: string, key: string | null): Change => ({
    ...change,
    polynomial,
    steps: [...change.steps, step],
    keys: [...change.keys, key],
  });
  if (moderator.kind === "categorical") {
    const coding = context.codings.find((c) => c.variable === moderator.name)!;
    if (!ref.compared) return moderator.columns.map((c) => next(derivative(change.polynomial, c.key), c.key, c.key));
    const compared = knownLevels(context, coding, ref.compared, line);
    const [upper, lower] = [compared.upper, compared.lower].map((level) => moderator.probes.find((p) => p.label === level)!.centred);
    return [next(difference(change.polynomial, upper!, lower!), comparedWords(ref.name, compared), null)];
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

const difference = (polynomial: Polynomial, upper: ReadonlyMap<string, number>, lower: ReadonlyMap<string, number>): Polynomial =>
  combined([
    { weight: 1, polynomial: substitute(polynomial, upper) },
    { weight: -1, polynomial: substitute(polynomial, lower) },
  ]);

/** The change as a quantity, under the id of the interaction or index that it is where it is one. */
function changeQuantity(context: EffectContext, change: Change, nodes: string[]): Quantity {
  const { polynomial, steps, keys, from, fromLabel, to } = change;
  const via = nodes.slice(1, -1);
  const constant = moderatorsOf(polynomial).length === 0;
  const base = { from, to, via, of: null, expression: averageOf(context, polynomial) };
  const on = `${fromLabel} on ${to}${via.length > 0 ? ` through ${via.join(", then ")}` : ""}`;
  const known = constant && keys.every((key) => key !== null) && context.pairs.some((p) => p.from === from);
  if (known && via.length === 0) {
    const product = context.products.find((p) => p.outcome === to && sameKeys(p.keys, [from, ...keys]));
    // The square's coefficient is half the change of the slope; its sign and test are the same.
    if (product)
      return {
        ...base,
        id: interactionId(to, product.key),
        kind: "interaction",
        label: `${product.label} on ${to}`,
        expression: product.expression,
      };
  }
  const pair = { from, fromLabel, to };
  if (known && keys.length === 1)
    return {
      ...base,
      id: indexId(pair, nodes, keys[0]!),
      kind: "index",
      label: `${on}: index of moderated mediation by ${context.columnLabel(keys[0]!)}`,
    };
  if (known && keys.length === 2) {
    const [a, b] = [...keys].sort() as [string, string];
    const route = [from, ...nodes.slice(1)].join(" > ");
    return {
      ...base,
      id: `index of moderated moderated mediation ${route} by ${a} and ${b}`,
      kind: "index",
      label: `${on}: index of moderated moderated mediation by ${context.columnLabel(a)} and ${context.columnLabel(b)}`,
    };
  }
  const compares = keys.includes(null);
  return {
    ...base,
    id: `average change ${[from, ...nodes.slice(1)].join(" > ")} by ${steps.join(" and ")}`,
    kind: "average_change",
    averaged: true,
    label: `${on}: ${compares ? "difference" : "change per unit"}${compares ? "," : " of"} ${steps.map((s) => context.columnLabel(s)).join(" and ")}${constant ? "" : ", averaged over the sample"}`,
  };
}

const sameKeys = (a: (string | null)[], b: (string | null)[]): boolean => [...a].sort().join("\u0000") === [...b].sort().join("\u0000");

/** Coefficients of 1, w, w2 ... of the effect along one moderator, everything else averaged over the sample. */
function alongOne(context: EffectContext, polynomial: Polynomial, moderator: Moderator): Claimed["along"] {
  const key = moderator.columns[0]!.key;
  const highest = powerOf(polynomial, key);
  const coefficients = Array.from({ length: highest + 1 }, (_, power): Expression => {
    const terms = polynomial
      .filter((t) => t.moderators.filter((m) => m === key).length === power)
      .map((t) => ({ ...t, moderators: t.moderators.filter((m) => m !== key) }));
    return terms.length > 0 ? terms.map((t) => averageOf(context, [t])).reduce(add) : { op: "number", value: 0 };
  });
  return { moderator, key, coefficients };
}
