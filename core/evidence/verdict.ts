import { log10, pow } from "../numerics/elementary";
import { replicatesToSettle } from "../inference";
import { isOpen } from "./reading";
import type { ClaimTest, Verdict } from "./types";
import { percent, plain, pClause, thousands } from "../wording/numbers";
import { jointWords } from "./wording";

export interface Judgement {
  verdict: Verdict;
  reason: string;
}

/**
 * What a categorical variable leaves open: its name, its levels and the words that would settle it.
 */
export interface OpenComparison {
  variable: string;
  levels: string[];
}

/**
 * Reads one claim: on which side of the null its own limits lie, and whether another seed could
 * change that.
 * @param replicates behind simulated limits, for the number that would settle an open case
 */
export function verdictOf(
  test: ClaimTest | null,
  open: OpenComparison | null,
  replicates: number | null,
): Judgement {
  if (!test) return { verdict: "pending", reason: "No interval is available." };
  if (open && test.direction !== 0) return undirected(test, open);
  if (test.joint) return jointVerdict(test.joint, 1 - test.level, test.provisional, replicates);
  if (test.estimate === null || (test.lower === null && test.upper === null))
    return { verdict: "pending", reason: "No interval is available yet." };
  const wait =
    test.provisional && test.reference !== "bootstrap"
      ? ", by the delta method until the bootstrap samples arrive"
      : "";
  return (
    unsettled(test, replicates) ??
    (test.tail === "one" ? oneTailed(test, wait) : twoTailed(test, wait))
  );
}

function twoTailed({ lower, upper, nullValue, direction }: ClaimTest, wait: string): Judgement {
  const limits = `${plain(lower)} to ${plain(upper)}`;
  const zero = nullWords(nullValue);
  const sign = lower! > nullValue ? 1 : upper! < nullValue ? -1 : 0;
  if (sign === 0)
    return {
      verdict: "not_supported",
      reason: `The interval leaves every value from ${limits} possible, ${zero} among them${wait}.`,
    };
  const where = sign > 0 ? "above" : "below";
  if (direction === 0)
    return { verdict: "supported", reason: `The interval, ${limits}, excludes ${zero}${wait}.` };
  if (sign === direction)
    return {
      verdict: "supported",
      reason: `The interval, ${limits}, lies wholly ${where} ${zero}, as stated${wait}.`,
    };
  return {
    verdict: "opposite",
    reason: `The interval, ${limits}, lies wholly ${where} ${zero}: the opposite of what was stated${wait}.`,
  };
}

/** A one-tailed test has no second tail: the other direction can never be claimed from it. */
function oneTailed(
  { lower, upper, nullValue, direction, estimate, level }: ClaimTest,
  wait: string,
): Judgement {
  const bound = direction > 0 ? lower! : upper!;
  const side = direction > 0 ? "above" : "below";
  const zero = nullWords(nullValue);
  const said = `The effect is ${side} ${plain(bound)} (${percent(level)} % one-sided bound${wait})`;
  if (direction * (bound - nullValue) > 0)
    return { verdict: "supported", reason: `${said}, so ${side} ${zero}, as stated.` };
  const other =
    direction * (estimate! - nullValue) < 0
      ? " The estimate itself points the other way, which a one-tailed test cannot judge."
      : "";
  return { verdict: "not_supported", reason: `${said}, which leaves ${zero} possible.${other}` };
}

/** Could another seed move the limit that decides across the null? */
function unsettled(test: ClaimTest, replicates: number | null): Judgement | null {
  const { lower, upper, mcseLower, mcseUpper, nullValue, tail } = test;
  const ends = [
    { name: "lower limit", at: lower, error: mcseLower },
    { name: "upper limit", at: upper, error: mcseUpper },
  ].filter((end) => isOpen(end.at, end.error, nullValue));
  const [near] = ends.sort(
    (a, b) => Math.abs(a.at! - nullValue) / a.error - Math.abs(b.at! - nullValue) / b.error,
  );
  if (!near) return null;
  const more = settlingWords(replicates, near.error, Math.abs(near.at! - nullValue));
  const name = tail === "one" ? "one-sided bound" : near.name;
  return {
    verdict: "unsettled",
    reason: `The ${name} (${plain(near.at)}) is so near ${nullWords(nullValue)} that another seed could move it across: its Monte Carlo error is ${plain(near.error, 4)}${more}.`,
  };
}

/** Beyond so many resamples a number is no advice. */
const MOST_RESAMPLES = 100_000_000;

/** How many bootstrap samples would settle it, where that is a number worth naming. */
function settlingWords(replicates: number | null, error: number, distance: number): string {
  const wanted = replicates === null ? Infinity : replicatesToSettle(replicates, error, distance);
  return wanted <= MOST_RESAMPLES
    ? `; about ${thousands(roundUp(wanted))} bootstrap samples would settle it`
    : "";
}

const nullWords = (value: number): string => (value === 0 ? "zero" : plain(value));

function jointVerdict(
  joint: NonNullable<ClaimTest["joint"]>,
  alpha: number,
  provisional: boolean,
  replicates: number | null,
): Judgement {
  const words = jointWords(joint);
  if (isOpen(joint.p, joint.mcse, alpha)) {
    const more = settlingWords(replicates, joint.mcse, Math.abs(joint.p - alpha));
    return {
      verdict: "unsettled",
      reason: `${words}: p is so near ${plain(alpha)} that another seed could move it across${more}.`,
    };
  }
  const wait = provisional ? " (delta method, until the bootstrap samples arrive)" : "";
  if (joint.p < alpha)
    return {
      verdict: "supported",
      reason: `${words}: the groups differ in this effect${wait}. Which of them do stands among the pairwise differences.`,
    };
  return {
    verdict: "not_supported",
    reason: `${words}: no difference between the groups is large enough to be told from chance${wait}.`,
  };
}

function undirected(test: ClaimTest, { variable, levels }: OpenComparison): Judgement {
  const [first = "one level", second = "another"] = levels;
  const example = `${variable} ("${second}" against "${first}")`;
  const tested = test.joint ? ` Without a direction: ${jointWords(test.joint)}.` : "";
  return {
    verdict: "undirected",
    reason: `“${variable}” has ${levels.length} levels, so a direction needs a comparison: name two of them, as in ${example}.${tested}`,
  };
}

/**
 * The judgement when Holm's correction takes part in the decision: what its adjusted p does not
 * support falls.
 */
export const afterHolm = (
  judgement: Judgement,
  adjustedP: number | null,
  alpha: number,
): Judgement =>
  adjustedP === null ||
  adjustedP < alpha ||
  (judgement.verdict !== "supported" && judgement.verdict !== "opposite")
    ? judgement
    : {
        verdict: "not_supported",
        reason: `${judgement.reason} Corrected for the number of hypotheses (Holm), ${pClause(adjustedP)}, which does not reach ${plain(alpha)}.`,
      };

function roundUp(count: number): number {
  const unit = pow(10, Math.max(2, Math.floor(log10(count)) - 1));
  return Math.ceil(count / unit) * unit;
}
