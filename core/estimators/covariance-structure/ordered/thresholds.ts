import type { StagedMoments } from "./weights";
import type { OrderedModel } from "./ordered-model";
import { inner, times } from "../moment-objective";
import { projection, solved } from "./projection";

/** A threshold as the model has it. */
export interface Threshold {
  /** Place of its variable, and which of its thresholds. */
  variable: number;
  at: number;
  estimate: number;
  se: number;
  /** Its covariance with the parameters of the model, dependent variances not included. */
  withParameters: Float64Array;
}

/**
 * Thresholds with their errors. Every model fits them: under weights of their own they are the
 * sample's; under full weights they follow what the model leaves of the other statistics, tau - G_tk
 * G_kk^-1 e, with the covariance that generalised least squares has.
 */
export function thresholdsOf(
  { objective, group, staged, q }: OrderedModel,
  full: boolean,
): Threshold[] {
  const { statistics, weight, n } = group;
  const m = group.moments.length;
  const zero = new Float64Array(m);
  const found = projection(group, objective.jacobian(0));
  const e = objective.residuals(0);
  const out: Threshold[] = [];
  let place = 0;
  staged.columns.forEach((column, variable) => {
    if (column.kind !== "ordered") return;
    column.thresholds.forEach((tau, at) => {
      const along = crossOf(statistics, place, m);
      const own = statistics.gamma[place * statistics.size + place]!;
      place += 1;
      const taken = full ? times(weight, along) : zero;
      const byParameters = Float64Array.from({ length: q }, (_, a) =>
        found ? inner(found.WD[a]!, along) : NaN,
      );
      const withParameters = found ? solved(found, byParameters).map((x) => x / n) : byParameters;
      // Under full weights the same vector enters the variance twice, with opposite signs.
      const back = full
        ? withParameters.reduce((sum, x, a) => sum + x * n * byParameters[a]!, 0)
        : 0;
      out.push({
        variable,
        at,
        estimate: tau - inner(taken, e),
        se: Math.sqrt((own - inner(taken, along) + back) / n),
        withParameters,
      });
    });
  });
  return out;
}

/** A column of the covariance of the statistics, in the places of moments. */
function crossOf(
  { size, gamma, at }: StagedMoments["statistics"],
  own: number,
  m: number,
): Float64Array {
  const out = new Float64Array(m);
  at.forEach((place, k) => {
    if (place >= 0) out[place] = gamma[k * size + own]!;
  });
  return out;
}
