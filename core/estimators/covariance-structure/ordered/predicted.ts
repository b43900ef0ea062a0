import { Phi, zQuantile } from "../../../numerics/distributions";
import type { OrderedColumn } from "../../../ordered";
import type { FittedModel } from "../fitted-model";
import { standardErrors } from "../parameter-table";
import { differentiated } from "../standardised";
import type { OrderedEvidence } from "../types";
import { levelShares } from "./answers";
import type { OrderedModel } from "./ordered-model";
import type { Threshold } from "./thresholds";

/** Where a predictor is looked at, in SDs from its mean. */
const PROBES = [-1, 0, 1];

/**
 * Shares of the levels of an observed ordered outcome at low, middle and high values of a numeric
 * predictor, by its total effect t: the tendency has mean t k SD there and variance 1 - t^2 Var x.
 * Limits of the highest level by the delta method before Phi, thresholds estimated with the rest.
 */
export function predictedShares(
  fitted: FittedModel,
  ordered: OrderedModel,
  thresholds: readonly Threshold[],
  level: number,
): OrderedEvidence["predicted"] {
  const { models, implied, theta, spec } = fitted;
  const { slots, observed: p, variables } = models[0]!;
  const moments = implied[0]!;
  const { v } = moments;
  const explained = new Set(slots.flatMap((s) => (s.matrix === "A" ? [s.row] : [])));
  const measured = new Set(
    slots.flatMap((s) => (s.matrix === "A" && s.column >= p ? [s.row] : [])),
  );
  const isOutcome = (i: number): boolean =>
    i < p && ordered.names.has(variables[i]!) && (!measured.has(i) || pathsFromObserved(i));
  const pathsFromObserved = (i: number): boolean =>
    slots.some((s) => s.matrix === "A" && s.row === i && s.column < p);
  const predictors = variables
    .map((_, i) => i)
    .filter((i) => i < p && !explained.has(i) && ordered.staged.columns[i]!.kind === "numeric");
  moments.at(theta);
  const { B, E } = moments;
  return variables.flatMap((outcome, y) => {
    if (!isOutcome(y)) return [];
    const own = thresholds.filter((t) => t.variable === y);
    return predictors.flatMap((x) => {
      const effect = B[y * v + x]!;
      if (effect === 0) return [];
      const variance = E[x * v + x]!;
      const spread = Math.sqrt(1 - effect * effect * variance);
      const column = ordered.staged.columns[y] as OrderedColumn;
      const limits = topLimits(fitted, ordered, own.at(-1)!, { x, y }, level);
      return [
        {
          outcome,
          predictor: spec.observed[x]!,
          levels: column.levels,
          at: PROBES.map((sds, k) => ({
            sds,
            shares: levelShares(
              own.map((t) => t.estimate),
              sds * effect * Math.sqrt(variance),
              spread,
            ),
            topLower: limits[k]!.lower,
            topUpper: limits[k]!.upper,
          })),
        },
      ];
    });
  });
}

function topLimits(
  { implied, theta, errors }: FittedModel,
  { q }: OrderedModel,
  top: Threshold,
  { x, y }: { x: number; y: number },
  level: number,
): { lower: number | null; upper: number | null }[] {
  const covariance = errors.by.robust;
  const total = theta.length;
  const none = PROBES.map(() => ({ lower: null, upper: null }));
  if (!covariance) return none;
  const moments = implied[0]!;
  const { v } = moments;
  const size = total + 1;
  const point = Float64Array.from([...theta, top.estimate]);
  const functions = differentiated(
    (at) => {
      moments.at(at);
      const effect = moments.B[y * v + x]!;
      const variance = moments.E[x * v + x]!;
      return Float64Array.from(
        PROBES,
        (sds) =>
          (sds * effect * Math.sqrt(variance) - at[total]!) /
          Math.sqrt(1 - effect * effect * variance),
      );
    },
    point,
    Float64Array.from([...standardErrors(covariance, total), top.se]),
  );
  moments.at(theta);
  const joint = new Float64Array(size * size);
  for (let a = 0; a < total; a++) {
    for (let b = 0; b < total; b++) joint[a * size + b] = covariance[a * total + b]!;
    if (a < q) joint[a * size + total] = joint[total * size + a] = top.withParameters[a]!;
  }
  joint[size * size - 1] = top.se * top.se;
  const critical = zQuantile((1 + level) / 2);
  return PROBES.map((_, f) => {
    let square = 0;
    for (let a = 0; a < size; a++)
      for (let b = 0; b < size; b++)
        square +=
          functions.jacobian[f * size + a]! *
          joint[a * size + b]! *
          functions.jacobian[f * size + b]!;
    const se = Math.sqrt(square);
    const value = functions.values[f]!;
    return { lower: Phi(value - critical * se), upper: Phi(value + critical * se) };
  });
}
