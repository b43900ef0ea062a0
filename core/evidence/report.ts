import { LINK_SCALE_WORDS } from "../effects";
import type { Settings } from "../study";
import { percent, pClause, plain, thousands } from "../wording/numbers";
import { errorsName, intervalName, jointWords } from "./wording";
import type { ClaimTest, EffectEvidence, Evidence, Verdict } from "./types";

/** What stands after the colon of a label. Names of variables may hold colons, too: the last counts. */
const AFTER_COLON = [": index of", ": difference,", ": change per unit of"];

/** A label as the beginning of a sentence: what stands after its colon is set off by a comma. */
function asClause(label: string, article = ""): string {
  const at = Math.max(...AFTER_COLON.map((words) => label.lastIndexOf(words)));
  return at < 0 ? label : `${label.slice(0, at)}, ${article}${label.slice(at + 2)}`;
}

/** How a sentence about an effect of each kind begins. */
const SUBJECTS: Partial<Record<EffectEvidence["kind"], (label: string) => string>> = {
  direct: (label) => `The direct effect of ${label}`,
  specific_indirect: (label) => `The indirect effect of ${label}`,
  combined_indirect: (label) => `The combined indirect effect of ${label}`,
  interaction: (label) => `The interaction of ${label}`,
  index: (label) => `The effect of ${asClause(label, "the ")},`,
  average_direct: (label) => `The direct effect of ${label},`,
  average_indirect: (label) => `The indirect effect of ${label},`,
  average_change: (label) => `The moderation of the effect of ${asClause(label)},`,
  comparison: (label) => `The effect of ${label}`,
};

/** How numbers are written in a sentence. */
export interface SentenceNumbers {
  number(value: number | null): string;
  pClause(p: number, isBound: boolean): string;
  limits(lower: number, upper: number): string;
}

const AS_ON_SCREEN: SentenceNumbers = {
  number: (value) => plain(value),
  pClause,
  limits: (lower, upper) => `[${plain(lower)}, ${plain(upper)}]`,
};

export interface ReportContext {
  settings: Settings;
  errors: Evidence["errors"];
  /** Resamples that entered. */
  used: number | null;
  /** What the estimate is called. */
  measure: string;
  /** The kind of effect, where it has a name of its own. */
  name: string | null;
  /** Why nothing could be tested, where nothing could. */
  reason: string;
  /** p corrected for the number of hypotheses, where that decides. */
  adjusted: { p: number; isBound: boolean } | null;
}

/** The sentence for the paper. It states estimate and doubt, and never that an effect is absent. */
export function reportSentence(
  claimed: Pick<EffectEvidence, "kind" | "label" | "between">[],
  test: ClaimTest | null,
  verdict: Verdict,
  context: ReportContext,
  write: SentenceNumbers = AS_ON_SCREEN,
): string {
  const [first] = claimed;
  if (!first || !test) return "The effect could not be estimated.";
  const open =
    verdict === "unsettled"
      ? " Another seed, or more bootstrap samples, could change this finding."
      : "";
  const fell =
    context.adjusted && context.adjusted.p >= 1 - test.level
      ? ` once corrected for the number of hypotheses (Holm, adjusted ${write.pClause(context.adjusted.p, context.adjusted.isBound)})`
      : "";
  if (test.joint) return `${jointFinding(claimed, test, test.joint, fell)}${open}`;
  if (verdict === "not_testable")
    return `The effect of ${first.label}${test.estimate === null ? "" : ` (${context.measure} = ${write.number(test.estimate)})`} could not be tested. ${context.reason}`;
  if (test.estimate === null || (test.lower === null && test.upper === null))
    return `The effect of ${first.label} could not be estimated.`;
  const between = first.between ? ` (${first.between})` : "";
  const subject =
    context.name && first.kind !== "average_change"
      ? `The ${context.name} of ${first.label}`
      : `${SUBJECTS[first.kind]?.(first.label) ?? `The effect of ${first.label}`}${first.label.endsWith(LINK_SCALE_WORDS) ? "," : ""}`;
  return `${subject}${between} ${finding(test, fell)} (${context.measure} = ${write.number(test.estimate)}${seWords(test, write)}, ${limitsWords(test, write)}${basisWords(test, context)}${pWords(test, write)}).${open}`;
}

/** Several effects of levels at once. */
function jointFinding(
  claimed: Pick<EffectEvidence, "label">[],
  { level }: ClaimTest,
  joint: NonNullable<ClaimTest["joint"]>,
  fell: string,
): string {
  const words = jointWords(joint);
  const found =
    joint.p >= 1 - level
      ? "were not distinguishable from zero"
      : fell === ""
        ? "differed from zero"
        : `were not distinguishable from zero${fell}`;
  return `The ${claimed.length} effects (${claimed.map((c) => c.label).join("; ")}), tested together, ${found} (${words[0]!.toLowerCase()}${words.slice(1)}).`;
}

/** @param fell what is said where the correction for the number of hypotheses has it fall */
function finding(
  { lower, upper, nullValue, estimate, tail, direction }: ClaimTest,
  fell: string,
): string {
  const excluded = (lower !== null && lower > nullValue) || (upper !== null && upper < nullValue);
  if (excluded && fell !== "") return `was not distinguishable from zero${fell}`;
  if (excluded) return `was ${estimate! > nullValue ? "positive" : "negative"}`;
  return tail === "one"
    ? `was not shown to be ${direction > 0 ? "positive" : "negative"}`
    : "was not distinguishable from zero";
}

const seWords = ({ se }: ClaimTest, write: SentenceNumbers): string =>
  se === null ? "" : `, SE = ${write.number(se)}`;

function limitsWords(test: ClaimTest, write: SentenceNumbers): string {
  const { lower, upper, level, tail, direction } = test;
  if (tail === "two")
    return `${percent(level)} % ${intervalName(test)} CI ${write.limits(lower!, upper!)}`;
  return `one-sided ${percent(level)} % ${intervalName(test)} bound ${direction > 0 ? "above" : "below"} ${write.number(direction > 0 ? lower : upper)}`;
}

function basisWords({ reference }: ClaimTest, { used, errors }: ReportContext): string {
  if (reference === "bootstrap")
    return used === null ? "" : `, ${thousands(used)} bootstrap samples`;
  return errors === "classical" ? "" : `, ${errorsName(errors)} errors`;
}

function pWords({ p, pIsBound, tail }: ClaimTest, write: SentenceNumbers): string {
  return p === null
    ? ""
    : `, ${write.pClause(p, pIsBound)}${tail === "one" ? " (one-tailed)" : ""}`;
}
