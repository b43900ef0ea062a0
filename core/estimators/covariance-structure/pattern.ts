import { choleskyInPlace } from "../../numerics/cholesky";
import { ln } from "../../numerics/elementary";
import type { Direction, Directions } from "./directions";
import type { ImpliedMoments } from "./implied";

/** Means and covariances (divisor n) of cases that have the same variables observed. */
export interface PatternMoments {
  n: number;
  /** Which observed variables of the model these are. */
  indices: Int32Array;
  means: Float64Array;
  /** k x k. */
  covariance: Float64Array;
}

/** A pivot below this share of its diagonal leaves no covariance matrix. */
const SINGULAR = 1e-12;
const LOG_2_PI = ln(2 * Math.PI);

/**
 * The normal log-likelihood of the cases of one pattern, with its derivatives.
 *
 * Every derivative of Sigma has rank two, half (b o' + o b'). In the metric of the Cholesky factor L of Sigma all of them are read
 * from the inner products of the columns of L^-1 B and L^-1 E: P = x' Sigma^-1 y, the same through the residual moments
 * G = Sigma^-1 (R - Sigma) Sigma^-1 with R = S + dd', and D = x' Sigma^-1 d with d = ybar - mu.
 */
export class PatternLikelihood {
  /** x' Sigma^-1 y of the columns in use, c x c. */
  readonly P: Float64Array;
  /** x' G y. */
  readonly G: Float64Array;
  /** x' Sigma^-1 d. */
  readonly D: Float64Array;
  /** Lower Cholesky factor of Sigma, k x k. */
  readonly L: Float64Array;
  /** Columns in use in the metric of Sigma, one after another. */
  readonly white: Float64Array;
  readonly c: number;
  private readonly d: Float64Array;
  private readonly inner: Float64Array;
  private readonly bent: Float64Array;

  constructor(
    readonly implied: ImpliedMoments,
    readonly directions: Directions,
    /** May be written over between calls, as long as the indices stay. */
    readonly moments: PatternMoments,
  ) {
    const k = moments.indices.length;
    const c = directions.ofB.length + directions.ofE.length;
    this.c = c;
    this.P = new Float64Array(c * c);
    this.G = new Float64Array(c * c);
    this.D = new Float64Array(c);
    this.L = new Float64Array(k * k);
    this.white = new Float64Array(c * k);
    this.d = new Float64Array(k);
    this.inner = new Float64Array(k * k);
    this.bent = new Float64Array(k);
  }

  /**
   * Log-likelihood of one case, averaged, at the moments that `implied` holds; derivatives stay those of the point before.
   * @returns -Infinity where Sigma is no covariance matrix
   */
  value(): number {
    const { implied, moments, L, inner, d } = this;
    const { indices } = moments;
    const k = indices.length;
    const { p, Sigma, means } = implied;
    for (let i = 0; i < k; i++)
      for (let j = 0; j < k; j++) L[i * k + j] = Sigma[indices[i]! * p + indices[j]!]!;
    if (!(choleskyInPlace(L, k, k) > SINGULAR)) return -Infinity;
    let logDeterminant = 0;
    for (let i = 0; i < k; i++) {
      logDeterminant += 2 * ln(L[i * k + i]!);
      d[i] = moments.means[i]! - means[indices[i]!]!;
    }
    // L^-1 (S + dd') L^-T, whose trace is that of Sigma^-1 (S + dd').
    for (let i = 0; i < k; i++)
      for (let j = 0; j < k; j++) inner[i * k + j] = moments.covariance[i * k + j]! + d[i]! * d[j]!;
    whiten(inner, L, k);
    solveLower(L, d, k);
    let trace = 0;
    for (let i = 0; i < k; i++) trace += inner[i * k + i]!;
    return -0.5 * (k * LOG_2_PI + logDeterminant + trace);
  }

  /** The inner products at the point of the last `value`. */
  columns(): void {
    const { implied, directions, moments, L, white, bent, inner, P, G, D, d, c } = this;
    const { indices } = moments;
    const k = indices.length;
    const { v, B, E } = implied;
    const { ofB, ofE } = directions;
    for (let x = 0; x < c; x++) {
      const fromB = x < ofB.length;
      const source = fromB ? B : E;
      const column = fromB ? ofB[x]! : ofE[x - ofB.length]!;
      for (let i = 0; i < k; i++) white[x * k + i] = source[indices[i]! * v + column]!;
      solveLower(L, white, k, x * k);
    }
    for (let x = 0; x < c; x++) {
      let along = 0;
      for (let i = 0; i < k; i++) {
        let sum = -white[x * k + i]!;
        for (let j = 0; j < k; j++) sum += inner[i * k + j]! * white[x * k + j]!;
        bent[i] = sum;
        along += white[x * k + i]! * d[i]!;
      }
      D[x] = along;
      for (let y = 0; y <= x; y++) {
        let plain = 0;
        let through = 0;
        for (let i = 0; i < k; i++) {
          const w = white[y * k + i]!;
          plain += white[x * k + i]! * w;
          through += bent[i]! * w;
        }
        P[x * c + y] = P[y * c + x] = plain;
        G[x * c + y] = G[y * c + x] = through;
      }
    }
  }

