import { choleskyInPlace, choleskySolveInPlace } from "../../numerics/cholesky";
import type { Objective } from "./normal-likelihood";

/** How fitting ended. */
export type ScoringEnd = "converged" | "not_converged" | "singular";

export interface ScoringResult {
  end: ScoringEnd;
  theta: Float64Array;
  iterations: number;
}

/**
 * The criterion g' I^-1 g / N that counts as converged, which does not depend on the units of
 * anything.
 */
export const CONVERGED = 1e-12;
const MOST_ITERATIONS = 500;
const MOST_HALVINGS = 30;
/**
 * Resamples whose likelihood has no maximum: two variances drift apart without end, and only ever
 * smaller shares of a step still rise. Where the last steps were shorter than this on average,
 * nobody waits for the 500th.
 */
const DRIFT = { steps: 8, share: 1 / 32 };
/** A pivot of the information, scaled to unit diagonal, below this: no direction to go. */
const SINGULAR = 1e-13;

/**
 * Fisher scoring with step halving: theta + I^-1 g, halved until the likelihood rises.
 * @param start where to begin; not changed
 * @param close go on until the criterion is below this, or only rounding error is left to gain; at
 *   most `CONVERGED`
 * @param patient false: a drift without end is left early, as not converged
 */
export function fisherScoring(
  likelihood: Objective,
  start: Float64Array,
  { close = CONVERGED, patient = true } = {},
): ScoringResult {
  const { q, n } = likelihood;
  const theta = Float64Array.from(start);
  const next = new Float64Array(q);
  const best = new Float64Array(q);
  let least = Infinity;
  const step = new Float64Array(q);
  const factor = new Float64Array(q * q);
  const scale = new Float64Array(q);
  let value = likelihood.valueAt(theta);
  /** Mean share of a step that was taken lately; the last one weighs 1 / steps. */
  let taken = 1;
  for (let iteration = 0; iteration < MOST_ITERATIONS; iteration++) {
    const ended = (end: ScoringEnd, at: Float64Array): ScoringResult => ({
      end,
      theta: at,
      iterations: iteration,
    });
    if (value === -Infinity) return ended("not_converged", theta);
    likelihood.derivatives();
    if (!scoringStep(likelihood, factor, scale, step)) return ended("singular", theta);
    let criterion = 0;
    for (let a = 0; a < q; a++) criterion += likelihood.score[a]! * step[a]!;
    criterion /= n;
    if (criterion < CONVERGED) {
      // So near, the likelihood is flat to the last bit and says nothing of a step any more; the
      // slope still does.
      if (criterion < least) best.set(theta);
      if (criterion < close || criterion >= least) return ended("converged", best);
      least = criterion;
      for (let a = 0; a < q; a++) theta[a] = theta[a]! + step[a]!;
      value = likelihood.valueAt(theta);
      continue;
    }
    let share = 1;
    let reached = -Infinity;
    for (let halving = 0; halving < MOST_HALVINGS && !(reached > value); halving++, share /= 2) {
      for (let a = 0; a < q; a++) next[a] = theta[a]! + share * step[a]!;
      reached = likelihood.valueAt(next);
    }
    // No step rises though the slope is not flat: a place that is no maximum.
    if (!(reached > value)) return ended("not_converged", theta);
    value = reached;
    theta.set(next);
    // Halved once more after the step that rose.
    taken += (2 * share - taken) / DRIFT.steps;
    if (!patient && taken < DRIFT.share) return ended("not_converged", theta);
  }
  return { end: "not_converged", theta, iterations: MOST_ITERATIONS };
}

/**
 * I^-1 g by Cholesky of the information scaled to unit diagonal.
 * @returns false where it is singular
 */
function scoringStep(
  { information, score, q }: Objective,
  factor: Float64Array,
  scale: Float64Array,
  step: Float64Array,
): boolean {
  for (let a = 0; a < q; a++) scale[a] = 1 / Math.sqrt(information[a * q + a]!);
  for (let a = 0; a < q; a++)
    for (let b = 0; b < q; b++) factor[a * q + b] = information[a * q + b]! * scale[a]! * scale[b]!;
  if (!(choleskyInPlace(factor, q, q) > SINGULAR) && !ridged(information, scale, factor, q))
    return false;
  for (let a = 0; a < q; a++) step[a] = score[a]! * scale[a]!;
  choleskySolveInPlace(factor, q, q, step);
  for (let a = 0; a < q; a++) step[a] = step[a]! * scale[a]!;
  return true;
}

/**
 * What is added to the scaled diagonal where the information is singular on the way, though not at
 * its end.
 */
const RIDGES = [1e-6, 1e-4, 1e-2];

/**
 * As where a latent variable with two items still covaries with nothing.
 * @returns false where nothing helps
 */
function ridged(
  information: Float64Array,
  scale: Float64Array,
  factor: Float64Array,
  q: number,
): boolean {
  for (const ridge of RIDGES) {
    for (let a = 0; a < q; a++)
      for (let b = 0; b < q; b++)
        factor[a * q + b] = information[a * q + b]! * scale[a]! * scale[b]! + (a === b ? ridge : 0);
    if (choleskyInPlace(factor, q, q) > SINGULAR) return true;
  }
  return false;
}

/** The inverse of a symmetric positive definite q x q matrix; null where it is singular. */
export function inverseOf(matrix: Float64Array, q: number): Float64Array | null {
  const scale = Float64Array.from({ length: q }, (_, a) => 1 / Math.sqrt(matrix[a * q + a]!));
  const factor = Float64Array.from(
    { length: q * q },
    (_, at) => matrix[at]! * scale[Math.floor(at / q)]! * scale[at % q]!,
  );
  if (!(choleskyInPlace(factor, q, q) > SINGULAR)) return null;
  const inverse = new Float64Array(q * q);
  const column = new Float64Array(q);
  for (let b = 0; b < q; b++) {
    column.fill(0);
    column[b] = 1;
    choleskySolveInPlace(factor, q, q, column);
    for (let a = 0; a < q; a++) inverse[a * q + b] = column[a]! * scale[a]! * scale[b]!;
  }
  return inverse;
}
