import { directOf, pathEffect, type Claim, type Claimed, type Quantity } from "../effects";
import type { Prepared } from "../preparation";
import { claimWords, nodesOf, type Hypothesis, type Moderation } from "../theory";
import { statedDirection } from "./claim-test";
import type { BootstrapAll, EffectList } from "./effects";
import { crossingWords } from "./focal-sign";
import { effectSizeWords } from "./effect-size";
import { claimsIn, judge, type Judged } from "./judging";
import { excludes, readInterval } from "./reading";
import { INTERVAL_WORDS } from "../wording/intervals";
import type { Warning } from "../problems";
import { cautionsOf, weakStep } from "./cautions";
import { mediationPattern } from "./pattern";
import { reportSentence } from "./report";
import {
  adjustedFor,
  afterHolm,
  severalEvidence,
  type Adjusted,
  type OneOfSeveral,
} from "./several";
import type { ClaimTest, Evidence, HypothesisEvidence } from "./types";

/** What the analysis says of each sentence, and of all of them together. */
export function hypothesisEvidence(
  prepared: Prepared,
  list: EffectList,
  boot: BootstrapAll | null,
  warnings: readonly Warning[] = [],
): Pick<Evidence, "hypotheses" | "several"> {
  const { settings } = prepared.study;
  const judged = claimsIn(prepared).map((claim) => judge(prepared, list, boot, claim));
  const claims = judged.map(asOneOfSeveral);
  const several = severalEvidence(claims, settings);
  const adjusted = settings.several === "holm" && several ? adjustedFor(claims) : [];
  const itemsOf = (variable: string): string[] =>
    prepared.measures
      .filter((measure) => measure.name.name === variable)
      .flatMap((measure) => measure.items.map((item) => item.ref.name));
  const hypotheses = judged.map((one, i) => {
    const own = adjusted[i] ?? null;
    const judgement = afterHolm(one.judgement, own, 1 - settings.level, one.replicates);
    const entry = entryOf(prepared, list, boot, { ...one, judgement }, own);
    const cautions = [
      ...one.cautions,
      ...weakSteps(prepared, list, entry),
      ...cautionsOf(entry, warnings, itemsOf),
    ];
    return { ...entry, cautions };
  });
  return { hypotheses, several };
}

/** A claim as the correction for their number sees it; p of resamples has an error of its own. */
function asOneOfSeveral({ claim, test, judgement, replicates }: Judged): OneOfSeveral {
  const p = test?.p ?? null;
  const simulated = test?.reference === "bootstrap" || test?.reference === "monte_carlo";
  const error =
    test?.joint?.mcse ??
    (p !== null && simulated && replicates ? Math.sqrt((p * (1 - p)) / replicates) : 0);
  return {
    label: claim.label,
    p,
    isBound: test?.pIsBound ?? false,
    error,
    verdict: judgement.verdict,
  };
}

/**
 * Steps without which there is no path, of a claim that was found by a bias-corrected interval:
 * where one is nothing and the others are strong, such intervals of their product are liberal also
 * among many cases (docs/calibration.md).
 */
function weakSteps(
  { study, context, withheldIntervals }: Prepared,
  { sources }: EffectList,
  { label, verdict, claim, chains, from, to, moderators }: Omit<HypothesisEvidence, "cautions">,
): Warning[] {
  const { interval } = study.settings;
  const biased = (interval === "bc" || interval === "bca") && claim?.reference === "bootstrap";
  if (!biased || (verdict !== "supported" && verdict !== "opposite")) return [];
  if (moderators.length > 0) return [];
  return chains
    .filter((chain) => chain.length > 1)
    .flatMap((chain) => {
      const nodes = [from, ...chain, to];
      return nodes.slice(1).flatMap((node, i) => {
        const pair = context.pairs.find((p) => p.fromVariable === nodes[i]! && p.to === node);
        const source = pair && sources.get(pathEffect(context, pair, [nodes[i]!, node]).id);
        const clear = source && excludes(readInterval(source, study.settings, 0), 0);
        return clear === false
          ? [
              weakStep(
                `${nodes[i]!} → ${node}`,
                INTERVAL_WORDS[interval]!,
                label,
                !("percentile" in withheldIntervals),
              ),
            ]
          : [];
      });
    });
}

/**
 * The reason with what is said beside it. The story of a change stands only where the change itself
 * is shown.
 */
function reasonOf(prepared: Prepared, { claim, claimed, test, judgement, sign }: Judged): string {
  const { verdict, reason } = judgement;
  if (verdict === "not_testable") return reason;
  const held = heldWords(claimed, test);
  if (claim.kind === "hypothesis" || !sign || !test || verdict === "pending")
    return `${reason}${held}`;
  const note =
    statedDirection(claim) !== 0 &&
    verdict !== "undirected" &&
    judgement.why !== "sign" &&
    sign.note
      ? ` ${sign.note}`
      : "";
  const shown = verdict === "supported" || verdict === "opposite";
  const crossing = crossingWords(prepared, claim, claimed, sign, test.estimate, shown);
  return `${reason}${note}${crossing}${held}`;
}

/**
 * An average that is not resampled takes the moderators of the sample as fixed, and has to say so.
 */
function heldWords({ quantities }: Claimed, test: ClaimTest | null): string {
  const averaged = quantities.some((q) => q.averaged);
  const fixed =
    test !== null && (test.reference === "t" || test.reference === "z") && !test.provisional;
  return averaged && fixed
    ? " The average is over the moderators of this sample, taken as fixed."
    : "";
}

