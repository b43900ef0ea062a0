import { claimOf, directOf, pathEffect, type Claim, type Claimed, type Quantity } from "../effects";
import type { Prepared } from "../prepare";
import { claimWords, nodesOf, type Hypothesis, type Moderation } from "../theory";
import { claimTest, statedDirection } from "./claim-test";
import type { BootstrapAll, EffectList } from "./effects";
import { claimedChange, crossingWords, focalSign } from "./focal-sign";
import { effectSizeWords } from "./effect-size";
import { mediationPattern } from "./pattern";
import type { Side } from "./reading";
import { reportSentence } from "./report";
import { severalEvidence } from "./several";
import type { ClaimTest, Evidence, HypothesisEvidence } from "./types";
import { thinSide } from "./lone-clusters";
import { afterHolm, verdictOf, type Judgement } from "./verdict";

/** Hypotheses and moderations in the order of the text. */
export const claimsIn = ({ theory }: Prepared): Claim[] =>
  [...theory.hypotheses, ...theory.moderations].sort((a, b) => a.line - b.line);

interface Judged {
  claim: Claim;
  claimed: Claimed;
  test: ClaimTest | null;
  judgement: Judgement;
}

/** What the analysis says of each sentence, and of all of them together. */
export function hypothesisEvidence(
  prepared: Prepared,
  list: EffectList,
  boot: BootstrapAll | null,
): Pick<Evidence, "hypotheses" | "several"> {
  const { settings } = prepared.study;
  const judged = claimsIn(prepared).map((claim) => judge(prepared, list, boot, claim));
  const several = severalEvidence(
    judged.map(({ claim, test, judgement }) => ({
      label: claim.label,
      p: test?.p ?? null,
      verdict: judgement.verdict,
    })),
    settings,
  );
  const alpha = 1 - settings.level;
  const hypotheses = judged.map((one, i) => {
    const adjusted = settings.several === "holm" ? (several?.claims[i]!.adjustedP ?? null) : null;
    return entryOf(prepared, list, boot, {
      ...one,
      judgement: afterHolm(one.judgement, adjusted, alpha),
    });
  });
  return { hypotheses, several };
}

/** The test of every sentence, in the order of the text, without the words about it. */
export const testsOf = (
  prepared: Prepared,
  list: EffectList,
  boot: BootstrapAll | null,
): { claim: Claim; claimed: Claimed; test: ClaimTest | null }[] =>
  claimsIn(prepared).map((claim) => judge(prepared, list, boot, claim));

/**
 * One claim by its own test; a moderation's direction is relative to the sign of the effect it is
 * about.
 */
function judge(
  prepared: Prepared,
  list: EffectList,
  boot: BootstrapAll | null,
  claim: Claim,
): Judged {
  const claimed = claimOf(prepared.context, claim);
  const used = boot ? boot.run.done - boot.run.failed : null;
  const { settings } = prepared.study;
  const simulated = settings.interval === "monte_carlo" ? settings.monteCarloDraws : used;
  const thin = thinSide(prepared, claim);
  const decide = (direction: Side): { test: ClaimTest | null; judgement: Judgement } => {
    const test = claimTest(prepared, list, boot, claimed, direction);
    const judgement = verdictOf(test, claimed.open, simulated);
    if (!thin) return { test, judgement };
    return thin.testable
      ? { test, judgement: { ...judgement, reason: `${judgement.reason}${thin.words}` } }
      : {
          test: test && untested(test),
          judgement: { verdict: "not_testable", reason: thin.words },
        };
  };
  if (claim.kind === "hypothesis") {
    const { test, judgement } = decide(statedDirection(claim));
    return {
      claim,
      claimed,
      test,
      judgement: { ...judgement, reason: `${judgement.reason}${heldWords(claimed, test)}` },
    };
  }
  const sign = focalSign(prepared, list, claim, claimed);
  const { test, judgement } = decide(claimedChange(claim, sign));
  if (!test || judgement.verdict === "pending" || judgement.verdict === "not_testable")
    return { claim, claimed, test, judgement };
  const note =
    statedDirection(claim) !== 0 && judgement.verdict !== "undirected" && sign.note
      ? ` ${sign.note}`
      : "";
  const crossing = crossingWords(prepared, claim, claimed, sign, test.estimate);
  return {
    claim,
    claimed,
    test,
    judgement: {
      ...judgement,
      reason: `${judgement.reason}${note}${crossing}${heldWords(claimed, test)}`,
    },
  };
}

/** A test of which the estimate alone is left. */
const untested = (test: ClaimTest): ClaimTest => ({
  ...test,
  ...{ se: null, df: null, lower: null, upper: null, p: null, joint: null },
  ...{ mcseLower: 0, mcseUpper: 0 },
});

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
  { claim, claimed, test, judgement }: Judged,
): HypothesisEvidence {
  const moderation = claim.kind === "moderation";
  const chains = moderation ? [claim.chain].filter((c) => c.length > 0) : claim.chains;
  const used = boot ? boot.run.done - boot.run.failed : null;
  const { verdict, reason } = judgement;
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
    verdict,
    reason: rests && test ? `${reason} ${restsWords(claimed, name!, rests)}` : reason,
    pattern: moderation
      ? null
      : mediationPattern(prepared, list, boot, claim, claimed, test, verdict),
    size:
      claimed.quantities.length === 1
        ? effectSizeWords(
            list.effects.find((e) => e.id === claimed.quantities[0]!.id),
            list.effects,
            prepared.study.settings,
          )
        : null,
    report: reportSentence(claimed.quantities.map(spoken), test, verdict, {
      settings: prepared.study.settings,
      errors: prepared.errors,
      used,
      measure,
      name,
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
