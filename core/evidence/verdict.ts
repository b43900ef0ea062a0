import { log10, pow } from "../numerics/elementary";
import { replicatesToSettle } from "../inference";
import { isOpen } from "./reading";
import { MAX_REPLICATIONS } from "../study";
import type { ClaimTest, Verdict } from "./types";
import { errorRate, percent, plain, thousands } from "../wording/numbers";
import { jointWords } from "./wording";

export interface Judgement {
  verdict: Verdict;
  reason: string;
  /**
   * What leaves a verdict unsettled: a limit near the null, too few resamples beyond a limit, the
   * sign of the effect that is moderated, an adjusted p near its limit.
   */
  why?: "near" | "few" | "sign" | "adjusted";
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

/** Beyond a limit there have to be so many resamples, or it is one of the most extreme of them. */
const FEWEST_BEYOND = 5;

/** Could another seed, or a few resamples more, move the limit that decides across the null? */
function unsettled(test: ClaimTest, replicates: number | null): Judgement | null {
  const { lower, upper, mcseLower, mcseUpper, nullValue, tail } = test;
  const ends = [
    { name: "lower limit", at: lower, error: mcseLower, beyond: test.beyondLower },
    { name: "upper limit", at: upper, error: mcseUpper, beyond: test.beyondUpper },
  ].filter((end) => end.at !== null);
  const samples = test.reference === "monte_carlo" ? "draws" : "bootstrap samples";
  const named = (name: string): string => (tail === "one" ? "one-sided bound" : name);
  // Of an interval on one side of the null the nearer limit alone decides.
  const deciding = ends.filter(({ name }) =>
    name === "lower limit" ? !(upper! < nullValue) : !(lower! > nullValue),
  );
  const [extreme] = deciding
    .filter(({ beyond }) => beyond !== null && beyond < FEWEST_BEYOND - 1e-9)
    .sort((a, b) => a.beyond! - b.beyond!);
  if (extreme) {
    const wanted = replicates === null ? Infinity : (replicates * FEWEST_BEYOND) / extreme.beyond!;
    if (wanted <= MAX_REPLICATIONS || !isClear(test, replicates)) {
      const count = Math.floor(extreme.beyond! + 1e-9);
      const advice =
        wanted <= MAX_REPLICATIONS
          ? settlingWords(wanted, samples)
          : "; more than can be made here would be needed, so that another interval has to tell";
      return {
        verdict: "unsettled",
        why: "few",
        reason: `The ${named(extreme.name)} (${plain(extreme.at)}) is one of the most extreme ${samples}: ${count === 0 ? "none lies" : count === 1 ? "one lies" : `${count} lie`} beyond it, so that it jumps from seed to seed${advice}.`,
      };
    }
  }
  const [near] = ends
    .filter((end) => isOpen(end.at, end.error, nullValue))
    .sort((a, b) => Math.abs(a.at! - nullValue) / a.error - Math.abs(b.at! - nullValue) / b.error);
  if (!near) return null;
  const more = settlingWords(
    wantedFor(replicates, near.error, Math.abs(near.at! - nullValue)),
    samples,
  );
  return {
    verdict: "unsettled",
    why: "near",
    reason: `The ${named(near.name)} (${plain(near.at)}) is so near ${nullWords(nullValue)} that another seed could move it across: its Monte Carlo error is ${plain(near.error, 4)}${more}.`,
  };
}

/**
 * Does the null lie so far within that no limit could leave it out? A correction for a large bias
 * puts the limit of one side beyond all replicates that could ever be made; where p is far from
 * its limit, nothing hangs on that.
 */
function isClear(
  { lower, upper, p, nullValue, level, tail }: ClaimTest,
  replicates: number | null,
): boolean {
  if (tail === "one" || lower === null || upper === null || p === null || !replicates) return false;
  const error = Math.sqrt((p * (1 - p)) / replicates);
  return lower < nullValue && nullValue < upper && p > 1 - level && !isOpen(p, error, 1 - level);
}

/** Beyond so many resamples a number is no advice. */
const MOST_RESAMPLES = 100_000_000;

/** How many replicates bring a limit, or p, two of its Monte Carlo errors away from a value. */
export const wantedFor = (replicates: number | null, error: number, distance: number): number =>
  replicates === null ? Infinity : replicatesToSettle(replicates, error, distance);

/** How many would settle it, where that is a number worth naming. */
export const settlingWords = (wanted: number, samples = "bootstrap samples"): string =>
  wanted <= MOST_RESAMPLES
    ? `; about ${thousands(roundUp(wanted))} ${samples} would settle it`
    : "";

const nullWords = (value: number): string => (value === 0 ? "zero" : plain(value));

function jointVerdict(
  joint: NonNullable<ClaimTest["joint"]>,
  alpha: number,
  provisional: boolean,
  replicates: number | null,
): Judgement {
  const words = jointWords(joint);
  if (isOpen(joint.p, joint.mcse, alpha)) {
    const more = settlingWords(wantedFor(replicates, joint.mcse, Math.abs(joint.p - alpha)));
    return {
      verdict: "unsettled",
      why: "near",
      reason: `${words}: p is so near ${errorRate(alpha)} that another seed could move it across${more}.`,
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

function roundUp(count: number): number {
  const unit = pow(10, Math.max(2, Math.floor(log10(count)) - 1));
  return Math.ceil(count / unit) * unit;
}
