import { StudyProblem } from "../problems";
import { nearestName, nodesOf, type Formula, type Hypothesis, type Moderation } from "../theory";
import { conditionalId, indexId, interactionId, moderatorsFor } from "./conditional";
import type { Polynomial } from "./polynomial";
import { atWords, middleOf } from "./probes";
import { add, number, subtract, sum, type Expression } from "./expression";
import { directId, indirectId, totalIndirect } from "./path-effects";
import type { EffectContext, EffectPair, Quantity } from "./quantity";

/** The ids of the quantities that a hypothesis claims to have a sign; several when its predictor is categorical. */
export function claimIds(context: EffectContext, hypothesis: Hypothesis): string[] {
  return pairsOf(context, hypothesis.from.name, hypothesis.to.name).flatMap((pair) => {
    const moderated = claimedNodes(hypothesis).flatMap((nodes) =>
      pair.conditional.filter((c) => c.nodes.join("\u0000") === nodes.join("\u0000")),
    );
    // A moderated path has no single effect; the claim is then about its value at the middle of the moderators.
    if (moderated.length > 0) return moderated.slice(0, 1).map(({ nodes, polynomial }) => middleId(context, pair, nodes, polynomial));
    if (hypothesis.chains.length === 0) return [directId(pair.from, pair.to)];
    if (hypothesis.chains.length > 1) return [claimId(hypothesis.label, pair)];
    return [indirectId(pair.from, claimed(pair, hypothesis)[0]!.nodes)];
  });
}

const claimedNodes = ({ from, to, chains }: Hypothesis): string[][] =>
  chains.length === 0 ? [[from.name, to.name]] : chains.map((chain) => [from.name, ...chain.map((r) => r.name), to.name]);

/** The conditional effect at the middle probe of every moderator. */
export function middleId(context: EffectContext, pair: EffectPair, nodes: string[], polynomial: Polynomial): string {
  return conditionalId(pair, nodes, atWords(middleOf(moderatorsFor(context, polynomial))));
}

/** Quantities for hypotheses that claim a sum of indirect effects (“through A and B”). */
export function claims(context: EffectContext): Quantity[] {
  return context.theory.hypotheses.flatMap((hypothesis) => {
    if (hypothesis.chains.length < 2) return [];
    const whole = pairsOf(context, hypothesis.from.name, hypothesis.to.name).filter((pair) => claimed(pair, hypothesis).every(Boolean));
    return whole.map((pair): Quantity => {
      const routes = claimed(pair, hypothesis);
      const through = routes.map((r) => r.nodes.slice(1, -1).join(", then ")).join(" and ");
      return {
        id: claimId(hypothesis.label, pair),
        kind: "claim",
        label: `${pair.fromLabel} on ${pair.to} through ${through} together`,
        from: pair.from,
        to: pair.to,
        via: [],
        of: null,
        expression: sum(routes.map((r) => r.expression)),
      };
    });
  });
}

/** Contrasts between hypotheses and quantities that the researcher defined. */
export function ownQuantities(context: EffectContext): Quantity[] {
  const named = new Map<string, Expression>();
  const lookUp = (name: string, line: number): Expression => named.get(name) ?? ofHypothesis(context, named, name, line);
  const quantities: Quantity[] = [];
  for (const { name, formula, line } of context.theory.definitions) {
    const expression = translate(context, formula, lookUp, line);
    named.set(name.name, expression);
    quantities.push(own(`define ${name.name}`, name.name, "own", expression));
  }
  for (const { first, second, line } of context.theory.contrasts) {
    const expression = subtract(lookUp(first.name, line), lookUp(second.name, line));
    const label = `${first.name} minus ${second.name}`;
    quantities.push(own(`contrast ${first.name} with ${second.name}`, label, "contrast", expression));
  }
  return quantities;
}

function own(id: string, label: string, kind: "own" | "contrast", expression: Expression): Quantity {
  return { id, kind, label, from: null, to: null, via: [], of: null, expression };
}

const claimId = (label: string, pair: EffectPair): string => `claim ${label} ${pair.from} > ${pair.to}`;

/**
 * What a moderation claims to have a sign: the product's coefficient for a single step; for a path the index of moderated
 * mediation, else (two stages, other moderators) the index at the middle of the others, else the highest minus the lowest probe.
 */
