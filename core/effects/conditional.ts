import {
  subtract,
  type Expression,
  at,
  derivative,
  moderatorsOf,
  powerOf,
  type Polynomial,
} from "../model";
import {
  atWords,
  placesWords,
  placeWords,
  middleOf,
  probeGrid,
  probesAt,
  valuesOf,
  type Moderator,
  type Probe,
} from "./probes";
import type { ConditionalRoute, EffectContext, EffectPair, Quantity } from "./quantity";

const routeWords = (pair: { from: string }, nodes: string[]): string =>
  [pair.from, ...nodes.slice(1)].join(" > ");

export const conditionalId = (pair: EffectPair, nodes: string[], words: string): string =>
  `conditional ${nodes.length > 2 ? "indirect" : "direct"} ${routeWords(pair, nodes)} at ${words}`;
export const indexId = (pair: { from: string }, nodes: string[], column: string): string =>
  `index of moderated mediation ${routeWords(pair, nodes)} by ${column}`;
export const interactionId = (outcome: string, key: string): string =>
  `interaction ${key} on ${outcome}`;

/**
 * Effects that depend on moderators: conditional indirect and direct effects at every probe, their
 * differences along one moderator, and what is single about them: the index of moderated mediation
 * and its relatives (Hayes 2015, Multivar Behav Res 50; Hayes 2018, Commun Monogr 85). A path
 * moderated twice by the same variable has no index.
 */
export function conditionalEffects(context: EffectContext): Quantity[] {
  return context.pairs.flatMap((pair) =>
    pair.conditional.flatMap((route) => [
      ...indices(context, pair, route),
      ...atProbes(context, pair, route),
      ...probeContrasts(context, pair, route),
      ...(route.nodes.length > 2 ? quadratics(context, pair, route) : []),
    ]),
  );
}

