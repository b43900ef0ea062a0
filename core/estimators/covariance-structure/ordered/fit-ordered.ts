import { chiSquaredP } from "../../../numerics/distributions";
import type { StagedStatistics } from "../../../ordered";
import { compileGroups, ModelFault, type ArrowModel } from "../arrows";
import type { ErrorMatrices } from "../error-matrices";
import type { FittedModel } from "../fitted-model";
import { comparativeFit, scaledFit } from "../fit-measures";
import { informationRank } from "../identification";
import type { ModelFit } from "../model-fit";
import { inner, times } from "../moment-objective";
import { NormalLikelihood } from "../normal-likelihood";
import { sandwich } from "../sandwich";
import { fisherScoring, inverseOf } from "../scoring";
import type { Estimator, Specification, StructureSample } from "../specification";
import { startValues } from "../start-values";
import { DependentObjective } from "./dependent-objective";
import { baselineOf, shiftedFit, tracesOf } from "./shifted-fit";
import { stagedSample } from "./staged-sample";
import type { OrderedModel } from "./ordered-model";
import { stagedMoments, type StagedMoments } from "./weights";

const AS_FAR_AS_IT_GOES = 1e-20;

/** Of estimators those that ordered answers have: the usual one for those that need numbers. */
export const orderedEstimator = (estimator: Estimator): Estimator =>
  estimator === "uls" || estimator === "adf" ? estimator : "dwls";

/**
 * A model in which some variables are ordered answers: what stands behind them, y*, follows the
 * arrows, with variance one and mean zero; thresholds are free (Muthen 1984, Psychometrika 49).
 * Fitted to thresholds, polychoric and polyserial correlations and the moments of numbers by
 * weighted least squares; robust errors; the statistic scaled and shifted.
 * @throws ModelFault with a code that says why there is no estimate
 */
export function fitOrdered(stated: Specification, data: StructureSample): FittedModel {
  const names = new Set(stated.ordered);
  if (data.momentsOnly) throw new ModelFault("needs-raw-data", "An ordered variable", []);
  if (stated.groups.length > 1)
    throw new ModelFault("ordered-groups", "Groups with ordered answers", []);
  const spec: Specification = {
    ...stated,
    means: true,
    convention: "normal",
    estimator: orderedEstimator(stated.estimator),
  };
  const { staged, sample } = stagedSample(spec, names, data);
  const { model, dependents } = dependentModel(spec, names);
  const total = model.parameters.length;
  const q = total - dependents.length;
  const group = stagedMoments(staged, spec.estimator, spec.observed);
  const moments = group.counted.reduce((sum, known) => sum + known, 0);
  if (q > moments)
    throw new ModelFault("negative-df", "More parameters than statistics.", [], {
      parameters: q + group.statistics.size - moments,
      moments: group.statistics.size,
    });
  const begin = [sample.groups[0]!.saturated];
  const start = startValues([model], begin);
  const likelihood = new NormalLikelihood([model], [{ patterns: sample.groups[0]!.moments }]);
  const { rank, involved } = informationRank(likelihood, [model], begin, start);
  if (rank < total)
    throw new ModelFault("under-identified", "Parameters cannot be told apart.", involved, {
      rank,
      parameters: total,
    });
  const objective = new DependentObjective(model, group, dependents);
  const found = fisherScoring(objective, start.slice(0, q), { close: AS_FAR_AS_IT_GOES });
  if (found.end !== "converged")
    throw new ModelFault("not-converged", "The estimates did not converge.", []);
  objective.valueAt(found.theta);
  objective.derivatives();
  const theta = objective.completed(found.theta).slice();
  objective.valueAt(found.theta);
  const ordered: OrderedModel = { names, staged, group, objective, q };
  return {
    spec,
    models: [model],
    sample,
    n: staged.n,
    moments,
    parameters: q,
    theta,
    implied: objective.implied,
    likelihood: null,
    weighted: { objective, groups: [group] },
    iterations: found.iterations,
    errors: errorsOf(ordered),
    fit: fitOf(ordered, spec, found.theta, moments),
    ordered,
  };
}

