import { ModelFault, type Arrow, type ArrowModel } from "./arrows";
import { informationCriteria, type InformationCriteria } from "./fit-measures";
import { fitModel, type FittedModel } from "./fit-model";
import { MixtureLikelihood, type LatentProduct } from "./mixture";
import { inverseOf } from "./scoring";
import { sandwich } from "./sandwich";
import type { Specification, StructureSample } from "./specification";

/** An effect of `x` on `to` that changes with the latent variable `w`. */
export interface LatentInteraction {
  x: string;
  w: string;
  to: string;
  label: string;
}

/** A model with latent interactions, fitted by full-information maximum likelihood. */
export interface ModeratedFit {
  /** The same without interactions: what is compared with, and where fitting begins. */
  linear: FittedModel;
  model: ArrowModel;
  interactions: LatentInteraction[];
  likelihood: MixtureLikelihood;
  theta: Float64Array;
  logLikelihood: number;
  criteria: Omit<InformationCriteria, "saturated" | "baseline">;
  /**
   * From the observed information, by differences of the analytic slope; null where that is
   * singular.
   */
  observed: Float64Array | null;
  robust: Float64Array | null;
  points: number;
}

/** Points of integration on each side at first; doubled until the likelihood stays. */
const POINTS = 32;
const MOST_POINTS = 512;
const SETTLED = 1e-8;
const MOST_STEPS = 400;
/** The criterion g' H g / n of the quasi-Newton climb, and of the Newton steps after it. */
const CLIMBED = 1e-9;
const CONVERGED = 1e-16;

/**
 * Full-information maximum likelihood with latent interactions (Klein & Moosbrugger 2000).
 * @throws ModelFault as `fitModel`; `not-converged`
 */
export function fitModerated(
  spec: Specification,
  interactions: readonly LatentInteraction[],
  data: StructureSample,
): ModeratedFit {
  const linear = fitModel({ ...spec, means: true, estimator: "ml", convention: "normal" }, data);
  const arrows = spec.groups[0]!.arrows;
  const model = withProducts(linear.models[0]!, interactions);
  const w = model.variables.indexOf(interactions[0]!.w);
  const products = interactions.map(({ x, to, label }): LatentProduct => ({
    x: model.variables.indexOf(x),
    to: model.variables.indexOf(to),
    parameter: model.parameters.indexOf(label),
  }));
  checkModerator(arrows, interactions);
  const group = linear.sample.groups[0]!;
  const make = (points: number): MixtureLikelihood =>
    new MixtureLikelihood(model, w, products, group, points);
  let points = POINTS;
  let likelihood = make(points);
  let theta = climb(
    likelihood,
    startOf(linear, likelihood.q, products),
    inverseStart(linear, likelihood.q, products),
  );
  let value = likelihood.valueAt(theta);
  for (;;) {
    const finer = make(points * 2);
    const again = finer.valueAt(theta);
    if (Math.abs(again - value) < SETTLED || points >= MOST_POINTS) break;
    points *= 2;
    likelihood = finer;
    theta = climb(likelihood, theta, inverseStart(linear, likelihood.q, products));
    value = likelihood.valueAt(theta);
  }
  const scales = scalesOf(linear, likelihood.q, products);
  let curve = curvature(likelihood, theta, scales);
  let observed = inverseOf(curve.information, likelihood.q);
  for (let step = 0; observed && step < 6; step++) {
    likelihood.at(theta);
    const move = times(observed, likelihood.score);
    const left = dot(move, likelihood.score) / likelihood.n;
    theta = theta.map((x, a) => x + move[a]!);
    if (Math.abs(left) < CONVERGED) break;
    if (step === 2) {
      curve = curvature(likelihood, theta, scales);
      observed = inverseOf(curve.information, likelihood.q);
    }
  }
  value = likelihood.valueAt(theta);
  const { logLikelihood, aic, bic, sabic } = informationCriteria(
    value,
    0,
    0,
    likelihood.q,
    likelihood.n,
  );
  return {
    linear,
    model,
    interactions: [...interactions],
    likelihood,
    theta,
    logLikelihood,
    criteria: { logLikelihood, aic, bic, sabic },
    observed,
    robust: observed && sandwich(observed, curve.scores, likelihood.q),
    points,
  };
}

function withProducts(linear: ArrowModel, interactions: readonly LatentInteraction[]): ArrowModel {
  return { ...linear, parameters: [...linear.parameters, ...interactions.map((i) => i.label)] };
}

/** @throws ModelFault where the moderator is explained by something, or there is more than one */
function checkModerator(
  arrows: readonly Arrow[],
  interactions: readonly LatentInteraction[],
): void {
  const [first] = interactions;
  const others = interactions.filter((i) => i.w !== first!.w);
  const explained = arrows.some((a) => a.kind === "path" && a.to === first!.w);
  if (others.length > 0 || explained)
    throw new ModelFault(
      "under-identified",
      explained
        ? `“${first!.w}” is explained by other variables; full information needs a moderator that nothing explains.`
        : "Full information integrates over one moderator; there are several.",
      [first!.w, ...others.map((i) => i.w)],
    );
}

const startOf = (
  linear: FittedModel,
  q: number,
  products: readonly LatentProduct[],
): Float64Array => {
  const theta = new Float64Array(q);
  theta.set(linear.theta);
  for (const { parameter } of products) theta[parameter] = 0;
  return theta;
};

