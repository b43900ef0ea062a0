import { compileExpression, gradient, isLinear, parametersOf, type Expression, type Quantity } from "../effects";
import { linearTest, withoutCrossBlocks, type CoefficientTest, type JointCovariance } from "../estimators/least-squares";
import {
  monteCarloIntervals,
  normalTest,
  Resampler,
  strataOf,
  type MonteCarloInterval,
  type NormalTest,
  type ReplicateBlock,
} from "../inference";
import type { Prepared } from "../prepare";
import type { CovarianceKind } from "../study";
import { evaluateReplicates } from "./replicates";

/** Covariances with the blocks between equations as the settings want them, by kind; made when they are first asked for. */
export function chosenJoint(prepared: Prepared): JointCovariance {
  const joint = prepared.covariances[prepared.errors];
  return prepared.study.settings.crossEquations === "zero" ? withoutCrossBlocks(joint, prepared.fits) : joint;
}

/** The one equation whose coefficients an expression is a linear function of, and their weights; null where it is more than that. */
export function linearIn(prepared: Prepared, expression: Expression): { g: number; weights: Float64Array } | null {
  const { layout, fits, theta, design } = prepared;
  // Where every variable is a z-score, SDs enter every coefficient, and t limits would take them as known.
  if (design.standardised) return null;
  const used = [...parametersOf(expression)];
  if (used.some((i) => i >= layout.coefficients && i < layout.firstAverage)) return null;
  const coefficients = used.filter((i) => i < layout.coefficients);
  const owners = new Set(coefficients.map((i) => layout.starts.findLastIndex((start) => start <= i)));
  if (owners.size !== 1 || !isLinear(expression, (i) => i < layout.coefficients)) return null;
  const [g] = [...owners] as [number];
  const start = layout.starts[g]!;
  return { g, weights: gradient(expression, theta).slice(start, start + fits[g]!.p) };
}

/** The t test of a quantity that is a linear function of one equation's coefficients; null for any other. */
export function linearTestOf(prepared: Prepared, { expression }: Quantity, kind: CovarianceKind): CoefficientTest | null {
  const linear = linearIn(prepared, expression);
  if (!linear) return null;
  const { g, weights } = linear;
  return linearTest(
    prepared.fits[g]!,
    prepared.covariances[kind],
    prepared.layout.starts[g]!,
    kind,
    weights,
    prepared.study.settings.level,
  );
}

/** Does a quantity depend on standard deviations, whose sampling variation then counts? */
export const needsSds = ({ design, layout }: Prepared, { expression }: Quantity): boolean =>
  design.standardised || [...parametersOf(expression)].some((i) => i >= layout.coefficients && i < layout.firstAverage);

/**
 * Normal tests of quantities that depend on SDs, from leaving one case (or cluster) out at a time: the jackknife is the
 * delta method with the sampling variation of everything included, which limits that take SDs as known leave out (Yuan &
 * Chan 2011, Psychometrika 76; Jones & Waller 2013, Psychol Methods 18).
 * @param known leave-one-out values where they have been made already
 * @returns by position among the quantities; empty where rows are not known
 */
export function jackknifeTests(prepared: Prepared, level: number, known: ReplicateBlock | null): Map<number, NormalTest> {
  const { quantities, estimates, resampling, dataset } = prepared;
  const wanted = quantities.flatMap((q, i) => (needsSds(prepared, q) ? [i] : []));
  if (wanted.length === 0 || dataset.table.moments) return new Map();
  const block = known ?? new Resampler(resampling).jackknife();
  const { columns } = evaluateReplicates(
    wanted.map((i) => quantities[i]!),
    [block],
  );
  const strata = strataOf(resampling.scheme, prepared.sample.n);
  return new Map(
    wanted.flatMap((at, k) => {
      const variance = jackknifeVariance(columns[k]!, strata);
      return variance !== null && Number.isFinite(estimates[at]!) ? [[at, normalTest(estimates[at]!, variance, level)] as const] : [];
    }),
  );
}

/** (n - 1) / n times the squared deviations of the leave-one-out values, stratum by stratum; null where one is missing. */
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

/** Monte Carlo limits of every quantity that depends on coefficients alone; null where the covariance is not available. */
export function monteCarloOf(prepared: Prepared, level: number): (MonteCarloInterval | null)[] | null {
  const { settings } = prepared.study;
  const v = chosenJoint(prepared);
  if (!v.values.every(Number.isFinite)) return null;
  const functions = prepared.quantities.map((q) => (needsSds(prepared, q) ? null : compileExpression(q.expression)));
  return monteCarloIntervals(prepared.theta, v, functions, settings.monteCarloDraws, settings.seed, level);
}
