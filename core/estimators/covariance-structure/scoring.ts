import { choleskyInPlace, choleskySolveInPlace } from "../../numerics/cholesky";
import type { NormalLikelihood } from "./normal-likelihood";

/** How fitting ended. */
export type ScoringEnd = "converged" | "not_converged" | "singular";

export interface ScoringResult {
  end: ScoringEnd;
  theta: Float64Array;
  iterations: number;
}

/** g' I^-1 g / N below this: the criterion does not depend on the units of anything. */
const CLOSE = 1e-18;
const MOST_ITERATIONS = 500;
const MOST_HALVINGS = 30;
/** A pivot of the information, scaled to unit diagonal, below this: no direction to go. */
const SINGULAR = 1e-13;

/**
 * Fisher scoring with step halving: theta + I^-1 g, halved until the likelihood rises. The criterion g' I^-1 g / N is free of
 * units; where it stands still at rounding error the fit counts as converged if it is below `GOOD`.
 * @param start where to begin; not changed
 */
export function fisherScoring(likelihood: NormalLikelihood, start: Float64Array): ScoringResult {
  const { q } = likelihood.implied;
  const { n } = likelihood.sample;
  let theta = Float64Array.from(start);
  const next = new Float64Array(q);
  const step = new Float64Array(q);
  const factor = new Float64Array(q * q);
  const scale = new Float64Array(q);
  for (let iteration = 0; iteration < MOST_ITERATIONS; iteration++) {
    if (!likelihood.at(theta)) return { end: "not_converged", theta, iterations: iteration };
    const { value } = likelihood;
    if (!scoringStep(likelihood, factor, scale, step))
      return { end: "singular", theta, iterations: iteration };
    let criterion = 0;
    for (let a = 0; a < q; a++) criterion += likelihood.score[a]! * step[a]!;
    criterion /= n;
    if (criterion < CLOSE) return { end: "converged", theta, iterations: iteration };
    let share = 1;
    let halvings = 0;
    for (; halvings < MOST_HALVINGS; halvings++, share /= 2) {
      for (let a = 0; a < q; a++) next[a] = theta[a]! + share * step[a]!;
      if (likelihood.valueAt(next) > value) break;
    }
    if (halvings === MOST_HALVINGS)
      // No step rises any more: rounding error, or a place that is no maximum.
      return {
        end: criterion < GOOD ? "converged" : "not_converged",
        theta,
        iterations: iteration,
      };
    theta = Float64Array.from(next);
  }
  return { end: "not_converged", theta, iterations: MOST_ITERATIONS };
}

/** The criterion that a fit has to reach. */
const GOOD = 1e-12;

/** I^-1 g by Cholesky of the information scaled to unit diagonal. @returns false where it is singular */
function scoringStep(
  { information, score, implied: { q } }: NormalLikelihood,
  factor: Float64Array,
  scale: Float64Array,
  step: Float64Array,
): boolean {
  for (let a = 0; a < q; a++) scale[a] = 1 / Math.sqrt(information[a * q + a]!);
  for (let a = 0; a < q; a++)
    for (let b = 0; b < q; b++) factor[a * q + b] = information[a * q + b]! * scale[a]! * scale[b]!;
  if (!(choleskyInPlace(factor, q, q) > SINGULAR)) return false;
  for (let a = 0; a < q; a++) step[a] = score[a]! * scale[a]!;
  choleskySolveInPlace(factor, q, q, step);
  for (let a = 0; a < q; a++) step[a] = step[a]! * scale[a]!;
  return true;
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