  /** What the mean of the implied moments changes by, in units of b. */
  private shift({ kind, column }: Direction): number {
    return kind === "S" ? 0 : kind === "m" ? 1 : this.implied.means[column]!;
  }

  /** Derivative of the log-likelihood of one case, averaged. */
  slope(one: Direction): number {
    const { G, D, c } = this;
    const bend = one.o < 0 ? 0 : one.half * G[one.b * c + one.o]!;
    return one.kind === "S" ? bend : bend + this.shift(one) * D[one.b]!;
  }

  /** Expected information of one case. */
  information(one: Direction, two: Direction): number {
    const { P, c } = this;
    const { b, o } = one;
    const [e, r] = [two.b, two.o];
    const between = P[b * c + e]!;
    let sum = 0;
    if (o >= 0 && r >= 0)
      sum = one.half * two.half * (between * P[o * c + r]! + P[b * c + r]! * P[o * c + e]!);
    if (one.kind === "S" || two.kind === "S") return sum;
    return sum + this.shift(one) * this.shift(two) * between;
  }

  /** Second derivative of the log-likelihood of one case, averaged. */
  curvature(one: Direction, two: Direction): number {
    const { P, G, D, c } = this;
    const { b, o, half: h } = one;
    const { b: e, o: r, half: g } = two;
    const [s, t] = [this.shift(one), this.shift(two)];
    const p = (x: number, y: number): number => P[x * c + y]!;
    const q = (x: number, y: number): number => P[x * c + y]! + G[x * c + y]!;
    let sum = -s * t * p(b, e);
    if (o >= 0 && r >= 0)
      sum +=
        h *
        g *
        (p(b, e) * p(o, r) +
          p(b, r) * p(o, e) -
          p(o, e) * q(r, b) -
          p(b, e) * q(r, o) -
          p(o, r) * q(e, b) -
          p(b, r) * q(e, o));
    if (o >= 0 && t !== 0) sum -= h * t * (p(o, e) * D[b]! + p(b, e) * D[o]!);
    if (r >= 0 && s !== 0) sum -= g * s * (p(b, e) * D[r]! + p(b, r) * D[e]!);
    if (two.kind === "A") return sum + this.secondOrder(one, two);
    return one.kind === "A" ? sum + this.secondOrder(two, one) : sum;
  }

  /** What the second derivatives of Sigma and mu add: `one` differentiated along the path `path`. */
  private secondOrder(one: Direction, path: Direction): number {
    const { G, D, c, implied } = this;
    const { B, E, v, means } = implied;
    const { row: k, column: l } = path;
    const { row: i, column: j, b, o, half } = one;
    const [bk, el] = [path.b, path.o];
    const turn = B[l * v + i]!;
    if (one.kind === "m") return turn * D[bk]!;
    if (one.kind === "S") return half * (turn * G[bk * c + o]! + B[l * v + j]! * G[bk * c + b]!);
    const sum =
      turn * G[bk * c + o]! + E[l * v + j]! * G[bk * c + b]! + B[j * v + k]! * G[el * c + b]!;
    return sum + means[l]! * B[j * v + k]! * D[b]! + means[j]! * turn * D[bk]!;
  }

  /**
   * Derivatives of the log-likelihood of one case.
   * @param y the case's values, the observed ones of this pattern in order
   * @param along room for c numbers; @param out the score, to which is added
   */
  caseScore(y: ArrayLike<number>, along: Float64Array, out: Float64Array): void {
    const { implied, moments, directions, L, white, P, bent, c } = this;
    const { indices } = moments;
    const k = indices.length;
    for (let i = 0; i < k; i++) bent[i] = y[i]! - implied.means[indices[i]!]!;
    solveLower(L, bent, k);
    for (let x = 0; x < c; x++) {
      let sum = 0;
      for (let i = 0; i < k; i++) sum += white[x * k + i]! * bent[i]!;
      along[x] = sum;
    }
    for (const one of directions.list) {
      let value = one.kind === "S" ? 0 : this.shift(one) * along[one.b]!;
      if (one.o >= 0) value += one.half * (along[one.b]! * along[one.o]! - P[one.b * c + one.o]!);
      out[one.parameter] = out[one.parameter]! + value;
    }
  }
}

/** L^-1 x, in place. */
export function solveLower(L: Float64Array, x: Float64Array, k: number, start = 0): void {
  for (let i = 0; i < k; i++) {
    let sum = x[start + i]!;
    for (let m = 0; m < i; m++) sum -= L[i * k + m]! * x[start + m]!;
    x[start + i] = sum / L[i * k + i]!;
  }
}

/** L^-1 M L^-T of a symmetric matrix, in place. */
export function whiten(M: Float64Array, L: Float64Array, k: number): void {
  // Columns first, then rows.
  for (let j = 0; j < k; j++)
    for (let i = 0; i < k; i++) {
      let sum = M[i * k + j]!;
      for (let m = 0; m < i; m++) sum -= L[i * k + m]! * M[m * k + j]!;
      M[i * k + j] = sum / L[i * k + i]!;
    }
  for (let i = 0; i < k; i++)
    for (let j = 0; j < k; j++) {
      let sum = M[i * k + j]!;
      for (let m = 0; m < j; m++) sum -= M[i * k + m]! * L[j * k + m]!;
      M[i * k + j] = sum / L[j * k + j]!;
    }
}
