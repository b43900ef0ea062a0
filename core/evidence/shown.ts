import type { BootstrapSummary, MonteCarloInterval, NormalTest } from "../inference";
import type { Settings } from "../study";
import type { ShownInterval } from "./types";

/** What is known of one quantity's uncertainty. */
interface Sources {
  estimate: number | null;
  delta: NormalTest | null;
  bootstrap: BootstrapSummary | null;
  monteCarlo: MonteCarloInterval | null;
}

/** The level at which limits are drawn: one-tailed tests at 95 % show the 90 % interval, whose ends are one-sided bounds. */
export const shownLevel = (settings: Settings): number => (settings.tail === "one" ? 1 - 2 * (1 - settings.level) : settings.level);

/**
 * Picks the interval that the settings ask for; the delta method stands in while the bootstrap is not there.
 * @param direction +1 or -1 for a directional claim tested in one tail, else 0
 */
export function shownInterval(sources: Sources, settings: Settings, direction: number): ShownInterval {
  const { bootstrap, delta, monteCarlo } = sources;
  const level = shownLevel(settings);
  const base = { level, pIsBound: false };
  const wanted = settings.interval;
  const oneTailed = settings.tail === "one" && direction !== 0;
  if (bootstrap && (wanted === "bca" || wanted === "bc" || wanted === "percentile")) {
    const method = bootstrap[wanted] ? wanted : "percentile";
    const found = bootstrap[method]!;
    const p = !oneTailed ? found.pTwoSided : direction > 0 ? found.pGreater : found.pLess;
    const { lower, upper } = found;
    return { ...base, method, se: bootstrap.se, lower, upper, p, pIsBound: found.pIsBound, provisional: method !== wanted };
  }
  if (bootstrap && wanted === "basic")
    return { ...base, method: wanted, se: bootstrap.se, ...bootstrap.basic, p: null, provisional: false };
  if (bootstrap?.normal && wanted === "normal") {
    return { ...base, method: wanted, se: bootstrap.se, ...bootstrap.normal, p: null, provisional: false };
  }
  if (monteCarlo && wanted === "monte_carlo") {
    const { lower, upper } = monteCarlo;
    return { ...base, method: wanted, se: delta?.se ?? null, lower, upper, p: null, provisional: false };
  }
  if (!delta) return { ...base, method: "delta", se: null, lower: null, upper: null, p: null, provisional: true };
  const half = direction * delta.z > 0 ? delta.p / 2 : 1 - delta.p / 2;
  const { se, lower, upper } = delta;
  return { ...base, method: "delta", se, lower, upper, p: oneTailed ? half : delta.p, provisional: wanted !== "delta" };
}
