import type { ModerationVerb, Verb } from "../theory";
import type { EffectEvidence, MediationPattern, Verdict } from "./types";
import { plain, thousands } from "./wording";

export const directionOf = (verb: Verb | ModerationVerb): number =>
  ({ raises: 1, lowers: -1, affects: 0, strengthens: 1, weakens: -1, alters: 0 })[verb];

/** Reads one claimed effect: which side of zero its interval lies on, and whether another seed might change that. */
export function verdictOf(effect: EffectEvidence, verb: Verb | ModerationVerb, oneTailed: boolean): { verdict: Verdict; reason: string } {
  const { lower, upper, method, provisional } = effect.shown;
  if (lower === null || upper === null || effect.estimate === null) return { verdict: "pending", reason: "No interval is available yet." };
  const direction = directionOf(verb);
  const limits = `${plain(lower)} to ${plain(upper)}`;
  if (effect.bootstrap && (method === "bca" || method === "bc" || method === "percentile")) {
    const interval = effect.bootstrap[method]!;
    if (interval.unsettled) {
      const nearer = Math.abs(lower) < Math.abs(upper) ? "lower" : "upper";
      const error = nearer === "lower" ? interval.mcseLower : interval.mcseUpper;
      const more = interval.suggested ? `; about ${thousands(roundUp(interval.suggested))} resamples would settle it` : "";
      return {
        verdict: "unsettled",
        reason: `The ${nearer} limit (${plain(nearer === "lower" ? lower : upper)}) is so near zero that another seed could move it across: its Monte Carlo error is ${plain(error, 4)}${more}.`,
      };
    }
  }
  const wait = provisional && effect.bootstrap === null ? " (delta method, until the resamples arrive)" : "";
  if (lower > 0 || upper < 0) {
    const sign = lower > 0 ? 1 : -1;
    if (direction === 0) return { verdict: "supported", reason: `The interval, ${limits}, leaves out zero${wait}.` };
    if (sign === direction) {
      return {
        verdict: "supported",
        reason: `The interval, ${limits}, lies wholly ${sign > 0 ? "above" : "below"} zero, as stated${wait}.`,
      };
    }
    if (oneTailed)
      return {
        verdict: "opposite",
        reason: `The interval, ${limits}, lies on the other side of zero from what was stated; a one-tailed test cannot support that direction${wait}.`,
      };
    return {
      verdict: "opposite",
      reason: `The interval, ${limits}, lies wholly ${sign > 0 ? "above" : "below"} zero: the opposite of what was stated${wait}.`,
    };
  }
  return { verdict: "not_supported", reason: `The interval, ${limits}, contains zero: no evidence either way${wait}.` };
}

/** One verdict for a claim with several code columns: supported when any relative effect is, in the stated direction. */
export function combine(verdicts: { verdict: Verdict; reason: string }[], labels: string[]): { verdict: Verdict; reason: string } {
  if (verdicts.length === 1) return verdicts[0]!;
  const order: Verdict[] = ["supported", "unsettled", "opposite", "pending", "not_supported"];
  const verdict = order.find((v) => verdicts.some((each) => each.verdict === v)) ?? "pending";
  const which = verdicts.flatMap((each, i) => (each.verdict === verdict ? [labels[i]!] : []));
  return { verdict, reason: `Relative effects, which depend on the coding: ${words(verdict)} for ${which.join("; ")}.` };
}

const words = (verdict: Verdict): string =>
  ({
    supported: "supported",
    unsettled: "unsettled",
    opposite: "opposite to what was stated",
    pending: "not yet known",
    not_supported: "not supported",
  })[verdict];

function roundUp(count: number): number {
  const unit = 10 ** Math.max(2, Math.floor(Math.log10(count)) - 1);
  return Math.ceil(count / unit) * unit;
}

const clear = (e: EffectEvidence): boolean => e.shown.lower !== null && (e.shown.lower > 0 || e.shown.upper! < 0);

/** Direct and indirect effect together, in the classical words and in newer ones. */
export function mediationPattern(
  indirect: EffectEvidence,
  direct: EffectEvidence | undefined,
): { kind: MediationPattern; words: string } | null {
  if (!direct || indirect.estimate === null || direct.estimate === null) return null;
  const i = clear(indirect);
  const d = clear(direct);
  if (i && d && indirect.estimate * direct.estimate > 0) {
    return { kind: "complementary", words: "Indirect and direct effect, same sign: partial (complementary) mediation." };
  }
  if (i && d)
    return {
      kind: "competitive",
      words: "Indirect and direct effect of opposite signs: competitive (inconsistent) mediation, a form of suppression, not an error.",
    };
  if (i)
    return {
      kind: "indirect_only",
      words: "An indirect effect without evidence of a direct one: indirect-only, classically called full mediation.",
    };
  if (d) return { kind: "direct_only", words: "A direct effect without evidence of an indirect one: no mediation shown." };
  return { kind: "no_effect", words: "No evidence of an indirect or of a direct effect." };
}
