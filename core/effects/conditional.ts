import { subtract } from "./expression";
import { at, derivative, moderatorsOf, powerOf, type Polynomial } from "./polynomial";
import { atWords, combinations, valuesOf, type Moderator } from "./probes";
import type { ConditionalRoute, EffectContext, EffectPair, Quantity } from "./quantity";

/** At most so many combinations of probes are worked out for one route. */
const MOST_COMBINATIONS = 81;

const routeWords = (pair: EffectPair, nodes: string[]): string => [pair.from, ...nodes.slice(1)].join(" > ");

export const conditionalId = (pair: EffectPair, nodes: string[], words: string): string =>
  `conditional ${nodes.length > 2 ? "indirect" : "direct"} ${routeWords(pair, nodes)} at ${words}`;
export const indexId = (pair: EffectPair, nodes: string[], column: string): string =>
  `index of moderated mediation ${routeWords(pair, nodes)} by ${column}`;
export const interactionId = (outcome: string, key: string): string => `interaction ${key} on ${outcome}`;

/**
 * Effects that depend on moderators: conditional indirect and direct effects at every probe, their differences along one
 * moderator, and what is single about them: the index of moderated mediation and its relatives (Hayes 2015, Multivar
 * Behav Res 50; Hayes 2018, Commun Monogr 85). A path moderated twice by the same variable has no index.
 */
export function conditionalEffects(context: EffectContext): Quantity[] {
  return context.pairs.flatMap((pair) =>
    pair.conditional.flatMap((route) => [
      ...indices(context, pair, route),
      ...atProbes(context, pair, route),
      ...(route.nodes.length > 2 ? quadratics(context, pair, route) : []),
    ]),
  );
}

/** Highest-order products as quantities, so that a moderation can claim their sign. */
export function interactions({ products }: EffectContext): Quantity[] {
  return products.map(({ outcome, key, label, expression }) => ({
    id: interactionId(outcome, key),
    kind: "interaction",
    label: `${label} on ${outcome}`,
    from: key,
    to: outcome,
    via: [],
    of: null,
    expression,
  }));
}

/** The moderators of a polynomial, in the order in which the theory knows them. */
export function moderatorsFor(context: EffectContext, polynomial: Polynomial): Moderator[] {
  const keys = moderatorsOf(polynomial);
  return context.moderators.filter((m) => m.columns.some((c) => keys.includes(c.key)));
}

function atProbes(context: EffectContext, pair: EffectPair, { nodes, polynomial }: ConditionalRoute): Quantity[] {
  const moderators = moderatorsFor(context, polynomial);
  const all = combinations(moderators);
  if (all.length > MOST_COMBINATIONS) return [];
  const indirect = nodes.length > 2;
  const base = { from: pair.from, to: pair.to, via: nodes.slice(1, -1), of: null };
  const on = `${pair.fromLabel} on ${pair.to}${indirect ? ` through ${nodes.slice(1, -1).join(", then ")}` : ""}`;
  const found = all.map((combination): Quantity => {
    const words = atWords(combination);
    return {
      ...base,
      id: conditionalId(pair, nodes, words),
      kind: indirect ? "conditional_indirect" : "conditional_direct",
      label: `${on} at ${words}`,
      expression: at(polynomial, valuesOf(combination)),
    };
  });
  if (moderators.length !== 1) return found;
  const probes = moderators[0]!.probes;
  const contrasts = probes.flatMap((later, j) =>
    probes.slice(0, j).map((earlier, i): Quantity => {
      const words = `${moderators[0]!.name} ${later.label} minus ${earlier.label}`;
      return {
        ...base,
        id: `contrast ${conditionalId(pair, nodes, words)}`,
        kind: "conditional_contrast",
        label: `${on}: ${words}`,
        expression: subtract(found[j]!.expression, found[i]!.expression),
      };
    }),
  );
  return [...found, ...contrasts];
}

