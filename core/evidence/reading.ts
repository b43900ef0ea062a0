import {
  isBootstrap,
  SUMMARY,
  toldP,
  type BootstrapInterval,
  type BootstrapSummary,
  type MonteCarloInterval,
} from "../inference";
import type { CoefficientTest, NormalTest } from "../model";
import { studentP, studentQuantile, normalP, zQuantile } from "../numerics/distributions";
import type { IntervalKind, Settings } from "../study";
import type { ClaimTest, ShownInterval } from "./types";

/** What is known of one quantity's uncertainty. */
export interface Sources {
  estimate: number | null;
  /** The t test of a linear function of one equation's coefficients. */
  linear: CoefficientTest | null;
  /** Delta method (for functions of SDs: with their sampling variation). */
  delta: Pick<NormalTest, "se"> | null;
  bootstrap: BootstrapSummary | null;
  monteCarlo: MonteCarloInterval | null;
}

/**
 * +1: only a lower bound is wanted, for the claim that an effect is positive; -1: only an upper
 * one; 0: both limits.
 */
export type Side = -1 | 0 | 1;

/**
 * The interval that the settings ask for, at the confidence level as it stands; for a side the
 * one-sided bound at that level alone. Where the method is not available another stands in and says
 * so: the percentile interval for other bootstrap intervals, the t-based or delta-method one until
 * resamples arrive. Single coefficients use t wherever nothing is resampled; Monte Carlo draws
 * serve products and functions across equations.
 */
export function readInterval(
  sources: Sources,
  settings: Pick<Settings, "interval" | "level">,
  side: Side,
): ShownInterval {
  const { bootstrap, monteCarlo, linear, delta } = sources;
  const { interval: wanted, level } = settings;
  if (isBootstrap(wanted) && bootstrap) {
    const own = bootstrap[SUMMARY[wanted]];
    const found = own ?? bootstrap.percentile;
    const se =
      wanted === "bootstrap_t" && own ? (linear?.se ?? delta?.se ?? bootstrap.se) : bootstrap.se;
    if (found)
      return simulated(
        found,
        bootstrap.used,
        own ? wanted : "percentile",
        "bootstrap",
        se,
        level,
        side,
        own === null,
      );
    return { ...nothing(wanted, level), se: bootstrap.se };
  }
  if (wanted === "monte_carlo" && monteCarlo && !linear) {
    return simulated(
      monteCarlo,
      monteCarlo.draws,
      wanted,
      "monte_carlo",
      delta?.se ?? null,
      level,
      side,
      false,
    );
  }
  const provisional = wanted !== "delta" && !(linear && wanted === "monte_carlo");
  if (linear) return analytic(sources.estimate!, linear.se, linear.df, level, side, provisional);
  if (delta && sources.estimate !== null)
    return analytic(sources.estimate, delta.se, null, level, side, provisional);
  return nothing("delta", level);
}

const nothing = (method: IntervalKind, level: number): ShownInterval => ({
  method,
  reference: isBootstrap(method) ? "bootstrap" : method === "monte_carlo" ? "monte_carlo" : "z",
  df: null,
  se: null,
  lower: null,
  upper: null,
  p: null,
  pIsBound: false,
  level,
  provisional: true,
  mcseLower: 0,
  mcseUpper: 0,
  beyondLower: null,
  beyondUpper: null,
});

/** @param draws behind the limits; they bound p where all lie on one side of zero */
function simulated(
  found: BootstrapInterval,
  draws: number,
  method: IntervalKind,
  reference: "bootstrap" | "monte_carlo",
  se: number | null,
  level: number,
  side: Side,
  provisional: boolean,
): ShownInterval {
  const base = { method, reference, df: null, se, level, provisional, pIsBound: found.pIsBound };
  if (side === 0) {
    const { lower, upper, mcseLower, mcseUpper } = found;
    return {
      ...base,
      lower,
      upper,
      mcseLower,
      mcseUpper,
      beyondLower: found.beyond?.[0] ?? null,
      beyondUpper: found.beyond?.[1] ?? null,
      p: toldP(found, draws),
    };
  }
  const p = side > 0 ? found.pGreater : found.pLess;
  // A bound on p only means something on the side where all replicates lie.
  const bounded = found.pIsBound && p < 0.5;
  const one =
    side > 0
      ? { lower: found.oneSidedLower, upper: null }
      : { lower: null, upper: found.oneSidedUpper };
  return {
    ...base,
    ...one,
    mcseLower: side > 0 ? found.mcseOneSidedLower : 0,
    mcseUpper: side > 0 ? 0 : found.mcseOneSidedUpper,
    beyondLower: side > 0 ? (found.beyondOneSided?.[0] ?? null) : null,
    beyondUpper: side > 0 ? null : (found.beyondOneSided?.[1] ?? null),
    p: bounded ? Math.max(p, 1 / (draws + 1)) : p,
    pIsBound: bounded,
  };
}

/** @param df of a t reference; null for the normal distribution */
function analytic(
  estimate: number,
  se: number,
  df: number | null,
  level: number,
  side: Side,
  provisional: boolean,
): ShownInterval {
  const tail = side === 0 ? (1 - level) / 2 : 1 - level;
  const reach = se * (df === null ? zQuantile(1 - tail) : studentQuantile(1 - tail, df));
  const two = df === null ? normalP(estimate / se) : studentP(estimate / se, df);
  const p = side === 0 ? two : side * estimate > 0 ? two / 2 : 1 - two / 2;
  return {
    method: "delta",
    reference: df === null ? "z" : "t",
    df,
    se,
    lower: side < 0 ? null : estimate - reach,
    upper: side > 0 ? null : estimate + reach,
    p,
    pIsBound: false,
    level,
    provisional,
    mcseLower: 0,
    mcseUpper: 0,
    beyondLower: null,
    beyondUpper: null,
  };
}

/** So many Monte Carlo errors from a value a limit counts as settled. */
const SETTLED = 2;

/**
 * Could another seed move a limit (or a p) across a value? Never where nothing is simulated, or
 * where there is no limit.
 */
export const isOpen = (limit: number | null, error: number, value: number): limit is number =>
  limit !== null && error > 0 && Math.abs(limit - value) <= SETTLED * error;

/** Does an interval exclude a value? Null without limits. */
export function excludes(
  { lower, upper }: Pick<ShownInterval, "lower" | "upper">,
  value: number,
): boolean | null {
  if (lower === null && upper === null) return null;
  return (lower !== null && lower > value) || (upper !== null && upper < value);
}

/**
 * The t or z that a claim's p rests on: how many standard errors the estimate lies from the null
 * value; null where p comes from resamples or draws, which have no such statistic.
 */
export function statisticOf({
  estimate,
  nullValue,
  se,
  reference,
}: Pick<ClaimTest, "estimate" | "nullValue" | "se" | "reference">): number | null {
  if (reference !== "t" && reference !== "z") return null;
  return estimate === null || !se ? null : (estimate - nullValue) / se;
}
