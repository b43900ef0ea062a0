import { moderatorsOf, sum } from "../model";
import type { Hypothesis, Moderation } from "../theory";
import type { Claimed } from "./claimed";
import { overLevels } from "./levels";
import { moderationClaim } from "./moderation-claims";
import { averageOf } from "./averages";
import { pairsOf, pathEffect, pathKey } from "./path-claims";
import { indirectRoutes, LINK_SCALE_WORDS } from "./path-effects";
import type { EffectContext, EffectPair, Quantity } from "./quantity";

export type { Claimed } from "./claimed";
export type Claim = Hypothesis | Moderation;

/** What a hypothesis or a moderation is about; quantities may be new ones that no family lists. */
export const claimOf = (context: EffectContext, claim: Claim): Claimed =>
  claim.kind === "hypothesis" ? hypothesisClaim(context, claim) : moderationClaim(context, claim);

/**
 * Every claimed quantity, so that it is estimated like all others; known ones are recognised by
 * their ids.
 */
export const claims = (context: EffectContext): Quantity[] =>
  [...context.theory.hypotheses, ...context.theory.moderations].flatMap((claim) => {
    const { quantities, focal } = claimOf(context, claim);
    const direct = claim.kind === "hypothesis" ? directOf(context, claim) : null;
    return [...quantities, ...focal, ...(direct?.quantities ?? [])];
  });

/**
 * The direct effect that stands beside a claimed indirect one, of the same levels where some are
 * compared; null where the theory has none.
 */
export function directOf(context: EffectContext, hypothesis: Hypothesis): Claimed | null {
  const pairs = pairsOf(context, hypothesis.from.name, hypothesis.to.name);
  const exists = pairs.some((pair) => pair.routes.some((route) => route.nodes.length === 2));
  return exists ? hypothesisClaim(context, { ...hypothesis, chains: [] }) : null;
}

const routeNodes = ({ from, to, chains }: Hypothesis): string[][] =>
  chains.length === 0
    ? [[from.name, to.name]]
    : chains.map((chain) => [from.name, ...chain.map((r) => r.name), to.name]);

/**
 * “through A and B”: the sum over all named routes, moderated ones by their averages; the order of
 * naming does not matter.
 */
function combinedEffect(context: EffectContext, pair: EffectPair, routes: string[][]): Quantity {
  const inOrder = pair.routes.filter((r) =>
    routes.some((nodes) => pathKey(nodes) === pathKey(r.nodes)),
  );
  const through = inOrder.map((r) => r.nodes.slice(1, -1).join(", then ")).join(" and ");
  // Where single paths do not add up, what goes through all of them is known by itself.
  const all = inOrder.length === indirectRoutes(pair).length;
  const whole = all ? pair.together : null;
  const moderated = !whole && inOrder.some((r) => moderatorsOf(r.polynomial).length > 0);
  const difference = whole !== null || inOrder.every((r) => r.difference);
  const product = pair.curved && !difference;
  // Differences of means and slopes have no common unit: beside slopes all are slopes.
  const expressions = inOrder.map((r) => averageOf(context, difference ? r.polynomial : r.slopes));
  const detail = ` through ${through} together${moderated ? ", on average" : ""}${product ? LINK_SCALE_WORDS : ""}`;
  return {
    id: `combined indirect ${pair.from} > ${pair.to} through ${through}`,
    kind: "combined_indirect",
    label: `${pair.fromLabel} on ${pair.to}${detail}`,
    detail,
    from: pair.from,
    to: pair.to,
    via: [],
    of: null,
    expression: whole ?? sum(expressions),
    ...(product ? { linkScale: true } : {}),
    ...(difference ? { difference: true } : {}),
    ...(moderated ? { averaged: true } : {}),
  };
}

function hypothesisClaim(context: EffectContext, hypothesis: Hypothesis): Claimed {
  const routes = routeNodes(hypothesis);
  const effectOf = (pair: EffectPair): Quantity =>
    routes.length > 1
      ? combinedEffect(context, pair, routes)
      : pathEffect(context, pair, routes[0]!);
  const pairs = pairsOf(context, hypothesis.from.name, hypothesis.to.name);
  return {
    ...overLevels(context, hypothesis.from, hypothesis.line, pairs, pairs.map(effectOf)),
    focal: [],
    along: null,
  };
}
