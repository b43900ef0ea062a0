import type { BootstrapSummary, MonteCarloInterval, NormalTest } from "../inference";
import type { IntervalKind, Settings } from "../study";
import type { ShownInterval } from "./types";

/** What is known of one quantity's uncertainty. */
interface Sources {
  estimate: number | null;
  delta: NormalTest | null;
  bootstrap: BootstrapSummary | null;
  monteCarlo: MonteCarloInterval | null;
}

const limits = ({ lower, upper }: { lower: number; upper: number }) => ({ lower, upper });

/** The level at which limits are drawn: one-tailed tests at 95 % show the 90 % interval, whose ends are one-sided bounds. */
export const shownLevel = (settings: Settings): number => (settings.tail === "one" ? 1 - 2 * (1 - settings.level) : settings.level);

/**
 * Picks the interval that the settings ask for; the delta method stands in while the bootstrap is not there.
 * @param direction +1 or -1 for a directional claim tested in one tail, else 0
 */
export function shownInterval(sources: Sources, settings: Settings, direction: number): ShownInterval {
  const { bootstrap, delta } = sources;
  const wanted = settings.interval;
  const base = { level: shownLevel(settings), pIsBound: false };
  const side = settings.tail === "one" ? direction : 0;
  if (bootstrap && (wanted === "bca" || wanted === "bc" || wanted === "percentile")) {
    const method = bootstrap[wanted] ? wanted : "percentile";
    const found = bootstrap[method]!;
    const p = side === 0 ? found.pTwoSided : side > 0 ? found.pGreater : found.pLess;
    return { ...base, method, se: bootstrap.se, ...limits(found), p, pIsBound: found.pIsBound, provisional: method !== wanted };
  }
  const bare = bareLimits(sources, wanted);
  if (bare) return { ...base, p: null, provisional: bare.method !== wanted, ...bare };
  if (!delta) return { ...base, method: "delta", se: null, lower: null, upper: null, p: null, provisional: true };
  const half = side * delta.z > 0 ? delta.p / 2 : 1 - delta.p / 2;
  return { ...base, method: "delta", se: delta.se, ...limits(delta), p: side === 0 ? delta.p : half, provisional: wanted !== "delta" };
}

/** Intervals that have no p of their own; the percentile interval where a quantity has no bootstrap-t. */
function bareLimits(
  { bootstrap, delta, monteCarlo }: Sources,
  wanted: IntervalKind,
): Pick<ShownInterval, "method" | "se" | "lower" | "upper"> | null {
  if (monteCarlo && wanted === "monte_carlo") return { method: wanted, se: delta?.se ?? null, ...limits(monteCarlo) };
  if (!bootstrap) return null;
  if (wanted === "basic") return { method: wanted, se: bootstrap.se, ...limits(bootstrap.basic) };
  if (wanted === "normal" && bootstrap.normal) return { method: wanted, se: bootstrap.se, ...limits(bootstrap.normal) };
  if (wanted !== "bootstrap_t") return null;
  const found = bootstrap.bootstrapT;
  return found
    ? { method: wanted, se: delta?.se ?? null, ...limits(found) }
    : { method: "percentile", se: bootstrap.se, ...limits(bootstrap.percentile) };
}
