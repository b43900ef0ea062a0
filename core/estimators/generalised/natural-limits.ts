import { isBootstrap, SUMMARY, toldP } from "../../inference";
import type { CovarianceKind, IntervalKind } from "../../study";
import type { NaturalEffect, PotentialMean } from "./types";

export interface NaturalLimits {
  se: number | null;
  lower: number;
  upper: number;
  p: number | null;
  pIsBound: boolean;
}

/**
 * Limits of a mean or an effect of a treatment under the chosen interval: draws or resamples where
 * there are any, else those of the chosen errors. The percentile interval stands in for those that
 * such means do not have.
 */
export function naturalLimits(
  { drawn, bootstrap, model, robust }: NaturalEffect | PotentialMean,
  { interval, errors }: { interval: IntervalKind; errors: CovarianceKind },
): NaturalLimits | null {
  const analytic = (errors === "classical" ? model : robust) ?? model;
  if (drawn) return { se: analytic?.se ?? null, ...drawn, p: null, pIsBound: false };
  const found =
    bootstrap && isBootstrap(interval)
      ? (bootstrap[SUMMARY[interval]] ?? bootstrap.percentile)
      : null;
  if (!bootstrap || !found) return analytic && { ...analytic, pIsBound: false };
  const { lower, upper, pIsBound } = found;
  // Where all resamples lie on one side, p is only known to be below one in so many.
  return { se: bootstrap.se, lower, upper, p: toldP(found, bootstrap.used), pIsBound };
}
