import { Phi, phi } from "../numerics/distributions";
import { ln } from "../numerics/elementary";
import { climbCorrelation } from "./bounded-correlation";
import type { NumericColumn, OrderedColumn } from "./levels";

/** A correlation of an ordered variable with a number, and what its errors are made of. */
export interface Polyserial {
  r: number;
  /** Expected information of one case, given the numbers that occur. */
  information: number;
  /** d log(share of a case's level) / dr; 0 where either is missing. */
  scores: Float64Array;
  /** Cross-information of r with thresholds, and with mean and variance of the number. */
  withThresholds: Float64Array;
  withMean: number;
  withVariance: number;
  logLikelihood: number;
}

/** No share is smaller, so that nothing is divided by zero. */
const LEAST = 1e-300;

/**
 * The polyserial correlation, thresholds, mean and variance held (Olsson, Drasgow & Dorans 1982,
 * Psychometrika 47): maximises the sum of log shares of each case's level given its number.
 * @param weights how often each case counts; once each where null
 * @returns null where the likelihood has no maximum inside (-1, 1)
 */
export function polyserial(
  ordered: OrderedColumn,
  numeric: NumericColumn,
  weights: ArrayLike<number> | null = null,
  start = 0,
  close?: number,
): Polyserial | null {
  const { codes, thresholds } = ordered;
  const sd = Math.sqrt(numeric.variance);
  const rows: number[] = [];
  codes.forEach((code, i) => {
    if (code >= 0 && !Number.isNaN(numeric.values[i]!) && (!weights || weights[i]! > 0))
      rows.push(i);
  });
  const z = Float64Array.from(rows, (i) => (numeric.values[i]! - numeric.mean) / sd);
  const own = Int32Array.from(rows, (i) => codes[i]!);
  const weight = Float64Array.from(rows, (i) => (weights ? weights[i]! : 1));
  const n = weight.reduce((sum, w) => sum + w, 0);
  const levels = new Levels(thresholds);
  const found = climbCorrelation(
    (r) => {
      let score = 0;
      let information = 0;
      for (let k = 0; k < z.length; k++) {
        levels.at(r, z[k]!);
        for (let c = 0; c <= thresholds.length; c++) {
          const ratio = levels.slopes[c]! / levels.shares[c]!;
          if (c === own[k]) score += weight[k]! * ratio;
          information += weight[k]! * levels.slopes[c]! * ratio;
        }
      }
      return { score: score / n, information: information / n };
    },
    start,
    close,
  );
  if (!found) return null;
  const { r } = found;
  const scores = new Float64Array(codes.length);
  const withThresholds = new Float64Array(thresholds.length);
  let byZ = 0;
  let byZz = 0;
  let logLikelihood = 0;
  const rest = Math.sqrt((1 - r) * (1 + r));
  for (let k = 0; k < z.length; k++) {
    levels.at(r, z[k]!);
    const { shares, slopes, densities } = levels;
    scores[rows[k]!] = slopes[own[k]!]! / shares[own[k]!]!;
    logLikelihood += weight[k]! * ln(shares[own[k]!]!);
    let inZ = 0;
    for (let c = 0; c <= thresholds.length; c++) {
      const ratio = slopes[c]! / shares[c]!;
      const lower = c === 0 ? 0 : densities[c - 1]!;
      const upper = c === thresholds.length ? 0 : densities[c]!;
      if (c < thresholds.length)
        withThresholds[c] = withThresholds[c]! + (weight[k]! * ratio * upper) / rest / n;
      if (c > 0)
        withThresholds[c - 1] = withThresholds[c - 1]! - (weight[k]! * ratio * lower) / rest / n;
      inZ -= (ratio * r * (upper - lower)) / rest;
    }
    byZ += (weight[k]! * inZ) / n;
    byZz += (weight[k]! * inZ * z[k]!) / n;
  }
  return {
    ...found,
    scores,
    withThresholds,
    withMean: -byZ / sd,
    withVariance: -byZz / (2 * numeric.variance),
    logLikelihood,
  };
}

/** Shares of the levels given a number, with their derivatives in r; holds its arrays. */
class Levels {
  readonly shares: Float64Array;
  readonly slopes: Float64Array;
  /** phi at each threshold given the number. */
  readonly densities: Float64Array;

  constructor(private readonly thresholds: Float64Array) {
    this.shares = new Float64Array(thresholds.length + 1);
    this.slopes = new Float64Array(thresholds.length + 1);
    this.densities = new Float64Array(thresholds.length);
  }

  at(r: number, z: number): void {
    const { thresholds, shares, slopes, densities } = this;
    const size = thresholds.length;
    const square = (1 - r) * (1 + r);
    const rest = Math.sqrt(square);
    // Beside the nearer tail, so that small shares keep their digits.
    let last = -Infinity;
    let cumulative = 0;
    let beyond = 1;
    let slopeBelow = 0;
    for (let c = 0; c < size; c++) {
      const tau = thresholds[c]!;
      const u = (tau - r * z) / rest;
      const tail = Phi(-Math.abs(u));
      const [next, over] = u < 0 ? [tail, 1 - tail] : [1 - tail, tail];
      densities[c] = phi(u);
      const slope = (densities[c]! * (r * tau - z)) / (square * rest);
      shares[c] = Math.max(LEAST, last > 0 ? beyond - over : next - cumulative);
      slopes[c] = slope - slopeBelow;
      [last, cumulative, beyond, slopeBelow] = [u, next, over, slope];
    }
    shares[size] = Math.max(LEAST, last > 0 ? beyond : 1 - cumulative);
    slopes[size] = -slopeBelow;
  }
}
