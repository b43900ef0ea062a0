import { claimIds, directId } from "../effects";
import type { Prepared } from "../prepare";
import { writeStatement, type Hypothesis } from "../theory";
import { reportSentence } from "./report";
import type { BootstrapRun, EffectEvidence, HypothesisEvidence } from "./types";
import { combine, directionOf, mediationPattern, verdictOf } from "./verdict";

/** The stated direction of every effect that a directional hypothesis claims. */
export function claimedDirections(prepared: Prepared): Map<string, number> {
  const directions = new Map<string, number>();
  for (const hypothesis of prepared.theory.hypotheses) {
    for (const id of claimIds(prepared.context, hypothesis)) {
      if (!directions.has(id)) directions.set(id, directionOf(hypothesis.verb));
    }
  }
  return directions;
}

/** What the analysis says of each sentence. */
export function hypothesisEvidence(prepared: Prepared, effects: EffectEvidence[], run: BootstrapRun | null): HypothesisEvidence[] {
  const byId = new Map(effects.map((e) => [e.id, e]));
  const { settings } = prepared.study;
  return prepared.theory.hypotheses.map((hypothesis) => {
    const ids = claimIds(prepared.context, hypothesis);
    const claimed = ids.map((id) => byId.get(id)!);
    const oneTailed = settings.tail === "one" && hypothesis.verb !== "affects";
    const { verdict, reason } = combine(
      claimed.map((e) => verdictOf(e, hypothesis.verb, oneTailed)),
      claimed.map((e) => e.label),
    );
    const single = claimed.length === 1 ? claimed[0]! : null;
    const direct = byId.get(directId(hypothesis.from.name, hypothesis.to.name));
    return {
      label: hypothesis.label,
      line: hypothesis.line,
      sentence: writeStatement(hypothesis).replace(/^[^:]*: /, ""),
      from: hypothesis.from.name,
      verb: hypothesis.verb,
      to: hypothesis.to.name,
      chains: hypothesis.chains.map((chain) => chain.map((ref) => ref.name)),
      effects: ids,
      quantity: quantityWords(hypothesis, claimed.length > 1),
      verdict,
      reason,
      pattern: single && hypothesis.chains.length > 0 ? mediationPattern(single, direct) : null,
      report: reportSentence(claimed, run ? run.done - run.failed : null, settings),
      components: components(prepared, hypothesis),
    };
  });
}

function quantityWords(hypothesis: Hypothesis, relative: boolean): string {
  const kind =
    hypothesis.chains.length === 0 ? "direct effect" : hypothesis.chains.length === 1 ? "indirect effect" : "combined indirect effect";
  return relative ? `relative ${kind}s` : kind;
}

/** Direct effects of every step on the way, then of the predictor itself. */
function components(prepared: Prepared, hypothesis: Hypothesis): string[] {
  const steps = hypothesis.chains.flatMap((chain) => {
    const nodes = [hypothesis.from.name, ...chain.map((ref) => ref.name), hypothesis.to.name];
    return nodes.slice(1).map((to, i) => ({ from: nodes[i]!, to }));
  });
  const all = hypothesis.chains.length > 0 ? [...steps, { from: hypothesis.from.name, to: hypothesis.to.name }] : [];
  const ids = all.flatMap(({ from, to }) =>
    prepared.context.pairs.filter((p) => p.fromVariable === from && p.to === to && p.direct).map((p) => directId(p.from, p.to)),
  );
  return [...new Set(ids)];
}
