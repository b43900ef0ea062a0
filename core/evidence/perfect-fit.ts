import type { Quantity } from "../effects";
import { standardDeviation } from "../numerics/moments";
import type { Prepared } from "../preparation";
import { plain } from "../wording/numbers";

/** An effect smaller than this, in SDs of its outcome per SD of its predictor, is rounding. */
const ROUNDING = 1e-10;
/** What an equation leaves unexplained, as a share, where nothing but rounding is left. */
const NOTHING_LEFT = 1e-12;

/**
 * Where predictors explain an outcome without rest, what is left is rounding, and so is the error:
 * their ratio says nothing.
 */
export function perfectReason(
  { fit, estimates, quantities }: Pick<Prepared, "fit" | "estimates" | "quantities">,
  { id, from, to, via, label }: Quantity,
): string | null {
  if (from === null || to === null) return null;
  const explained = explainedIn(fit, [...via, to]);
  const column = explained && fit.points?.(via[0] ?? to)?.columns.find((c) => c.key === from);
  const last = column && fit.points?.(to);
  if (!last) return null;
  const estimate = estimates[quantities.findIndex((q) => q.id === id)]!;
  return (Math.abs(estimate) * column.sd) / standardDeviation(last.y) < ROUNDING
    ? `The outcome ${explained} is explained without rest, and what is found of ${label} (${plain(estimate)}) is the rounding of a computer: there is nothing to test.`
    : null;
}

/** The first of some outcomes of which its equation leaves nothing. */
const explainedIn = (fit: Prepared["fit"], outcomes: string[]): string | null =>
  outcomes.find((name) => (fit.rSquared?.(name) ?? 0) > 1 - NOTHING_LEFT) ?? null;

/** Why there are no limits of what has an estimate, where nothing is left to make an error of. */
export function errorlessReason({ fit }: Prepared, quantities: readonly Quantity[]): string | null {
  const outcomes = quantities.flatMap(({ via, to }) => [...via, ...(to === null ? [] : [to])]);
  const explained = explainedIn(fit, outcomes);
  return explained === null
    ? null
    : `The outcome ${explained} is explained without rest, so that there is no standard error to test the effect by. Is it computed from its predictors?`;
}

/** Why there are no limits where only resamples could give some, and none are asked for. */
export const unresampledReason = ({ fit, study }: Prepared): string | null =>
  fit.standardised && study.settings.replications === 0
    ? "What is estimated here has no error but by resampling, and no bootstrap samples are asked for: set their number in the analysis settings."
    : null;