/** Highest-order products as quantities, so that a moderation can claim their sign. */
export function interactions({ products }: EffectContext): Quantity[] {
  return products.map(({ outcome, key, label, expression, averaged }) => ({
    id: interactionId(outcome, key),
    kind: "interaction",
    label: `${label} on ${outcome}${averaged ? ", on average" : ""}`,
    detail: `, ${label}`,
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

const throughWords = (nodes: string[]): string =>
  nodes.length > 2 ? ` through ${nodes.slice(1, -1).join(", then ")}` : "";

const onWords = ({ fromLabel, to }: EffectPair, nodes: string[]): string =>
  `${fromLabel} on ${to}${throughWords(nodes)}`;

/** A label that says more after a colon, and what of it stands within a group. */
const withDetail = (
  pair: EffectPair,
  nodes: string[],
  more: string,
): Pick<Quantity, "label" | "detail"> => ({
  label: `${onWords(pair, nodes)}: ${more}`,
  detail: nodes.length > 2 ? `${throughWords(nodes)}: ${more}` : `, ${more}`,
});

function atProbes(
  context: EffectContext,
  pair: EffectPair,
  { nodes, polynomial }: ConditionalRoute,
): Quantity[] {
  return probeGrid(moderatorsFor(context, polynomial)).map((combination) => {
    const words = atWords(combination);
    return {
      id: conditionalId(pair, nodes, words),
      kind: nodes.length > 2 ? "conditional_indirect" : "conditional_direct",
      label: `${onWords(pair, nodes)} at ${placesWords(combination)}`,
      detail: `${throughWords(nodes)} at ${placesWords(combination)}`,
      from: pair.from,
      to: pair.to,
      via: nodes.slice(1, -1),
      of: null,
      at: probesAt(combination),
      expression: at(polynomial, valuesOf(combination)),
    };
  });
}

/**
 * Differences of conditional effects between two probes of one moderator, the later minus the
 * earlier. Other moderators matter only where they bear on the difference, and then stand at each
 * of their probes.
 */
function probeContrasts(
  context: EffectContext,
  pair: EffectPair,
  { nodes, polynomial }: ConditionalRoute,
): Quantity[] {
  const moderators = moderatorsFor(context, polynomial);
  return moderators.flatMap((moderator) => {
    const change = moderator.columns.flatMap((c) => derivative(polynomial, c.key));
    const others = moderatorsFor(context, change).filter((m) => m !== moderator);
    const rest = middleOf(moderators.filter((m) => m !== moderator && !others.includes(m)));
    return probeGrid(others).flatMap((held) => {
      const value = (probe: Probe): Expression =>
        at(polynomial, valuesOf([...held, ...rest, { probe }]));
      return moderator.probes.flatMap((later, j) =>
        moderator.probes.slice(0, j).map((earlier): Quantity => {
          const words = `${moderator.name} ${later.label} minus ${earlier.label}${held.length > 0 ? `, ${atWords(held)}` : ""}`;
          return {
            id: `contrast ${conditionalId(pair, nodes, words)}`,
            kind: "conditional_contrast",
            ...withDetail(
              pair,
              nodes,
              `${[later, earlier].map((probe) => placeWords({ probe, moderator })).join(" minus ")}${held.length > 0 ? `, at ${placesWords(held)}` : ""}`,
            ),
            from: pair.from,
            to: pair.to,
            via: nodes.slice(1, -1),
            of: null,
            ...(moderator.kind === "categorical"
              ? { family: `${conditionalId(pair, nodes, moderator.name)} ${atWords(held)}` }
              : {}),
            expression: subtract(value(later), value(earlier)),
          };
        }),
      );
    });
  });
}

/**
 * What one unit of a moderator does to an indirect effect, where that is one number or depends on
 * other moderators only.
 */
function indices(
  context: EffectContext,
  pair: EffectPair,
  { nodes, polynomial }: ConditionalRoute,
): Quantity[] {
  if (nodes.length < 3) return [];
  const keys = moderatorsOf(polynomial);
  // What has no values to be looked at has no unit to be changed by either.
  if (moderatorsFor(context, polynomial).some((m) => m.probes.length === 0)) return [];
  const route = routeWords(pair, nodes);
  const base = { from: pair.from, to: pair.to, via: nodes.slice(1, -1), of: null };
  const on = onWords(pair, nodes);
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
        label: `${on}: index of moderated mediation by ${context.columnLabel(key)}`,
        detail: `${throughWords(nodes)} by ${context.columnLabel(key)}`,
        by: [key],
        expression: at(slope, new Map()),
      });
    }
    for (const combination of others.length > 0 ? probeGrid(others) : []) {
      const words = atWords(combination);
      list.push({
        ...base,
        id: `conditional index ${route} by ${key} at ${words}`,
        kind: "conditional_index",
        label: `${on}: index by ${context.columnLabel(key)} at ${placesWords(combination)}`,
        detail: `${throughWords(nodes)} by ${context.columnLabel(key)} at ${placesWords(combination)}`,
        by: [key],
        at: probesAt(combination),
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
        ...withDetail(
          pair,
          nodes,
          `index of moderated moderated mediation by ${context.columnLabel(key)} and ${context.columnLabel(other)}`,
        ),
        by: [key, other],
        expression: at(both, new Map()),
      });
    }
  }
  return list;
}

/**
 * A route moderated twice by the same variable: a curve, with its slope at every probe and its raw
 * coefficients.
 */
function quadratics(
  context: EffectContext,
  pair: EffectPair,
  { nodes, polynomial }: ConditionalRoute,
): Quantity[] {
  const moderators = moderatorsFor(context, polynomial);
  if (moderators.length !== 1 || moderators[0]!.kind === "categorical") return [];
  const moderator = moderators[0]!;
  const column = moderator.columns[0]!;
  if (powerOf(polynomial, column.key) !== 2) return [];
  const route = routeWords(pair, nodes);
  const base = {
    from: pair.from,
    to: pair.to,
    via: nodes.slice(1, -1),
    of: null,
    kind: "curve" as const,
  };
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
      ...withDetail(pair, nodes, `change per unit of ${moderator.name} at ${probe.label}`),
      at: { [moderator.name]: probe.label },
      expression: at(first, probe.centred),
    })),
    {
      ...base,
      id: `quadratic q0 ${route} by ${column.key}`,
      ...withDetail(pair, nodes, `value at ${moderator.name} = 0`),
      expression: at(polynomial, zero),
    },
    {
      ...base,
      id: `quadratic q1 ${route} by ${column.key}`,
      ...withDetail(pair, nodes, `slope at ${moderator.name} = 0`),
      expression: at(first, zero),
    },
    {
      ...base,
      id: `quadratic q2 ${route} by ${column.key}`,
      ...withDetail(pair, nodes, `coefficient of ${moderator.name} squared`),
      expression: at(half, new Map()),
    },
  ];
}