/**
 * The arrows with the residual variances of ordered variables as the last parameters, and without
 * intercepts of theirs.
 */
function dependentModel(
  { observed, latent, groups }: Specification,
  names: ReadonlySet<string>,
): { model: ArrowModel; dependents: number[] } {
  const { arrows } = groups[0]!;
  const isDependent = ({ kind, from, to }: (typeof arrows)[number]): boolean =>
    kind === "covariance" && from === to && names.has(to);
  const others = arrows.filter(
    (a) => !isDependent(a) && !(a.kind === "intercept" && names.has(a.to)),
  );
  const own = arrows.filter(isDependent);
  const held = own.find((a) => a.label === null || others.some((o) => o.label === a.label));
  if (held)
    throw new ModelFault("held-dependent", `The residual variance of “${held.to}”`, [held.to]);
  const [model] = compileGroups(observed, latent, [[...others, ...own]]);
  return { model: model!, dependents: own.map((a) => observed.indexOf(a.to)) };
}

function errorsOf({ objective, group }: OrderedModel): ErrorMatrices {
  const { q } = objective;
  const bread = inverseOf(objective.information, q);
  const left = objective.jacobian(0).map((column) => column && times(group.weight, column));
  const right = left.map((column) => column && times(group.gamma, column));
  const meat = new Float64Array(q * q);
  left.forEach((one, a) =>
    right.forEach((two, b) => {
      if (one && two) meat[a * q + b] = group.n * inner(one, two);
    }),
  );
  return {
    by: {
      expected: null,
      observed: null,
      naive: null,
      normal_theory: null,
      robust_expected: null,
      robust: bread && objective.spread(sandwich(bread, meat, q)),
    },
    observedInformation: null,
    scores: null,
    fourth: null,
    weightedMeat: meat,
    bread,
  };
}

function fitOf(
  { objective, group, staged }: OrderedModel,
  { estimator }: Specification,
  theta: Float64Array,
  moments: number,
): ModelFit {
  const p = staged.columns.length;
  const size = { n: staged.n, groups: 1 };
  const own = { chi2: Math.max(0, -2 * objective.valueAt(theta)), df: moments - objective.q };
  const baseline = baselineOf(group, p, estimator === "adf");
  const traces = tracesOf(group, objective.jacobian(0));
  const known = baseline !== null && traces !== null;
  const srmr = standardisedResidual(objective, group, staged);
  return {
    discrepancy: own.chi2 / staged.n,
    plain: comparativeFit(own, baseline?.statistic ?? { chi2: NaN, df: (p * (p - 1)) / 2 }, size),
    chiSquared: estimator === "adf",
    srmr,
    srmrCovariances: srmr,
    criteria: null,
    satorraBentler: null,
    yuanBentler: null,
    scaled:
      known && own.df > 0
        ? scaledFit(
            own,
            baseline.statistic,
            traces.first / own.df,
            baseline.traces.first / baseline.statistic.df,
            size,
          )
        : null,
    shifted: known ? shiftedFit(own, traces, baseline, size, chiSquaredP) : null,
  };
}

/** Of correlations and covariances, and variances of numbers; thresholds and means fit by themselves. */
function standardisedResidual(
  { implied }: DependentObjective,
  { counted }: StagedMoments,
  { covariance, columns }: StagedStatistics,
): number {
  const p = columns.length;
  const { Sigma } = implied[0]!;
  let sum = 0;
  let count = 0;
  for (let j = 0, at = p; j < p; j++)
    for (let i = j; i < p; i++, at++) {
      if (!counted[at]) continue;
      count += 1;
      const difference = covariance[i * p + j]! - Sigma[i * p + j]!;
      sum += (difference * difference) / (covariance[i * p + i]! * covariance[j * p + j]!);
    }
  return Math.sqrt(sum / count);
}
