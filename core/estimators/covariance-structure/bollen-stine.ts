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
 * Bollen & Stine (1992, Sociol Methods Res 21): the data are turned so that the model holds in them exactly,
 * Y* = (Y - ybar) S^-1/2 Sigma^1/2 + mu with symmetric roots; p is the share of resamples of them that fit no better than the
 * sample does. One group, complete cases, maximum likelihood.
 * @param given resamples made elsewhere; drawn where null
 * @returns null where it does not apply, or where no resample converged
 */
export function bollenStine(
  fitted: FittedModel,
  count: number,
  seed: number,
  given: readonly Int32Array[] | null,
): BollenStine | null {
  const { spec, sample, models, fit, theta } = fitted;
  if (spec.estimator !== "ml" || sample.missing || spec.groups.length > 1) return null;
  if (spec.convention !== "normal" || fit.plain.df === 0) return null;
  const [group] = sample.groups;
  const p = spec.observed.length;
  const { covariance, means } = group!.moments[0]!;
  const implied = fitted.implied[0]!;
  const turn = multiply(power(covariance, p, -0.5), power(implied.Sigma, p, 0.5), p);
  const target = spec.means ? implied.means.subarray(0, p) : means;
  const n = group!.columns[0]!.length;
  const columns = Array.from({ length: p }, () => new Float64Array(n));
  for (let r = 0; r < n; r++)
    for (let j = 0; j < p; j++) {
      let sum = target[j]!;
      for (let i = 0; i < p; i++) sum += (group!.columns[i]![r]! - means[i]!) * turn[i * p + j]!;
      columns[j]![r] = sum;
    }
  const profiled = spec.means ? withoutFreeMeans(models) : null;
  const kept = profiled?.kept ?? theta.map((_, a) => a);
  const free = profiled !== null || !spec.means;
  const moments = sampleMoments(columns);
  const likelihood = new NormalLikelihood(profiled?.models ?? models, [{ patterns: [moments] }]);
  const start = Float64Array.from(kept, (a) => theta[a]!);
  const bread = fitted.errors.by.expected;
  const q = theta.length;
  const warm =
    bread &&
    new WarmRefit(
      likelihood,
      start,
      Float64Array.from([...kept].flatMap((a) => [...kept].map((b) => n * bread[a * q + b]!))),
    );
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
    const rows = Int32Array.from(
      weights.reduce<number[]>((list, w, row) => {
        for (let k = 0; k < w; k++) list.push(row);
        return list;
      }, []),
    );
    const drawn = sampleMoments(columns.map((c) => Float64Array.from(rows, (row) => c[row]!)));
    moments.n = drawn.n;
    moments.covariance.set(drawn.covariance);
    if (free) moments.means.fill(0);
    else moments.means.set(drawn.means);
    const saturated = saturatedLogLikelihood(drawn);
    let value = NaN;
    if (warm?.fit()) value = likelihood.valueAt(warm.theta);
    else {
      const { end, theta: at } = fisherScoring(likelihood, start);
      if (end === "converged") value = likelihood.valueAt(at);
    }
    if (Number.isFinite(value) && Number.isFinite(saturated))
      found.push(Math.max(0, 2 * (saturated - value)));
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