/** What one unit of a moderator does to an indirect effect, where that is one number or depends on other moderators only. */
function indices(context: EffectContext, pair: EffectPair, { nodes, polynomial }: ConditionalRoute): Quantity[] {
  if (nodes.length < 3) return [];
  const keys = moderatorsOf(polynomial);
  const route = routeWords(pair, nodes);
  const base = { from: pair.from, to: pair.to, via: nodes.slice(1, -1), of: null };
  const on = `${pair.fromLabel} on ${pair.to} through ${nodes.slice(1, -1).join(", then ")}`;
  const list: Quantity[] = [];
  const linear = keys.filter((key) => powerOf(polynomial, key) === 1);
  for (const key of linear) {
    const slope = derivative(polynomial, key);
    const others = moderatorsFor(context, slope);
    if (others.length === 0) {
      list.push({
        ...base,
        id: indexId(pair, nodes, key),
        kind: "index",
        label: `${on}: index of moderated mediation by ${labelOf(context, key)}`,
        expression: at(slope, new Map()),
      });
    }
    for (const combination of others.length > 0 ? combinations(others) : []) {
      const words = atWords(combination);
      list.push({
        ...base,
        id: `conditional index ${route} by ${key} at ${words}`,
        kind: "conditional_index",
        label: `${on}: index by ${labelOf(context, key)} at ${words}`,
        expression: at(slope, valuesOf(combination)),
      });
    }
    for (const other of linear.slice(linear.indexOf(key) + 1)) {
      const both = derivative(slope, other);
      if (both.length === 0 || moderatorsOf(both).length > 0) continue;
      list.push({
        ...base,
        id: `index of moderated moderated mediation ${route} by ${key} and ${other}`,
        kind: "index",
        label: `${on}: index of moderated moderated mediation by ${labelOf(context, key)} and ${labelOf(context, other)}`,
        expression: at(both, new Map()),
      });
    }
  }
  return list;
}

/** A route moderated twice by the same variable: a curve, with its slope at every probe and its raw coefficients. */
function quadratics(context: EffectContext, pair: EffectPair, { nodes, polynomial }: ConditionalRoute): Quantity[] {
  const moderators = moderatorsFor(context, polynomial);
  if (moderators.length !== 1 || moderators[0]!.kind === "categorical") return [];
  const moderator = moderators[0]!;
  const column = moderator.columns[0]!;
  if (powerOf(polynomial, column.key) !== 2) return [];
  const route = routeWords(pair, nodes);
  const base = { from: pair.from, to: pair.to, via: nodes.slice(1, -1), of: null, kind: "curve" as const };
  const on = `${pair.fromLabel} on ${pair.to} through ${nodes.slice(1, -1).join(", then ")}`;
  const first = derivative(polynomial, column.key);
  const zero = new Map([[column.key, -context.centre(column.key)]]);
  const half = derivative(first, column.key).map((t) => ({
    ...t,
    expression: { op: "divide" as const, a: t.expression, b: { op: "number" as const, value: 2 } },
  }));
  return [
    ...moderator.probes.map((probe): Quantity => ({
      ...base,
      id: `derivative ${route} at ${moderator.name} ${probe.label}`,
      label: `${on}: change per unit of ${moderator.name} at ${probe.label}`,
      expression: at(first, probe.centred),
    })),
    {
      ...base,
      id: `quadratic q0 ${route} by ${column.key}`,
      label: `${on}: value at ${moderator.name} = 0`,
      expression: at(polynomial, zero),
    },
    { ...base, id: `quadratic q1 ${route} by ${column.key}`, label: `${on}: slope at ${moderator.name} = 0`, expression: at(first, zero) },
    {
      ...base,
      id: `quadratic q2 ${route} by ${column.key}`,
      label: `${on}: coefficient of ${moderator.name} squared`,
      expression: at(half, new Map()),
    },
  ];
}

const labelOf = (context: EffectContext, key: string): string =>
  context.moderators.flatMap((m) => m.columns).find((c) => c.key === key)?.label ?? key;
