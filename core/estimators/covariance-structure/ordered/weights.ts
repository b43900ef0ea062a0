import {
  statisticCovariance,
  statisticPlaces,
  statisticVariances,
  type StagedStatistics,
  type StatisticPlace,
} from "../../../ordered";
import { ModelFault } from "../arrows";
import { momentVector, type WeightedMoments } from "../moment-objective";
import { inverseOf } from "../scoring";
import type { Estimator } from "../specification";

/** Statistics of two stages as moments with weights, in the places that all moments have. */
export interface StagedMoments extends WeightedMoments {
  /** Of the moments, times n; zero in places that are no statistics. */
  gamma: Float64Array;
  /** Which places are statistics: means and variances of numbers, and everything between two. */
  counted: Uint8Array;
  /** Of all statistics, thresholds first, in their own order. */
  statistics: { size: number; gamma: Float64Array; at: Int32Array };
}

/** Cases for each statistic below which full weights are not to be relied on. */
const CASES_PER_STATISTIC = 1.5;

/**
 * Where statistics stand among means and the lower triangle: thresholds, which all models fit,
 * nowhere.
 */
const placesOf = (places: readonly StatisticPlace[], p: number): Int32Array =>
  Int32Array.from(places, (place) =>
    place.kind === "threshold"
      ? -1
      : place.kind === "mean"
        ? place.variable
        : p + place.column * p - (place.column * (place.column - 1)) / 2 + place.row - place.column,
  );

/**
 * Weights of the statistics: the inverse diagonal of their covariance (DWLS), its inverse (WLS), or
 * one, variances of numbers one half (ULS). Thresholds are free in every model: with a diagonal
 * weight they touch nothing else, and with a full one what is left of it is the inverse of the
 * block of the others, so they take no part here.
 * @throws ModelFault `adf-sample-too-small`, `bad-weight`
 */
export function stagedMoments(
  staged: StagedStatistics,
  estimator: Estimator,
  names: readonly string[],
): StagedMoments {
  const p = staged.columns.length;
  const all = statisticPlaces(staged);
  const at = placesOf(all, p);
  const own = statisticCovariance(staged, all);
  const size = p + (p * (p + 1)) / 2;
  if (estimator === "adf" && staged.n < CASES_PER_STATISTIC * all.length)
    throw new ModelFault("adf-sample-too-small", "Full weights need more cases.", [], {
      n: staged.n,
      moments: all.length,
      least: Math.ceil(CASES_PER_STATISTIC * all.length),
    });
  const gamma = new Float64Array(size * size);
  const counted = new Uint8Array(size);
  at.forEach((i, a) => {
    if (i < 0) return;
    counted[i] = 1;
    at.forEach((j, b) => {
      if (j >= 0) gamma[i * size + j] = own[a * all.length + b]!;
    });
  });
  const weight = weightOf(estimator, gamma, counted, p);
  if (!weight)
    throw new ModelFault("bad-weight", "The weight matrix cannot be inverted.", [...names]);
  const moments = momentVector(new Float64Array(p), staged.covariance, p);
  return {
    n: staged.n,
    moments,
    weight,
    gamma,
    counted,
    statistics: { size: all.length, gamma: own, at },
  };
}

function weightOf(
  estimator: Estimator,
  gamma: Float64Array,
  counted: Uint8Array,
  p: number,
): Float64Array | null {
  const size = counted.length;
  if (estimator === "uls") {
    const weight = Float64Array.from(counted);
    for (let i = 0; i < p; i++) {
      const at = p + i * p - (i * (i - 1)) / 2;
      weight[at] = weight[at]! / 2;
    }
    return weight;
  }
  if (estimator !== "adf") {
    const inverse = Float64Array.from(counted, (known, a) =>
      known ? 1 / gamma[a * size + a]! : 0,
    );
    return inverse.every(Number.isFinite) ? inverse : null;
  }
  return inverseAmong(gamma, counted);
}

/** The inverse of the block of some places, zero elsewhere; null where it is singular. */
export function inverseAmong(matrix: Float64Array, chosen: Uint8Array): Float64Array | null {
  const size = chosen.length;
  const at = [...chosen.keys()].filter((a) => chosen[a]);
  const block = Float64Array.from(at.flatMap((a) => at.map((b) => matrix[a * size + b]!)));
  const inverse = inverseOf(block, at.length);
  if (!inverse) return null;
  const out = new Float64Array(size * size);
  at.forEach((a, i) => at.forEach((b, j) => (out[a * size + b] = inverse[i * at.length + j]!)));
  return out;
}

/**
 * The same in a resample, where nothing but estimates is wanted: of the covariance of the
 * statistics no more than the weights need.
 * @throws ModelFault `bad-weight`
 */
export function replicateMoments(staged: StagedStatistics, estimator: Estimator): WeightedMoments {
  const p = staged.columns.length;
  const moments = momentVector(new Float64Array(p), staged.covariance, p);
  if (estimator === "adf") {
    const { weight } = stagedMoments(staged, estimator, []);
    return { n: staged.n, moments, weight };
  }
  const all = statisticPlaces(staged).filter((place) => place.kind !== "threshold");
  const at = placesOf(all, p);
  const weight = new Float64Array(p + (p * (p + 1)) / 2);
  if (estimator === "uls")
    all.forEach((place, a) => {
      weight[at[a]!] = place.kind === "moment" && place.row === place.column ? 0.5 : 1;
    });
  else statisticVariances(staged, all).forEach((variance, a) => (weight[at[a]!] = 1 / variance));
  if (!weight.every(Number.isFinite)) throw new ModelFault("bad-weight", "No weights.", []);
  return { n: staged.n, moments, weight };
}
