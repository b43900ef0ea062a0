import type { Settings } from "../study";
import { errorRate, pClause } from "../wording/numbers";
import { isOpen } from "./reading";
import type { SeveralEvidence, Verdict } from "./types";
import { settlingWords, wantedFor, type Judgement } from "./verdict";

/** p of one claim, adjusted for the number of claims. */
export interface Adjusted {
  p: number;
  /** Its Monte Carlo error; 0 where nothing is simulated. */
  error: number;
  /** It is only known to be below this. */
  isBound: boolean;
}

/** One claim as the correction sees it. */
export interface OneOfSeveral {
  label: string;
  p: number | null;
  isBound: boolean;
  /** Monte Carlo error of p. */
  error: number;
  /** Before any correction. */
  verdict: Verdict;
}

/**
 * Holm's (1979, Scand J Stat 6) adjusted p values, in the order given, each with the error and the
 * bound of the p that decides it; claims without a p are left out of the family.
 */
export function adjustedFor(
  claims: Pick<OneOfSeveral, "p" | "isBound" | "error">[],
): (Adjusted | null)[] {
  const order = claims
    .flatMap((claim, at) => (claim.p === null ? [] : [{ ...claim, p: claim.p, at }]))
    .sort((a, b) => a.p - b.p);
  const out = claims.map((): Adjusted | null => null);
  let largest: Adjusted = { p: 0, error: 0, isBound: false };
  order.forEach(({ p, error, isBound, at }, rank) => {
    const times = order.length - rank;
    if (times * p > largest.p)
      largest = { p: Math.min(1, times * p), error: times * error, isBound };
    out[at] = largest;
  });
  return out;
}

/**
 * The judgement when Holm's correction takes part in the decision: what its adjusted p does not
 * support falls, and what hangs on the Monte Carlo error of that p is not settled.
 * @param replicates behind p, for the number that would settle it
 */
export function afterHolm(
  judgement: Judgement,
  adjusted: Adjusted | null,
  alpha: number,
  replicates: number | null,
): Judgement {
  const { verdict, why, reason } = judgement;
  const found = verdict === "supported" || verdict === "opposite";
  if (!adjusted || !(found || (verdict === "unsettled" && why === "near"))) return judgement;
  const { p, error, isBound } = adjusted;
  const clause = pClause(p, isBound);
  const open = (words: string, wanted: number): Judgement => ({
    verdict: "unsettled",
    why: "adjusted",
    reason: `Corrected for the number of hypotheses (Holm), ${clause}: ${words} ${errorRate(alpha)}${settlingWords(wanted)}.`,
  });
  if (p >= alpha && isBound)
    return open(
      "more is not known from so few bootstrap samples, and that does not tell it from",
      replicates === null ? Infinity : (1.2 * replicates * p) / alpha,
    );
  if (isOpen(p, error, alpha))
    return open(
      "so near that another seed could move it across",
      wantedFor(replicates, error, Math.abs(p - alpha)),
    );
  if (p < alpha) return judgement;
  return {
    verdict: "not_supported",
    reason: `${found ? `${reason} ` : ""}Corrected for the number of hypotheses (Holm), ${clause}, which does not reach ${errorRate(alpha)}.`,
  };
}

/**
 * What testing several hypotheses at once does to their verdicts: which would not stand under
 * Holm's correction, which keeps the chance of any wrong “supported” among them at the error rate
 * of one (Holm 1979).
 * @returns null with fewer than two hypotheses
 */
export function severalEvidence(
  judged: OneOfSeveral[],
  { level, several: rule = "none" }: Pick<Settings, "level" | "several">,
): SeveralEvidence | null {
  if (judged.length < 2) return null;
  const adjusted = adjustedFor(judged);
  const claims = judged.map(({ label, p, verdict }, i) => ({
    label,
    p,
    adjustedP: adjusted[i]?.p ?? null,
    adjustedIsBound: adjusted[i]?.isBound ?? false,
    changes:
      (verdict === "supported" || verdict === "opposite") && (adjusted[i]?.p ?? 0) >= 1 - level,
  }));
  return { hypotheses: judged.length, rule, claims, words: wordsOf(claims, rule) };
}

function wordsOf(claims: SeveralEvidence["claims"], rule: Settings["several"]): string {
  const changed = claims.filter((c) => c.changes);
  const named = changed
    .map((c) => `${c.label} (adjusted ${pClause(c.adjustedP, c.adjustedIsBound)})`)
    .join(", ");
  const count = `${claims.length} hypotheses are tested`;
  if (rule === "holm")
    return changed.length === 0
      ? `${count}, each at a p corrected for their number (Holm); the correction changes no verdict.`
      : `${count}, each at a p corrected for their number (Holm); without the correction ${named} would have counted as found.`;
  return changed.length === 0
    ? `${count}, each at its own level; corrected for their number (Holm), no verdict would change.`
    : `${count}, each at its own level; corrected for their number (Holm), ${named} would not be supported.`;
}
