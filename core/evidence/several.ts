import { holmAdjusted } from "../inference";
import type { Settings } from "../study";
import type { SeveralEvidence, Verdict } from "./types";
import { pClause } from "../wording/numbers";

interface Judged {
  label: string;
  p: number | null;
  /** Before any correction. */
  verdict: Verdict;
}

/**
 * What testing several hypotheses at once does to their verdicts: which would not stand under
 * Holm's correction, which keeps the chance of any wrong “supported” among them at the error rate
 * of one (Holm 1979).
 * @returns null with fewer than two hypotheses
 */
export function severalEvidence(
  judged: Judged[],
  { level, several: rule = "none" }: Pick<Settings, "level" | "several">,
): SeveralEvidence | null {
  if (judged.length < 2) return null;
  const adjusted = holmAdjusted(judged.map((h) => h.p));
  const claims = judged.map(({ label, p, verdict }, i) => ({
    label,
    p,
    adjustedP: adjusted[i]!,
    changes:
      (verdict === "supported" || verdict === "opposite") &&
      adjusted[i] !== null &&
      adjusted[i]! >= 1 - level,
  }));
  return { hypotheses: judged.length, rule, claims, words: wordsOf(claims, rule) };
}

function wordsOf(claims: SeveralEvidence["claims"], rule: Settings["several"]): string {
  const changed = claims.filter((c) => c.changes);
  const named = changed.map((c) => `${c.label} (adjusted ${pClause(c.adjustedP)})`).join(", ");
  const count = `${claims.length} hypotheses are tested`;
  if (rule === "holm")
    return changed.length === 0
      ? `${count}, each at a p corrected for their number (Holm); the correction changes no verdict.`
      : `${count}, each at a p corrected for their number (Holm); without the correction ${named} would have counted as found.`;
  return changed.length === 0
    ? `${count}, each at its own level; corrected for their number (Holm), no verdict would change.`
    : `${count}, each at its own level; corrected for their number (Holm), ${named} would not be supported.`;
}