function entryOf(
  prepared: Prepared,
  list: EffectList,
  boot: BootstrapAll | null,
  judged: Judged,
  adjusted: Adjusted | null,
): Omit<HypothesisEvidence, "cautions"> {
  const { claim, claimed, test, judgement } = judged;
  const moderation = claim.kind === "moderation";
  const chains = moderation ? [claim.chain].filter((c) => c.length > 0) : claim.chains;
  const used = boot ? boot.run.done - boot.run.failed : null;
  const { verdict } = judgement;
  const reason = reasonOf(prepared, judged);
  const [first] = claimed.quantities;
  const own = first ? (prepared.fit.reading?.(first) ?? null) : null;
  const { measure, name, rests } = own ?? { measure: "b", name: null, rests: null };
  const spoken = (q: Quantity) => ({ ...q, between: own?.between ?? null });
  return {
    label: claim.label,
    line: claim.line,
    sentence: claimWords(claim),
    from: claim.from.name,
    verb: claim.verb,
    to: claim.to.name,
    chains: chains.map((chain) => chain.map((ref) => ref.name)),
    moderators: moderation ? claim.moderators.map((ref) => ref.name) : [],
    effects: claimed.quantities.map((q) => q.id),
    quantity: name && claimed.quantities.length === 1 ? name : quantityWords(claim, claimed),
    measure,
    named: name,
    claim: test,
    adjusted: adjusted && { p: adjusted.p, isBound: adjusted.isBound },
    verdict,
    reason: rests && test ? `${reason} ${restsWords(claimed, name!, rests)}` : reason,
    pattern: moderation
      ? null
      : mediationPattern(prepared, list, boot, claim, claimed, { test, verdict, adjusted }),
    size:
      claimed.quantities.length === 1
        ? effectSizeWords(
            list.effects.find((e) => e.id === claimed.quantities[0]!.id),
            list.effects,
            prepared.study.settings,
            own?.sizedIn ?? null,
          )
        : null,
    report: reportSentence(claimed.quantities.map(spoken), test, verdict, {
      settings: prepared.study.settings,
      errors: prepared.errors,
      used,
      measure,
      name,
      adjusted,
      reason: judgement.reason,
    }),
    components: moderation
      ? moderationParts(prepared, claim, claimed)
      : mediationParts(prepared, claim),
  };
}

const KIND_WORDS: Partial<Record<Quantity["kind"], string>> = {
  direct: "direct effect",
  average_direct: "average direct effect",
  specific_indirect: "indirect effect",
  average_indirect: "average indirect effect",
  combined_indirect: "combined indirect effect",
  interaction: "interaction",
  index: "index of moderated mediation",
  average_change: "change of the effect",
  comparison: "difference between two levels",
};

function quantityWords(claim: Claim, { quantities }: Claimed): string {
  const [first] = quantities;
  if (!first) return claim.kind === "moderation" ? "interaction" : "effect";
  // A variable that moderates its own effect: the coefficient of its square.
  const curved =
    claim.kind === "moderation" &&
    claim.moderators[0]!.name === claim.from.name &&
    first.kind === "interaction";
  const words = curved ? "curvature" : (KIND_WORDS[first.kind] ?? "effect");
  return quantities.length > 1
    ? `${words}s, tested together`.replace(
        /^index of moderated mediations/,
        "indices of moderated mediation",
      )
    : words;
}

const restsWords = ({ quantities }: Claimed, name: string, rests: string): string =>
  quantities.length === 1 ? `It rests on the ${name}: ${rests}.` : `Each is a ${name}.`;

/** The steps on the way, then the direct effect. */
function mediationParts(prepared: Prepared, claim: Hypothesis): string[] {
  if (claim.chains.length === 0) return [];
  const { context } = prepared;
  const steps = claim.chains.flatMap((chain) => {
    const nodes = [claim.from.name, ...chain.map((ref) => ref.name), claim.to.name];
    return nodes.slice(1).flatMap((to, i) => stepIds(prepared, nodes[i]!, to));
  });
  return [...new Set([...steps, ...(directOf(context, claim)?.quantities ?? []).map((q) => q.id)])];
}

/**
 * Effects of one step: of every code column of a categorical variable, on average where it is
 * moderated.
 */
const stepIds = ({ context }: Prepared, from: string, to: string): string[] =>
  context.pairs
    .filter((p) => p.fromVariable === from && p.to === to)
    .map((p) => pathEffect(context, p, [from, to]).id);

/** At most so many conditional effects stand beneath a claim. */
const MOST_CONDITIONAL = 9;

/**
 * The average effect that is moderated, then the effects at the probes, then the steps of the path.
 */
function moderationParts(prepared: Prepared, claim: Moderation, claimed: Claimed): string[] {
  const nodes = nodesOf(claim);
  const { context, quantities } = prepared;
  const pairs = context.pairs.filter((p) => p.fromVariable === nodes[0] && p.to === nodes.at(-1));
  const via = nodes.slice(1, -1).join("\u0000");
  const conditional = quantities
    .filter((q) => q.kind === "conditional_direct" || q.kind === "conditional_indirect")
    .filter(
      (q) =>
        q.to === nodes.at(-1) &&
        q.via.join("\u0000") === via &&
        pairs.some((pair) => pair.from === q.from),
    )
    .slice(0, MOST_CONDITIONAL);
  const steps =
    nodes.length > 2 ? nodes.slice(1).flatMap((to, i) => stepIds(prepared, nodes[i]!, to)) : [];
  return [
    ...new Set([...claimed.focal.map((q) => q.id), ...conditional.map((q) => q.id), ...steps]),
  ];
}
