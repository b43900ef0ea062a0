import { EigenvalueDecomposition, Matrix } from "ml-matrix";
import { RandomStream, streamIndex } from "../../numerics/random";
import type { FittedModel } from "./fit-model";
import { NormalLikelihood } from "./normal-likelihood";
import { withoutFreeMeans } from "./profiled";
import { WarmRefit } from "./quasi-newton";
import { fisherScoring } from "./scoring";
import { sampleMoments, saturatedLogLikelihood } from "./sample-moments";

/** The test of exact fit by resampling data that have been made to fit. */
export interface BollenStine {
  p: number;
  replicates: number;
  failed: number;
  meanChi2: number;
  /** The statistics of the first resamples, for comparison elsewhere. */
  first: number[];
}

const FIRST = 5;

/**
 * Bollen & Stine (1992, Sociol Methods Res 21): the data are turned so that the model holds in them
 * exactly, Y* = (Y - ybar) S^-1/2 Sigma^1/2 + mu with symmetric roots; p is the share of resamples
 * of them that fit no better than the sample does. One group, complete cases, maximum likelihood.
 * @param given resamples made elsewhere; drawn where null
 * @returns null where it does not apply, or where no resample converged
 */
export function bollenStine(
  fitted: FittedModel,
  count: number,
  seed: number,
  given: readonly Int32Array[] | null,
): BollenStine | null {
  const { spec, sample, fit } = fitted;
  if (spec.estimator !== "ml" || sample.missing || spec.groups.length > 1) return null;
  if (spec.convention !== "normal" || fit.plain.df === 0) return null;
  const columns = madeToFit(fitted);
  const refit = refitting(fitted, columns);
  const n = columns[0]!.length;
  const stream = new RandomStream();
  const weights = new Float64Array(n);
  const found: number[] = [];
  const total = given ? Math.min(count, given.length) : count;
  for (let r = 0; r < total; r++) {
    weights.fill(0);
    if (given) for (const row of given[r]!) weights[row] = weights[row]! + 1;
    else {
      stream.key(seed, streamIndex("bootstrap", r));
      stream.countDraws(weights, n, n);
    }
    const chi2 = refit(weights);
    if (chi2 !== null) found.push(chi2);
  }
  if (found.length === 0) return null;
  return {
    p: found.filter((x) => x >= fit.plain.chi2).length / found.length,
    replicates: total,
    failed: total - found.length,
    meanChi2: found.reduce((a, b) => a + b, 0) / found.length,
    first: found.slice(0, FIRST),
  };
}

/** The sample's columns turned so that the model holds in them exactly. */
function madeToFit({ spec, sample, implied }: FittedModel): Float64Array[] {
  const p = spec.observed.length;
  const { columns, moments } = sample.groups[0]!;
  const { covariance, means } = moments[0]!;
  const { Sigma, means: own } = implied[0]!;
  const turn = multiply(power(covariance, p, -0.5), power(Sigma, p, 0.5), p);
  const target = spec.means ? own : means;
  return Array.from({ length: p }, (_, j) =>
    columns[0]!.map((__, r) => {
      let sum = target[j]!;
      for (let i = 0; i < p; i++) sum += (columns[i]![r]! - means[i]!) * turn[i * p + j]!;
      return sum;
    }),
  );
}

/**
 * Refits the model on weighted rows of the turned data.
 * @returns a function that gives chi-squared, null without one
 */
function refitting(
  { spec, models, theta, errors }: FittedModel,
  columns: Float64Array[],
): (weights: Float64Array) => number | null {
  const profiled = spec.means ? withoutFreeMeans(models) : null;
  const kept = Array.from(profiled?.kept ?? theta.map((_, a) => a));
  const free = profiled !== null || !spec.means;
  const moments = sampleMoments(columns);
  const likelihood = new NormalLikelihood(profiled?.models ?? models, [{ patterns: [moments] }]);
  const start = Float64Array.from(kept, (a) => theta[a]!);
  const bread = errors.by.expected;
  const [n, q] = [moments.n, theta.length];
  const inverse =
    bread && Float64Array.from(kept.flatMap((a) => kept.map((b) => n * bread[a * q + b]!)));
  const warm = inverse && new WarmRefit(likelihood, start, inverse);
  return (weights) => {
    const rows: number[] = [];
    weights.forEach((w, row) => {
      for (let k = 0; k < w; k++) rows.push(row);
    });
    const drawn = sampleMoments(columns.map((c) => Float64Array.from(rows, (row) => c[row]!)));
    moments.n = drawn.n;
    moments.covariance.set(drawn.covariance);
    if (free) moments.means.fill(0);
    else moments.means.set(drawn.means);
    const at = warm?.fit() ? warm.theta : scored(likelihood, start);
    const chi2 = at && 2 * (saturatedLogLikelihood(drawn) - likelihood.valueAt(at));
    return chi2 !== null && Number.isFinite(chi2) ? Math.max(0, chi2) : null;
  };
}

function scored(likelihood: NormalLikelihood, start: Float64Array): Float64Array | null {
  const { end, theta } = fisherScoring(likelihood, start, { patient: false });
  return end === "converged" ? theta : null;
}

/** A power of a symmetric positive definite matrix. */
function power(matrix: Float64Array, p: number, exponent: -0.5 | 0.5): Float64Array {
  const dense = new Matrix(p, p);
  for (let i = 0; i < p; i++) for (let j = 0; j < p; j++) dense.set(i, j, matrix[i * p + j]!);
  const { realEigenvalues, eigenvectorMatrix: V } = new EigenvalueDecomposition(dense, {
    assumeSymmetric: true,
  });
  const out = new Float64Array(p * p);
  realEigenvalues.forEach((value, k) => {
    const root = exponent > 0 ? Math.sqrt(value) : 1 / Math.sqrt(value);
    for (let i = 0; i < p; i++)
      for (let j = 0; j < p; j++)
        out[i * p + j] = out[i * p + j]! + V.get(i, k) * root * V.get(j, k);
  });
  return out;
}

function multiply(a: Float64Array, b: Float64Array, p: number): Float64Array {
  const out = new Float64Array(p * p);
  for (let i = 0; i < p; i++)
    for (let k = 0; k < p; k++) {
      const value = a[i * p + k]!;
      for (let j = 0; j < p; j++) out[i * p + j] = out[i * p + j]! + value * b[k * p + j]!;
    }
  return out;
}
