import { claimOf, type Claim, type Claimed } from "../effects";
import type { Prepared } from "../preparation";
import type { Warning } from "../problems";
import { thinContrast } from "./cautions";
import { claimTest, statedDirection } from "./claim-test";
import type { BootstrapAll, EffectList } from "./effects";
import { claimedChange, focalSign, type FocalSign } from "./focal-sign";
import { thinSide } from "./lone-clusters";
import type { Side } from "./reading";
import type { ClaimTest } from "./types";
import { errorlessReason, unresampledReason } from "./perfect-fit";
import { untestable } from "./untestable";
import { verdictOf, type Judgement } from "./verdict";

/** Hypotheses and moderations in the order of the text. */
export const claimsIn = ({ theory }: Prepared): Claim[] =>
  [...theory.hypotheses, ...theory.moderations].sort((a, b) => a.line - b.line);

/** One claim by its own test, before any correction for the number of claims. */
export interface Judged {
  claim: Claim;
  claimed: Claimed;
  test: ClaimTest | null;
  judgement: Judgement;
  /** What has to be known of this claim alone, whatever its verdict: few clusters on a side. */
  cautions: Warning[];
  /** Of a moderation: which way “away from zero” is. */
  sign: FocalSign | null;
  /** Resamples or draws behind its limits. */
  replicates: number | null;
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
export function judge(
  prepared: Prepared,
  list: EffectList,
  boot: BootstrapAll | null,
  claim: Claim,
): Judged {
  const claimed = claimOf(prepared.context, claim);
  const used = boot ? boot.run.done - boot.run.failed : null;
  const { settings } = prepared.study;
  const replicates = settings.interval === "monte_carlo" ? settings.monteCarloDraws : used;
  const thin = thinSide(prepared, claim);
  const decide = (direction: Side): Pick<Judged, "test" | "judgement"> => {
    const test = claimTest(prepared, list, boot, claimed, direction);
    const reason =
      thin && !thin.testable ? thin.words : untestable(prepared, boot, claimed.quantities);
    const none = (why: string): Pick<Judged, "test" | "judgement"> => ({
      test: test && untested(test),
      judgement: { verdict: "not_testable", reason: why },
    });
    if (reason !== null) return none(reason);
    const judgement = verdictOf(test, claimed.open, replicates);
    const errorless =
      judgement.verdict === "pending"
        ? (errorlessReason(prepared, claimed.quantities) ?? unresampledReason(prepared))
        : null;
    return errorless === null ? { test, judgement } : none(errorless);
  };
  const sign = claim.kind === "moderation" ? focalSign(prepared, list, claim, claimed) : null;
  const direction =
    claim.kind === "moderation" ? claimedChange(claim, sign!) : statedDirection(claim);
  const found = settledSign(decide(direction), sign, () => decide(-direction as Side));
  const cautions = thin?.testable ? [thinContrast(thin.words, claim.label)] : [];
  return { claim, claimed, sign, replicates, cautions, ...found };
}

/**
 * Where the sign of an effect hangs on a limit that another seed could move across zero, so does
 * what counts as stronger or weaker: nothing is decided where the other sign would decide otherwise.
 */
function settledSign(
  found: Pick<Judged, "test" | "judgement">,
  sign: FocalSign | null,
  otherwise: () => Pick<Judged, "test" | "judgement">,
): Pick<Judged, "test" | "judgement"> {
  if (!sign?.open || found.test?.direction === 0) return found;
  if (otherwise().judgement.verdict === found.judgement.verdict) return found;
  return {
    test: found.test,
    judgement: { verdict: "unsettled", why: "sign", reason: sign.open },
  };
}

/** A test of which the estimate alone is left. */
const untested = (test: ClaimTest): ClaimTest => ({
  ...test,
  ...{ se: null, df: null, lower: null, upper: null, p: null, joint: null },
  ...{ mcseLower: 0, mcseUpper: 0, beyondLower: null, beyondUpper: null },
});
