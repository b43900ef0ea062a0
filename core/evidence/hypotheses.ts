import { claimIds, directId, middleId, moderationClaimIds } from "../effects";
import type { Prepared } from "../prepare";
import { writeStatement, type Hypothesis, type Moderation } from "../theory";
import { reportSentence } from "./report";
import type { BootstrapRun, EffectEvidence, HypothesisEvidence } from "./types";
import { combine, directionOf, mediationPattern, verdictOf } from "./verdict";

/** The stated direction of every effect that a directional hypothesis claims. */
export function claimedDirections(prepared: Prepared): Map<string, number> {
  const directions = new Map<string, number>();
  for (const claim of claimsOf(prepared)) {
    for (const id of claimedIds(prepared, claim)) {
      if (!directions.has(id)) directions.set(id, directionOf(claim.verb));
    }
  }
  return directions;
}

/** Hypotheses and moderations in the order of the text. */
const claimsOf = ({ theory }: Prepared): (Hypothesis | Moderation)[] =>
  [...theory.hypotheses, ...theory.moderations].sort((a, b) => a.line - b.line);

const claimedIds = (prepared: Prepared, claim: Hypothesis | Moderation): string[] =>
  claim.kind === "hypothesis" ? claimIds(prepared.context, claim) : moderationClaimIds(prepared.context, prepared.quantities, claim);

/** What the analysis says of each sentence. */
export function hypothesisEvidence(prepared: Prepared, effects: EffectEvidence[], run: BootstrapRun | null): HypothesisEvidence[] {
  const byId = new Map(effects.map((e) => [e.id, e]));
  const { settings } = prepared.study;
  return claimsOf(prepared).map((hypothesis) => {
    const ids = claimedIds(prepared, hypothesis);
    const claimed = ids.map((id) => byId.get(id)!);
    const moderation = hypothesis.kind === "moderation";
    const oneTailed = settings.tail === "one" && directionOf(hypothesis.verb) !== 0;
    const chains = moderation ? [hypothesis.chain].filter((c) => c.length > 0) : hypothesis.chains;
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
      chains: chains.map((chain) => chain.map((ref) => ref.name)),
      moderators: moderation ? hypothesis.moderators.map((ref) => ref.name) : [],
      effects: ids,
      quantity: moderation ? (KIND_WORDS[single?.kind ?? claimed[0]?.kind ?? ""] ?? "interaction") : quantityWords(hypothesis, claimed),
      verdict,
      reason,
      pattern:
        single && !moderation && chains.length > 0 && single.kind !== "conditional_indirect" ? mediationPattern(single, direct) : null,
      report: reportSentence(claimed, run ? run.done - run.failed : null, settings),
      components: components(prepared, hypothesis, chains),
    };
  });
}

const KIND_WORDS: Record<string, string> = {
  interaction: "interaction",
  index: "index of moderated mediation",
  conditional_index: "conditional index",
  conditional_contrast: "difference of conditional effects",
};

function quantityWords(hypothesis: Hypothesis, claimed: EffectEvidence[]): string {
  const relative = claimed.length > 1;
  if (claimed[0]?.kind.startsWith("conditional"))
    return hypothesis.chains.length === 0 ? "conditional direct effect" : "conditional indirect effect";
  const kind =
    hypothesis.chains.length === 0 ? "direct effect" : hypothesis.chains.length === 1 ? "indirect effect" : "combined indirect effect";
  return relative ? `relative ${kind}s` : kind;
}

/** At most so many conditional effects stand beneath a claim. */
const MOST_CONDITIONAL = 9;

/** The effects at the probes of the path that a moderation is about. */
function conditionalIds({ quantities, context }: Prepared, moderation: Moderation): string[] {
  const via = moderation.chain.map((r) => r.name).join("\u0000");
  const kind = moderation.chain.length > 0 ? "conditional_indirect" : "conditional_direct";
  const starts = new Set(context.pairs.filter((p) => p.fromVariable === moderation.from.name).map((p) => p.from));
  return quantities
    .filter((q) => q.kind === kind && q.to === moderation.to.name && q.via.join("\u0000") === via && starts.has(q.from ?? ""))
    .slice(0, MOST_CONDITIONAL)
    .map((q) => q.id);
}

/** Direct effects of every step on the way, then of the predictor itself. */
function components(prepared: Prepared, hypothesis: Hypothesis | Moderation, chains: { name: string }[][]): string[] {
  const steps = chains.flatMap((chain) => {
    const nodes = [hypothesis.from.name, ...chain.map((ref) => ref.name), hypothesis.to.name];
    return nodes.slice(1).map((to, i) => ({ from: nodes[i]!, to }));
  });
  const conditional = hypothesis.kind === "moderation" ? conditionalIds(prepared, hypothesis) : [];
  const all = chains.length > 0 ? [...steps, { from: hypothesis.from.name, to: hypothesis.to.name }] : [];
  const ids = all.flatMap(({ from, to }) =>
    prepared.context.pairs
      .filter((p) => p.fromVariable === from && p.to === to)
      .flatMap((p) => {
        const moderated = p.conditional.find((c) => c.nodes.length === 2);
        if (moderated) return [middleId(prepared.context, p, moderated.nodes, moderated.polynomial)];
        return p.direct ? [directId(p.from, p.to)] : [];
      }),
  );
  return [...new Set([...conditional, ...ids])];
}
