import {
  monteCarloIntervals,
  strataOf,
  type MonteCarloInterval,
  type ReplicateBlock,
} from "../inference";
import {
  compileExpression,
  equationOf,
  normalTest,
  parametersOf,
  withoutCrossBlocks,
  type Covariance,
  type NormalTest,
  type Quantity,
} from "../model";
import type { Prepared } from "../preparation";
import { resamplerOf } from "../preparation/replicate-maker";
import { evaluateReplicates } from "./replicates";

/**
 * The covariance that tests rest on, with the blocks between equations as the settings want them.
 */
export function chosenJoint({ fit, errors, study }: Prepared): Covariance {
  const joint = fit.covariances[errors];
  return study.settings.crossEquations === "zero"
    ? withoutCrossBlocks(joint, (at) => equationOf(fit.parameters, at))
    : joint;
}

/** Does a quantity depend on standard deviations, whose sampling variation then counts? */
export const needsSds = ({ fit }: Prepared, { expression }: Quantity): boolean =>
  fit.standardised ||
  [...parametersOf(expression)].some(
    (i) => fit.parameters.roles[i] === "sd" && i >= fit.parameters.covered,
  );

/**
 * Normal tests of quantities that depend on SDs, from leaving one case (or cluster) out at a time:
 * the jackknife is the delta method with the sampling variation of everything included, which
 * limits that take SDs as known leave out (Yuan & Chan 2011, Psychometrika 76; Jones & Waller 2013,
 * Psychol Methods 18).
 * @param known leave-one-out values where they have been made already
 * @returns by position among the quantities; empty where rows are not known
 */
export function jackknifeTests(
  prepared: Prepared,
  level: number,
  known: ReplicateBlock | null,
): Map<number, NormalTest> {
  const { quantities, estimates, resampling, dataset } = prepared;
  const wanted = quantities.flatMap((q, i) => (needsSds(prepared, q) ? [i] : []));
  if (wanted.length === 0 || dataset.table.moments) return new Map();
  const block = known ?? resamplerOf(resampling).jackknife();
  const { columns } = evaluateReplicates(
    wanted.map((i) => quantities[i]!),
    [block],
  );
  const strata = strataOf(resampling.scheme, prepared.sample.n);
  return new Map(
    wanted.flatMap((at, k) => {
      const variance = jackknifeVariance(columns[k]!, strata);
      return variance !== null && Number.isFinite(estimates[at]!)
        ? [[at, normalTest(estimates[at]!, variance, level)] as const]
        : [];
    }),
  );
}

/**
 * (n - 1) / n times the squared deviations of the leave-one-out values, stratum by stratum; null
 * where one is missing.
 */
function jackknifeVariance(values: Float64Array, strata: Int32Array | null): number | null {
  const groups = new Map<number, number[]>();
  for (let i = 0; i < values.length; i++) {
    if (!Number.isFinite(values[i]!)) return null;
    const key = strata ? strata[i]! : 0;
    const group = groups.get(key);
    if (group) group.push(values[i]!);
    else groups.set(key, [values[i]!]);
  }
  let variance = 0;
  for (const list of groups.values()) {
    const centre = list.reduce((sum, v) => sum + v, 0) / list.length;
    const squares = list.reduce((sum, v) => sum + (v - centre) ** 2, 0);
    variance += ((list.length - 1) / list.length) * squares;
  }
  return variance;
}

/** Monte Carlo limits of every quantity and of every coefficient. */
export interface DrawnLimits {
  quantities: (MonteCarloInterval | null)[];
  coefficients: (MonteCarloInterval | null)[];
}

/**
 * Draws depend on nothing but the estimates and the seed, so those of an analysis are made once.
 */
const drawnBefore = new WeakMap<Prepared, DrawnLimits | null>();

/**
 * Monte Carlo limits where they are the chosen interval, of everything that depends on coefficients
 * alone; null where they are not chosen, or the covariance is not available.
 */
export function drawnLimits(prepared: Prepared): DrawnLimits | null {
  const known = drawnBefore.get(prepared);
  if (known !== undefined) return known;
  const found = prepared.study.settings.interval === "monte_carlo" ? draw(prepared) : null;
  drawnBefore.set(prepared, found);
  return found;
}

/** Those of the coefficients; null where there are none. */
export const drawnCoefficients = (prepared: Prepared): DrawnLimits["coefficients"] | null =>
  drawnLimits(prepared)?.coefficients ?? null;

function draw(prepared: Prepared): DrawnLimits | null {
  const { fit, quantities, theta } = prepared;
  const { monteCarloDraws, seed, level } = prepared.study.settings;
  const v = fit.drawing?.covariance ?? chosenJoint(prepared);
  if (!v.values.every(Number.isFinite)) return null;
  // Coefficients have tests of their own; only where others follow from them are their draws of
  // use.
  const coefficients = fit.drawing ? fit.coefficients : [];
  const functions = [...quantities, ...coefficients].map((q) =>
    needsSds(prepared, q) ? null : compileExpression(q.expression),
  );
  const follow = fit.drawing?.follow.bind(fit.drawing);
  const all = monteCarloIntervals(theta, v, functions, monteCarloDraws, seed, level, follow);
  return {
    quantities: all.slice(0, quantities.length),
    coefficients: all.slice(quantities.length),
  };
}
