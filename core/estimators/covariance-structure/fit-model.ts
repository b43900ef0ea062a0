import { RandomStream, streamIndex } from "../../numerics/random";
import { compileGroups, ModelFault, type ArrowModel } from "./arrows";
import { fitOf } from "./model-fit";
import { informationRank } from "./identification";
import { covariancesOf } from "./error-matrices";
import type { WeightedModel } from "./estimated";
import type { FittedModel } from "./fitted-model";
import { MomentObjective, momentVector } from "./moment-objective";
import { fourthMoments, momentWeight } from "./moment-weights";
import { NormalLikelihood, type Objective } from "./normal-likelihood";
import { fitOrdered } from "./ordered/fit-ordered";
import { prepareSample, type PreparedSample } from "./prepared-sample";
import { CONVERGED, fisherScoring, inverseOf, type ScoringResult } from "./scoring";
import type { Specification, StructureSample } from "./specification";
import { startValues } from "./start-values";

export type { FittedModel } from "./fitted-model";

/** The estimates that everything else rests on are found to the last digit. */
const AS_FAR_AS_IT_GOES = 1e-20;
/** Steps from the estimates of two stages, and from within rounding of the maximum. */
const NEAR_STEPS = 15;
const LAST_STEPS = 3;
/** What a step leaves of the criterion at most, as it comes in. */
const CONTRACTS = 0.1;

/** Number of means, variances and covariances that a model is fitted to. */
export const momentCount = (p: number, means: boolean, groups: number): number =>
  groups * ((p * (p + 1)) / 2 + (means ? p : 0));

/**
 * Fits a model and says everything about it that does not need resampling.
 * @throws ModelFault with a code that says why there is no estimate
 */
export function fitModel(stated: Specification, data: StructureSample): FittedModel {
  if (stated.ordered && stated.ordered.length > 0) return fitOrdered(stated, data);
  const compiled = compile(stated);
  const sample = prepareSample(stated, compiled, data);
  // What is observed of a case depends on means, so with values missing they are part of the model,
  // and its likelihood is that of the cases, whatever divisor covariances have elsewhere.
  if (sample.missing && (!stated.means || stated.convention === "wishart"))
    return fitModel({ ...stated, means: true, convention: "normal" }, data);
  const spec = stated;
  const models = compiled;
  const p = spec.observed.length;
  const parameters = models[0]!.parameters.length;
  const apart = sample.groups.reduce((sum, g) => sum + g.apart.length, 0);
  const moments = momentCount(p, spec.means, spec.groups.length) - apart;
  if (parameters > moments)
    throw new ModelFault(
      "negative-df",
      `There are more free parameters (${parameters}) than moments (${moments}).`,
      [],
      { parameters, moments },
    );
  const likelihood = new NormalLikelihood(
    models,
    sample.groups.map((g) => ({ patterns: g.moments })),
  );
  const begin = sample.groups.map((g) => g.saturated);
  const start = startValues(models, begin);
  const { rank, involved } = informationRank(likelihood, models, begin, start);
  if (rank < parameters)
    throw new ModelFault(
      "under-identified",
      `The data cannot tell the parameters apart: rank ${rank} of ${parameters}; involved: ${involved.join(", ")}.`,
      involved,
      { rank, parameters },
    );
  const weighted = spec.estimator === "ml" ? null : weightedModel(spec, models, sample, data);
  const objective: Objective = weighted?.objective ?? likelihood;
  const { end, theta, iterations } =
    sample.missing && !weighted
      ? withGaps(likelihood, models, sample, start)
      : bestOf(objective, models, start, AS_FAR_AS_IT_GOES);
  if (end !== "converged")
    throw new ModelFault("not-converged", "The estimates did not converge.", []);
  objective.valueAt(theta);
  objective.derivatives();
  const base = {
    spec,
    models,
    sample,
    n: sample.groups.reduce((sum, g) => sum + g.n, 0),
    moments,
    parameters,
    theta,
    implied: weighted ? weighted.objective.implied : likelihood.implied,
    likelihood: weighted ? null : likelihood,
    weighted,
    iterations,
  };
  const errors = covariancesOf(base, !data.momentsOnly);
  return { ...base, errors, fit: fitOf(base, errors, !data.momentsOnly) };
}

/** Starts that are tried where factors share most of their items, and how far they lie apart. */
const STARTS = 8;
const APART = 0.5;
const ANY_SEED = 1;

/**
 * Fisher scoring; where factors share most of their items, from several starts, of which the
 * highest counts: such models begin on a ridge between factors that are alike, and may have several
 * maxima.
 */
function bestOf(
  objective: Objective,
  models: readonly ArrowModel[],
  start: Float64Array,
  close: number,
): ScoringResult {
  const first = fisherScoring(objective, start, { close });
  if (!shareItems(models[0]!)) return first;
  const stream = new RandomStream(ANY_SEED, streamIndex("moments", 1));
  let best = first;
  let highest = first.end === "converged" ? objective.valueAt(first.theta) : -Infinity;
  for (let k = 1; k < STARTS; k++) {
    const moved = start.map((x) => x * (1 + APART * stream.normal()));
    if (objective.valueAt(moved) === -Infinity) continue;
    const found = fisherScoring(objective, moved, { close });
    const value = found.end === "converged" ? objective.valueAt(found.theta) : -Infinity;
    if (value > highest) [best, highest] = [found, value];
  }
  return best;
}

