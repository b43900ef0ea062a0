import type { Evidence } from "./types";

/**
 * Are only means and covariances known, so that there are no rows to resample, to check or to leave
 * out?
 */
export const isFromMoments = ({ warnings }: Pick<Evidence, "warnings">): boolean =>
  warnings.some((w) => w.code === "moments_only");

/** Will there never be resamples: none were asked for, or there is nothing to draw from? */
export const isNeverResampled = (evidence: Pick<Evidence, "warnings" | "settings">): boolean =>
  evidence.settings.replications === 0 || isFromMoments(evidence);
