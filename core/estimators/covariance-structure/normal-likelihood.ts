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

/** A free arrow as the derivatives see it: Sigma changes by half (b o' + o b'), mu by mean times b. */
interface Direction {
  parameter: number;
  /** Column of B that b is. */
  b: number;
  /** Column that o is: of B for a covariance, of E for a path; -1 where Sigma does not change. */
  other: number;
  ofE: boolean;
  half: number;
  /** Whose mean multiplies b; -1 for one, -2 where mu does not change. */
  mean: number;
}

/**
 * The normal log-likelihood of a model with its score and expected information, at complete data.
 *
 * Every derivative of Sigma is of rank two, half (b o' + o b'), with b a column of B and o one of B or E. In the metric of the
 * Cholesky factor L of Sigma, with u = L^-1 b and w = L^-1 o,
 *   1/2 tr(Sigma^-1 dSigma_a Sigma^-1 dSigma_b) = half_a half_b [(u_a'u_b)(w_a'w_b) + (u_a'w_b)(w_a'u_b)],
 * so that information and score are read from the inner products of the columns of L^-1 B and L^-1 E.
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
  /** Columns of L^-1 B, then of L^-1 E, one after another. */
  private readonly white: Float64Array;
  /** The same times L^-1 (S + dd') L^-T - I. */
  private readonly bent: Float64Array;
  /** Inner products of the columns of `white`. */
  private readonly gram: Float64Array;
  private readonly directions: Direction[];

  constructor(
    readonly implied: ImpliedMoments,
    readonly sample: SampleMoments,
  ) {
    const { p, q, v, model } = implied;
    this.score = new Float64Array(q);
    this.information = new Float64Array(q * q);
    this.L = new Float64Array(p * p);
    this.inner = new Float64Array(p * p);
    this.d = new Float64Array(p);
    this.white = new Float64Array(2 * v * p);
    this.bent = new Float64Array(2 * v * p);
    this.gram = new Float64Array(4 * v * v);
    this.directions = model.slots.flatMap(({ matrix, row, column, parameter }): Direction[] => {
      if (parameter < 0) return [];
      const base = { parameter, b: row, ofE: matrix === "A" };
      if (matrix === "m") return [{ ...base, other: -1, half: 0, mean: -1 }];
      const half = matrix === "S" && row === column ? 0.5 : 1;
      return [{ ...base, other: column, half, mean: matrix === "A" ? column : -2 }];
    });
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
    whiten(inner, L, p);
    solveLower(L, d, p);
    let trace = 0;
    for (let i = 0; i < p; i++) trace += inner[i * p + i]!;
    this.value = -0.5 * (p * LOG_2_PI + logDeterminant + trace);
    return this.value;
  }

  /** Computes value, score and information. @returns false where Sigma is no covariance matrix */
  at(theta: ArrayLike<number>): boolean {
    if (this.valueAt(theta) === -Infinity) return false;
    this.whitenColumns();
    const { sample, score, information, directions, implied } = this;
    const { q } = implied;
    score.fill(0);
    information.fill(0);
    for (let s = 0; s < directions.length; s++) {
      const one = directions[s]!;
      const a = one.parameter;
      score[a] = score[a]! + sample.n * this.slope(one);
      for (let t = 0; t <= s; t++) {
        const other = directions[t]!;
        const b = other.parameter;
        const value = sample.n * this.curvature(one, other);
        information[a * q + b] = information[a * q + b]! + value;
        if (s !== t) information[b * q + a] = information[b * q + a]! + value;
      }
    }
    return true;
  }

  /** Columns of B and E in the metric of Sigma, with their inner products. */
  private whitenColumns(): void {
    const { implied, L, white, bent, gram, inner } = this;
    const { p, v, B, E } = implied;
    for (let k = 0; k < v; k++)
      for (let i = 0; i < p; i++) {
        white[k * p + i] = B[i * v + k]!;
        white[(v + k) * p + i] = E[i * v + k]!;
      }
    for (let k = 0; k < 2 * v; k++) {
      solveLower(L, white, p, k * p);
      for (let i = 0; i < p; i++) {
        let sum = -white[k * p + i]!;
        for (let j = 0; j < p; j++) sum += inner[i * p + j]! * white[k * p + j]!;
        bent[k * p + i] = sum;
      }
      for (let m = 0; m <= k; m++) {
        let sum = 0;
        for (let i = 0; i < p; i++) sum += white[k * p + i]! * white[m * p + i]!;
        gram[k * 2 * v + m] = sum;
        gram[m * 2 * v + k] = sum;
      }
    }
  }

  private slope({ b, other, ofE, half, mean }: Direction): number {
    const { implied, white, bent, d } = this;
    const { p, v, means } = implied;
    let sum = 0;
    if (other >= 0) {
      const o = ofE ? v + other : other;
      for (let i = 0; i < p; i++) sum += white[b * p + i]! * bent[o * p + i]!;
      sum *= half;
    }
    if (mean === -2) return sum;
    let shift = 0;
    for (let i = 0; i < p; i++) shift += white[b * p + i]! * d[i]!;
    return sum + shift * (mean < 0 ? 1 : means[mean]!);
  }

  private curvature(one: Direction, two: Direction): number {
    const { gram } = this;
    const { v, means } = this.implied;
    const width = 2 * v;
    let sum = 0;
    if (one.other >= 0 && two.other >= 0) {
      const o = one.ofE ? v + one.other : one.other;
      const r = two.ofE ? v + two.other : two.other;
      sum =
        one.half *
        two.half *
        (gram[one.b * width + two.b]! * gram[o * width + r]! +
          gram[one.b * width + r]! * gram[o * width + two.b]!);
    }
    if (one.mean === -2 || two.mean === -2) return sum;
    const scale = (one.mean < 0 ? 1 : means[one.mean]!) * (two.mean < 0 ? 1 : means[two.mean]!);
    return sum + scale * gram[one.b * width + two.b]!;
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

/** L^-1 M L^-T of a symmetric matrix, in place. */
function whiten(M: Float64Array, L: Float64Array, p: number): void {
  // Columns first, then rows.
  for (let k = 0; k < p; k++)
    for (let i = 0; i < p; i++) {
      let sum = M[i * p + k]!;
      for (let m = 0; m < i; m++) sum -= L[i * p + m]! * M[m * p + k]!;
      M[i * p + k] = sum / L[i * p + i]!;
    }
  for (let i = 0; i < p; i++)
    for (let k = 0; k < p; k++) {
      let sum = M[i * p + k]!;
      for (let m = 0; m < k; m++) sum -= M[i * p + m]! * L[k * p + m]!;
      M[i * p + k] = sum / L[k * p + k]!;
    }
}
