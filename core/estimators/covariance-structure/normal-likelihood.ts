import { choleskyInPlace } from "../../numerics/cholesky";
import { ln } from "../../numerics/elementary";
import type { ImpliedMoments } from "./implied";

/** Means and covariances of a sample, divisor n. */
export interface SampleMoments {
  n: number;
  means: Float64Array;
  /** p x p. */
  covariance: Float64Array;
}

/** A pivot below this share of its diagonal leaves no covariance matrix. */
const SINGULAR = 1e-12;

/**
 * The normal log-likelihood of a model with its score and expected information, at complete data. Everything is taken in the
 * metric of the Cholesky factor L of Sigma: W_a = L^-1 dSigma_a L^-T, so that tr(Sigma^-1 dSigma_a Sigma^-1 dSigma_b) is a sum
 * of products.
 */
export class NormalLikelihood {
  /** Of the last point: log-likelihood of one case, averaged; -Infinity where Sigma is no covariance matrix. */
  value = -Infinity;
  readonly score: Float64Array;
  /** q x q, of the whole sample. */
  readonly information: Float64Array;
  private readonly L: Float64Array;
  private readonly inner: Float64Array;
  private readonly d: Float64Array;
  private readonly dSigma: Float64Array;
  private readonly dMu: Float64Array;

  constructor(
    readonly implied: ImpliedMoments,
    readonly sample: SampleMoments,
  ) {
    const { p, q } = implied;
    this.score = new Float64Array(q);
    this.information = new Float64Array(q * q);
    this.L = new Float64Array(p * p);
    this.inner = new Float64Array(p * p);
    this.d = new Float64Array(p);
    this.dSigma = new Float64Array(q * p * p);
    this.dMu = new Float64Array(q * p);
  }

  /** Computes the value alone; derivatives stay those of the point before. */
  valueAt(theta: ArrayLike<number>): number {
    const { implied, sample, L, inner, d } = this;
    const { p } = implied.at(theta);
    L.set(implied.Sigma);
    this.value = -Infinity;
    if (!(choleskyInPlace(L, p, p) > SINGULAR)) return this.value;
    let logDeterminant = 0;
    for (let i = 0; i < p; i++) {
      logDeterminant += 2 * ln(L[i * p + i]!);
      d[i] = sample.means[i]! - implied.means[i]!;
    }
    // L^-1 (S + dd') L^-T, whose trace is that of Sigma^-1 (S + dd').
    for (let i = 0; i < p; i++)
      for (let k = 0; k < p; k++) inner[i * p + k] = sample.covariance[i * p + k]! + d[i]! * d[k]!;
    whiten(inner, 0, L, p);
    solveLower(L, d, p);
    let trace = 0;
    for (let i = 0; i < p; i++) trace += inner[i * p + i]!;
    this.value = -0.5 * (p * LOG_2_PI + logDeterminant + trace);
    return this.value;
  }

  /** Computes value, score and information. @returns false where Sigma is no covariance matrix */
  at(theta: ArrayLike<number>): boolean {
    if (this.valueAt(theta) === -Infinity) return false;
    const { implied, sample, L, inner, d, dSigma, dMu, score, information } = this;
    const { p, q } = implied;
    const { n } = sample;
    implied.derivatives(dSigma, dMu);
    for (let a = 0; a < q; a++) {
      whiten(dSigma, a * p * p, L, p);
      solveLower(L, dMu, p, a * p);
    }
    for (let a = 0; a < q; a++) {
      const own = a * p * p;
      let slope = 0;
      // G in this metric is the whitened S + dd' minus the identity.
      for (let i = 0; i < p * p; i++) slope += dSigma[own + i]! * inner[i]!;
      for (let i = 0; i < p; i++) slope -= dSigma[own + i * p + i]!;
      let shift = 0;
      for (let i = 0; i < p; i++) shift += dMu[a * p + i]! * d[i]!;
      score[a] = n * (0.5 * slope + shift);
      for (let b = 0; b <= a; b++) {
        const other = b * p * p;
        let sum = 0;
        for (let i = 0; i < p * p; i++) sum += dSigma[own + i]! * dSigma[other + i]!;
        let means = 0;
        for (let i = 0; i < p; i++) means += dMu[a * p + i]! * dMu[b * p + i]!;
        const value = n * (0.5 * sum + means);
        information[a * q + b] = value;
        information[b * q + a] = value;
      }
    }
    return true;
  }
}

const LOG_2_PI = ln(2 * Math.PI);

/** L^-1 x, in place. */
function solveLower(L: Float64Array, x: Float64Array, p: number, start = 0): void {
  for (let i = 0; i < p; i++) {
    let sum = x[start + i]!;
    for (let m = 0; m < i; m++) sum -= L[i * p + m]! * x[start + m]!;
    x[start + i] = sum / L[i * p + i]!;
  }
}

/** L^-1 M L^-T of the symmetric block at `start`, in place. */
function whiten(M: Float64Array, start: number, L: Float64Array, p: number): void {
  // Columns first, then rows.
  for (let k = 0; k < p; k++)
    for (let i = 0; i < p; i++) {
      let sum = M[start + i * p + k]!;
      for (let m = 0; m < i; m++) sum -= L[i * p + m]! * M[start + m * p + k]!;
      M[start + i * p + k] = sum / L[i * p + i]!;
    }
  for (let i = 0; i < p; i++)
    for (let k = 0; k < p; k++) {
      let sum = M[start + i * p + k]!;
      for (let m = 0; m < k; m++) sum -= M[start + i * p + m]! * L[k * p + m]!;
      M[start + i * p + k] = sum / L[k * p + k]!;
    }
}