export function moderationClaimIds(context: EffectContext, quantities: Quantity[], moderation: Moderation): string[] {
  const moderators = moderation.moderators.map((r) => r.name);
  const nodes = nodesOf(moderation);
  const [from, to] = [nodes[0]!, nodes.at(-1)!];
  if (nodes.length === 2) {
    const wanted = [from, ...moderators].sort().join("\u0000");
    return context.products
      .filter((p) => p.outcome === to && [...p.variables].sort().join("\u0000") === wanted)
      .map((p) => interactionId(to, p.key));
  }
  const columns = context.moderators.filter((m) => moderators.includes(m.name)).map((m) => m.columns.map((c) => c.key));
  return pairsOf(context, from, to).flatMap((pair) => {
    const route = [pair.from, ...nodes.slice(1)].join(" > ");
    const of = (start: string): Quantity[] => quantities.filter((q) => q.id.startsWith(start));
    if (moderators.length === 2) {
      return of(`index of moderated moderated mediation ${route} by `).map((q) => q.id);
    }
    const single = columns.flat().flatMap((key) => quantities.filter((q) => q.id === indexId(pair, nodes, key)));
    if (single.length > 0) return single.map((q) => q.id);
    const partial = columns.flat().flatMap((key) => middle(of(`conditional index ${route} by ${key} at `)));
    if (partial.length > 0) return partial.map((q) => q.id);
    const probes = context.moderators.find((m) => m.name === moderators[0])?.probes ?? [];
    const words = `${moderators[0]} ${probes.at(-1)?.label} minus ${probes[0]?.label}`;
    return of(`contrast ${conditionalId(pair, nodes, words)}`).map((q) => q.id);
  });
}

const middle = (list: Quantity[]): Quantity[] => (list.length > 0 ? [list[Math.floor(list.length / 2)]!] : []);

const pairsOf = (context: EffectContext, from: string, to: string): EffectPair[] =>
  context.pairs.filter((pair) => pair.fromVariable === from && pair.to === to);

function claimed(pair: EffectPair, hypothesis: Hypothesis): EffectPair["indirect"] {
  return hypothesis.chains.map((chain) => {
    const wanted = chain.map((ref) => ref.name).join("\u0000");
    return pair.indirect.find((route) => route.nodes.slice(1, -1).join("\u0000") === wanted)!;
  });
}

function ofHypothesis(context: EffectContext, named: Map<string, Expression>, name: string, line: number): Expression {
  const hypothesis = context.theory.hypotheses.find((h) => h.label === name);
  if (!hypothesis) {
    const known = [...context.theory.hypotheses.map((h) => h.label), ...named.keys()];
    const near = nearestName(name, known);
    const hint = near ? ` Did you mean “${near}”?` : known.length > 0 ? ` Known: ${known.join(", ")}.` : "";
    throw new StudyProblem("notation", `Line ${line}: no earlier sentence is called “${name}”.${hint}`, { line });
  }
  const pairs = pairsOf(context, hypothesis.from.name, hypothesis.to.name);
  const pair = only(pairs, hypothesis.from.name, line);
  const routes = claimed(pair, hypothesis);
  if (routes.some((r) => !r) || (hypothesis.chains.length === 0 && !pair.direct)) {
    throw new StudyProblem(
      "notation",
      `Line ${line}: the effect of “${name}” depends on a moderator, so it is no single number to calculate with.`,
      { line },
    );
  }
  return hypothesis.chains.length === 0 ? pair.direct! : sum(routes.map((route) => route.expression));
}

function translate(context: EffectContext, formula: Formula, lookUp: (name: string, line: number) => Expression, line: number): Expression {
  const inner = (f: Formula): Expression => translate(context, f, lookUp, line);
  switch (formula.kind) {
    case "number":
      return number(formula.value);
    case "label":
      return lookUp(formula.ref.name, line);
    case "negative":
      return subtract(number(0), inner(formula.of));
    case "call":
      return { op: formula.name, a: inner(formula.of) };
    case "effect":
      return namedEffect(context, formula, line);
    case "binary": {
      const op = ({ "+": "add", "-": "subtract", "*": "multiply", "/": "divide" } as const)[formula.operator];
      return { op, a: inner(formula.left), b: inner(formula.right) };
    }
  }
}

function namedEffect(context: EffectContext, formula: Extract<Formula, { kind: "effect" }>, line: number): Expression {
  const { which, from, to, chain } = formula;
  const pair = only(pairsOf(context, from.name, to.name), from.name, line);
  const missing = (what: string): never => {
    throw new StudyProblem("notation", `Line ${line}: ${from.name} has no ${what} effect on ${to.name} in this theory.`, { line });
  };
  const total = totalIndirect(pair);
  if (which === "direct") return pair.direct ?? missing("direct");
  if (which === "total") return total && pair.direct ? add(pair.direct, total) : (total ?? pair.direct ?? missing("total"));
  if (chain.length === 0) return total ?? missing("indirect");
  const wanted = chain.map((ref) => ref.name).join("\u0000");
  const route = pair.indirect.find((r) => r.nodes.slice(1, -1).join("\u0000") === wanted);
  return route?.expression ?? missing(`indirect (through ${chain.map((ref) => ref.name).join(", then ")})`);
}

function only(pairs: EffectPair[], from: string, line: number): EffectPair {
  if (pairs.length === 1) return pairs[0]!;
  const message =
    pairs.length === 0
      ? `Line ${line}: “${from}” has no effect there in this theory; add the path or choose another effect.`
      : `Line ${line}: “${from}” has ${pairs.length} code columns, so it has no single effect to calculate with.`;
  throw new StudyProblem("notation", message, { line, variables: [from] });
}