/** Do at least half of the items measure more than one factor? */
function shareItems({ slots, observed }: ArrowModel): boolean {
  const loadings = new Map<number, number>();
  for (const s of slots)
    if (s.matrix === "A" && s.row < observed && s.column >= observed)
      loadings.set(s.row, (loadings.get(s.row) ?? 0) + 1);
  const double = [...loadings.values()].filter((count) => count > 1).length;
  return double > 0 && double >= loadings.size / 2;
}

/**
 * Where values are missing, the estimates for the sample's moments by EM as if nothing were: they
 * cost one pattern instead of many and lie near the maximum (two-stage estimates, Savalei & Bentler
 * 2009).
 * @returns null where they do not converge
 */
function twoStage(
  models: readonly ArrowModel[],
  sample: PreparedSample,
  start: Float64Array,
): Float64Array | null {
  const stage = new NormalLikelihood(
    models,
    sample.groups.map(({ n, saturated }) => ({
      patterns: [{ n, indices: Int32Array.from(saturated.means, (_, i) => i), ...saturated }],
    })),
  );
  const { end, theta } = fisherScoring(stage, start);
  return end === "converged" ? theta : null;
}

/**
 * With values missing a step of scoring costs much and gains little. Estimates of two stages lie so
 * near that steps by the observed information there come in; where they do not, scoring goes the
 * whole way, and such steps find the last digits.
 */
function withGaps(
  likelihood: NormalLikelihood,
  models: readonly ArrowModel[],
  sample: PreparedSample,
  start: Float64Array,
): ScoringResult {
  // Several maxima are looked for from several starts.
  const near = shareItems(models[0]!) ? null : twoStage(models, sample, start);
  const steps = near && comeIn(likelihood, near, NEAR_STEPS);
  if (near && steps !== null) return { end: "converged", theta: near, iterations: steps };
  const found = bestOf(likelihood, models, start, CONVERGED);
  const theta = Float64Array.from(found.theta);
  const better = found.end === "converged" && comeIn(likelihood, theta, LAST_STEPS) !== null;
  return better ? { ...found, theta } : found;
}

/**
 * Steps by the observed information of where they begin, in place, as long as each leaves less than
 * a tenth of the criterion before it.
 * @returns how many, or null where they do not come in: `theta` is then no estimate
 */
function comeIn(likelihood: NormalLikelihood, theta: Float64Array, most: number): number | null {
  const { q, n, score } = likelihood;
  if (likelihood.valueAt(theta) === -Infinity) return null;
  likelihood.caseDerivatives();
  const inverse = inverseOf(likelihood.observedInformation(), q);
  if (!inverse) return null;
  const before = Float64Array.from(theta);
  let last = Infinity;
  for (let step = 0; step < most; step++) {
    const move = Float64Array.from(score, (_, a) => {
      let sum = 0;
      for (let b = 0; b < q; b++) sum += inverse[a * q + b]! * score[b]!;
      return sum;
    });
    const criterion = move.reduce((sum, m, a) => sum + m * score[a]!, 0) / n;
    if (!(criterion < CONTRACTS * last)) {
      if (!(last < CONVERGED)) return null;
      // Only rounding error is left to gain.
      if (criterion > last) theta.set(before);
      return step;
    }
    before.set(theta);
    for (let a = 0; a < q; a++) theta[a] = theta[a]! + move[a]!;
    last = criterion;
    if (likelihood.valueAt(theta) === -Infinity) return null;
    likelihood.slope();
  }
  return last < CONVERGED ? most : null;
}

function compile({ observed, latent, groups, means }: Specification): ArrowModel[] {
  return compileGroups(
    observed,
    latent,
    groups.map(({ arrows }) => (means ? arrows : arrows.filter((a) => a.kind !== "intercept"))),
  );
}

/** @throws ModelFault `adf-sample-too-small`, `needs-raw-data`, `bad-weight` */
function weightedModel(
  { estimator, observed, means }: Specification,
  models: readonly ArrowModel[],
  { groups, missing }: PreparedSample,
  { momentsOnly }: StructureSample,
): WeightedModel {
  const p = observed.length;
  const size = momentCount(p, means, 1);
  const byCases = estimator === "adf" || estimator === "dwls";
  if (momentsOnly && byCases)
    throw new ModelFault("needs-raw-data", "A weight by fourth moments", []);
  if (missing) throw new ModelFault("needs-raw-data", "This estimator with values missing", []);
  const made = groups.map((group) => {
    if (estimator === "adf" && group.n <= size)
      throw new ModelFault(
        "adf-sample-too-small",
        `Full weights of ${size} moments need more than ${size} cases, not ${group.n}.`,
        [],
        { n: group.n, moments: size },
      );
    const [own] = group.moments;
    const gamma = momentsOnly ? null : fourthMoments(group.columns, means);
    const weight = momentWeight(
      estimator as Exclude<typeof estimator, "ml">,
      own!.covariance,
      p,
      means,
      gamma,
    );
    if (!weight)
      throw new ModelFault("bad-weight", "The weight matrix cannot be inverted.", [...observed]);
    const moments = momentVector(means ? own!.means : null, own!.covariance, p);
    return { n: own!.n, moments, weight, gamma };
  });
  return { objective: new MomentObjective(models, made, means), groups: made };
}
