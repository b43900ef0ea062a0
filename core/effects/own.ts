import { number, subtract, sum, type Expression } from "../model";
import { StudyProblem } from "../problems";
import { nearestName, type Formula } from "../theory";
import { claimOf } from "./claims";
import { pathEffect } from "./path-claims";
import type { EffectContext, EffectPair, Quantity } from "./quantity";

/** Contrasts between sentences and quantities that the researcher defined. */
export function ownQuantities(context: EffectContext): Quantity[] {
  const named = new Map<string, Expression>();
  const lookUp = (name: string, line: number): Expression =>
    named.get(name) ?? ofSentence(context, named, name, line);
  const quantities: Quantity[] = [];
  for (const { name, formula, line } of context.theory.definitions) {
    const expression = translate(context, formula, lookUp, line);
    named.set(name.name, expression);
    quantities.push(own(`define ${name.name}`, name.name, "own", expression));
  }
  for (const { first, second, line } of context.theory.contrasts) {
    const expression = subtract(lookUp(first.name, line), lookUp(second.name, line));
    const label = `${first.name} minus ${second.name}`;
    quantities.push(
      own(`contrast ${first.name} with ${second.name}`, label, "contrast", expression),
    );
  }
  return quantities;
}

function own(
  id: string,
  label: string,
  kind: "own" | "contrast",
  expression: Expression,
): Quantity {
  return { id, kind, label, from: null, to: null, via: [], of: null, expression };
}

/**
 * What a labelled sentence claims something about, moderated effects by their average over the
 * sample.
 */
function ofSentence(
  context: EffectContext,
  named: Map<string, Expression>,
  name: string,
  line: number,
): Expression {
  const { hypotheses, moderations } = context.theory;
  const claim = [...hypotheses, ...moderations].find((h) => h.label === name);
  if (!claim) {
    const known = [
      ...hypotheses.map((h) => h.label),
      ...moderations.map((h) => h.label),
      ...named.keys(),
    ];
    const near = nearestName(name, known);
    throw new StudyProblem("no_such_sentence", { line, name, near: near ?? null, known }, { line });
  }
  const { quantities, open } = claimOf(context, claim);
  if (quantities.length === 1) return quantities[0]!.expression;
  throw severalColumns(open?.variable ?? claim.from.name, quantities.length, line);
}

function translate(
  context: EffectContext,
  formula: Formula,
  lookUp: (name: string, line: number) => Expression,
  line: number,
): Expression {
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
      const op = ({ "+": "add", "-": "subtract", "*": "multiply", "/": "divide" } as const)[
        formula.operator
      ];
      return { op, a: inner(formula.left), b: inner(formula.right) };
    }
  }
}

function namedEffect(
  context: EffectContext,
  formula: Extract<Formula, { kind: "effect" }>,
  line: number,
): Expression {
  const { which, from, to, chain } = formula;
  const pairs = context.pairs.filter((p) => p.fromVariable === from.name && p.to === to.name);
  const pair = only(pairs, from.name, line);
  const wanted = chain.map((ref) => ref.name).join("\u0000");
  const routes = pair.routes.filter(({ nodes }) => {
    if (which === "total") return true;
    if (which === "direct") return nodes.length === 2;
    return nodes.length > 2 && (chain.length === 0 || nodes.slice(1, -1).join("\u0000") === wanted);
  });
  if (routes.length > 0)
    return sum(routes.map(({ nodes }) => pathEffect(context, pair, nodes).expression));
  throw new StudyProblem(
    "no_such_effect",
    { line, from: from.name, to: to.name, which, chain: chain.map((ref) => ref.name) },
    { line },
  );
}

function only(pairs: EffectPair[], from: string, line: number): EffectPair {
  if (pairs.length === 1) return pairs[0]!;
  if (pairs.length > 1) throw severalColumns(from, pairs.length, line);
  throw new StudyProblem(
    "no_effect_there",
    { line, name: from },
    {
      line,
      variables: [from],
    },
  );
}

const severalColumns = (variable: string, count: number, line: number): StudyProblem =>
  new StudyProblem(
    "no_single_effect",
    { line, name: variable, columns: count },
    { line, variables: [variable] },
  );