/** Standard errors of the linear model, and for products what follows from SDs. */
function scalesOf(
  linear: FittedModel,
  q: number,
  products: readonly LatentProduct[],
): Float64Array {
  const scales = new Float64Array(q);
  const covariance = linear.errors.by.expected!;
  const own = linear.theta.length;
  for (let a = 0; a < own; a++) scales[a] = Math.sqrt(covariance[a * own + a]!);
  const { E, v } = linear.implied[0]!;
  for (const { x, to, parameter } of products)
    scales[parameter] = Math.sqrt(
      E[to * v + to]! / (E[x * v + x]! * Math.max(E[x * v + x]!, 1e-12) * linear.n),
    );
  return scales;
}

function inverseStart(
  linear: FittedModel,
  q: number,
  products: readonly LatentProduct[],
): Float64Array {
  const H = new Float64Array(q * q);
  const own = linear.theta.length;
  const covariance = linear.errors.by.expected!;
  for (let a = 0; a < own; a++)
    for (let b = 0; b < own; b++) H[a * q + b] = covariance[a * own + b]!;
  const scales = scalesOf(linear, q, products);
  for (const { parameter } of products)
    H[parameter * q + parameter] = scales[parameter]! * scales[parameter]!;
  return H;
}

/** Quasi-Newton ascent (BFGS) with step halving from an inverse information. */
function climb(
  likelihood: MixtureLikelihood,
  start: Float64Array,
  inverse?: Float64Array,
): Float64Array {
  const { q, n } = likelihood;
  let theta = start.slice();
  let value = likelihood.at(theta);
  let slope = likelihood.score.slice();
  const H = inverse ? inverse.slice() : firstInverse(likelihood, slope);
  for (let step = 0; step < MOST_STEPS; step++) {
    const direction = times(H, slope);
    const gain = dot(direction, slope);
    if (gain / n < CLIMBED) return theta;
    let share = 1;
    let next = theta;
    let better = -Infinity;
    for (let halving = 0; halving < 30; halving++, share /= 2) {
      next = theta.map((x, a) => x + share * direction[a]!);
      better = likelihood.valueAt(next);
      if (better > value + 1e-4 * share * gain) break;
    }
    if (!(better > value)) {
      if (gain / n < 1e-6) return theta;
      break;
    }
    value = likelihood.at(next);
    const moved = next.map((x, a) => x - theta[a]!);
    const turned = slope.map((g, a) => g - likelihood.score[a]!);
    update(H, moved, turned, q);
    theta = next;
    slope = likelihood.score.slice();
  }
  throw new ModelFault("not-converged", "The estimates did not converge.", []);
}

function firstInverse(likelihood: MixtureLikelihood, slope: Float64Array): Float64Array {
  const { q } = likelihood;
  const H = new Float64Array(q * q);
  for (let a = 0; a < q; a++) H[a * q + a] = 1 / Math.max(1, Math.abs(slope[a]!));
  return H;
}

/** The BFGS update of an inverse information. */
function update(H: Float64Array, s: Float64Array, y: Float64Array, q: number): void {
  const sy = dot(s, y);
  if (!(sy > 0)) return;
  const Hy = times(H, y);
  const yHy = dot(y, Hy);
  for (let a = 0; a < q; a++)
    for (let b = 0; b < q; b++)
      H[a * q + b] =
        H[a * q + b]! +
        ((1 + yHy / sy) * s[a]! * s[b]!) / sy -
        (Hy[a]! * s[b]! + s[a]! * Hy[b]!) / sy;
}

/**
 * Steps of differences, as a share of standard errors: their error is of the order of its square.
 */
const STEP = 0.002;

/**
 * Observed information by central differences of the slope, and cross-products of case scores by
 * those of case likelihoods.
 */
function curvature(
  likelihood: MixtureLikelihood,
  theta: Float64Array,
  scales: Float64Array,
): { information: Float64Array; scores: Float64Array } {
  const { q } = likelihood;
  const information = new Float64Array(q * q);
  const perCase: Float64Array[] = [];
  const moved = theta.slice();
  for (let a = 0; a < q; a++) {
    const h = STEP * (scales[a]! || 1);
    const look = (steps: number): { slope: Float64Array; cases: Float64Array } => {
      moved[a] = theta[a]! + steps * h;
      likelihood.at(moved);
      return { slope: likelihood.score.slice(), cases: likelihood.cases.slice() };
    };
    const [left, right] = [look(-1), look(1)];
    moved[a] = theta[a]!;
    for (let b = 0; b < q; b++)
      information[b * q + a] = (left.slope[b]! - right.slope[b]!) / (2 * h);
    perCase.push(right.cases.map((value, i) => (value - left.cases[i]!) / (2 * h)));
  }
  for (let a = 0; a < q; a++)
    for (let b = 0; b < a; b++) {
      const middle = (information[a * q + b]! + information[b * q + a]!) / 2;
      information[a * q + b] = information[b * q + a] = middle;
    }
  const scores = new Float64Array(q * q);
  for (let a = 0; a < q; a++)
    for (let b = 0; b <= a; b++)
      scores[a * q + b] = scores[b * q + a] = dot(perCase[a]!, perCase[b]!);
  return { information, scores };
}

const times = (matrix: Float64Array, x: Float64Array): Float64Array => {
  const q = x.length;
  const out = new Float64Array(q);
  for (let a = 0; a < q; a++) {
    let sum = 0;
    for (let b = 0; b < q; b++) sum += matrix[a * q + b]! * x[b]!;
    out[a] = sum;
  }
  return out;
};

const dot = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
};
