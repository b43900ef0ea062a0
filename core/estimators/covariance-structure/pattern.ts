import { choleskyInPlace, solveLower } from "../../numerics/cholesky";
import { invertLower, rowProducts, whiten } from "./triangular";
import { ln } from "../../numerics/elementary";
import { COVARIANCE, INTERCEPT, type Directions } from "./directions";
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
/** So many pivots are multiplied before a logarithm is taken. */
const TOGETHER = 4;

/**
 * The normal log-likelihood of the cases of one pattern, with its derivatives.
 *
 * Every derivative of Sigma has rank two, half (b o' + o b'). In the metric of the Cholesky factor
 * L of Sigma all of them are read from the inner products of the columns of L^-1 B and L^-1 E: P =
 * x' Sigma^-1 y, the same through the residual moments G = Sigma^-1 (R - Sigma) Sigma^-1 with R = S
 * + dd', and D = x' Sigma^-1 d with d = ybar - mu.
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
  private readonly shifts: Float64Array;
  /**
   * S + dd', Sigma^-1, its product with the former, and M; the inverse of L; d in the metric of
   * Sigma.
   */
  private readonly R: Float64Array;
  private readonly W: Float64Array;
  private readonly T: Float64Array;
  private readonly M: Float64Array;
  private readonly inverse: Float64Array;
  private readonly metric: Float64Array;
  /** Of each variable: which of the pattern's variables it leads to. All of them. */
  private reached: Int32Array[] | null = null;
  private readonly all: Int32Array;

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
    this.shifts = new Float64Array(directions.count);
    [this.R, this.W, this.T, this.M, this.inverse] = Array.from(
      { length: 5 },
      () => new Float64Array(k * k),
    ) as [Float64Array, Float64Array, Float64Array, Float64Array, Float64Array];
    this.metric = new Float64Array(k);
    this.all = Int32Array.from({ length: k }, (_, i) => i);
  }

  private get rows(): Int32Array[] {
    if (this.reached) return this.reached;
    const { indices } = this.moments;
    const place = new Int32Array(this.implied.p).fill(-1);
    for (let at = 0; at < indices.length; at++) place[indices[at]!] = at;
    this.reached = this.directions.reach.map((list) =>
      list.map((variable) => place[variable]!).filter((at) => at >= 0),
    );
    return this.reached;
  }

  /**
   * Log-likelihood of one case, averaged, at the moments that `implied` holds; derivatives stay
   * those of the point before.
   * @returns -Infinity where Sigma is no covariance matrix
   */
  value(): number {
    const { implied, moments, L, W, R, d, inverse } = this;
    const { indices, means, covariance } = moments;
    const k = indices.length;
    const { p, Sigma } = implied;
    for (let i = 0; i < k; i++) {
      const row = indices[i]! * p;
      for (let j = 0; j <= i; j++) L[i * k + j] = Sigma[row + indices[j]!]!;
    }
    if (!(choleskyInPlace(L, k, k) > SINGULAR)) return -Infinity;
    let determinant = 1;
    let logDeterminant = 0;
    for (let i = 0; i < k; i++) {
      determinant *= L[i * k + i]!;
      // A product of a few factors is cheaper than their logarithms, and does not yet leave the
      // range of numbers.
      if (i % TOGETHER === TOGETHER - 1 || i === k - 1) {
        logDeterminant += 2 * ln(determinant);
        determinant = 1;
      }
      d[i] = means[i]! - implied.means[indices[i]!]!;
    }
    invertLower(L, inverse, k);
    // Sigma^-1 and its trace with R, each element of the lower triangle once.
    let trace = 0;
    for (let i = 0; i < k; i++)
      for (let j = 0; j <= i; j++) {
        let sum = 0;
        for (let m = i; m < k; m++) sum += inverse[m * k + i]! * inverse[m * k + j]!;
        const r = covariance[i * k + j]! + d[i]! * d[j]!;
        W[i * k + j] = W[j * k + i] = sum;
        R[i * k + j] = R[j * k + i] = r;
        trace += (i === j ? 1 : 2) * sum * r;
      }
    return -0.5 * (k * LOG_2_PI + logDeterminant + trace);
  }

  /** The columns in use in the metric of Sigma, at the point of the last `value`. */
  private whitenColumns(): void {
    const { implied, directions, moments, L, white, c } = this;
    const { indices } = moments;
    const k = indices.length;
    const { v, B, E } = implied;
    const { ofB, ofE } = directions;
    for (let x = 0; x < c; x++) {
      const fromB = x < ofB.length;
      const source = fromB ? B : E;
      const column = fromB ? ofB[x]! : ofE[x - ofB.length]!;
      const start = x * k;
      // Items come after what they measure: most columns of B begin with zeros, which stay zero.
      let first = 0;
      while (first < k && source[indices[first]! * v + column] === 0) {
        white[start + first] = 0;
        first += 1;
      }
      for (let i = first; i < k; i++) {
        let sum = source[indices[i]! * v + column]!;
        for (let m = first; m < i; m++) sum -= L[i * k + m]! * white[start + m]!;
        white[start + i] = sum / L[i * k + i]!;
      }
    }
  }

  /** The inner products at the point of the last `value`. */
  columns(): void {
    const { moments, white, bent, inner, P, G, D, d, c, L, R, metric } = this;
    const k = moments.indices.length;
    inner.set(R);
    whiten(inner, L, k);
    for (let i = 0; i < k; i++) metric[i] = d[i]!;
    solveLower(L, metric, k);
    this.whitenColumns();
    for (let x = 0; x < c; x++) {
      let along = 0;
      for (let i = 0; i < k; i++) {
        let sum = -white[x * k + i]!;
        for (let j = 0; j < k; j++) sum += inner[i * k + j]! * white[x * k + j]!;
        bent[i] = sum;
        along += white[x * k + i]! * metric[i]!;
      }
      D[x] = along;
      const from = x * k;
      for (let y = 0; y <= x; y += 2) {
        const one = y * k;
        const two = y < x ? one + k : one;
        let p0 = 0;
        let p1 = 0;
        let g0 = 0;
        let g1 = 0;
        for (let i = 0; i < k; i++) {
          const w = white[from + i]!;
          const through = bent[i]!;
          const first = white[one + i]!;
          const second = white[two + i]!;
          p0 += w * first;
          p1 += w * second;
          g0 += through * first;
          g1 += through * second;
        }
        P[x * c + y] = P[y * c + x] = p0;
        G[x * c + y] = G[y * c + x] = g0;
        if (y < x) {
          P[x * c + y + 1] = P[(y + 1) * c + x] = p1;
          G[x * c + y + 1] = G[(y + 1) * c + x] = g1;
        }
      }
    }
  }

  /**
   * Adds n times the derivatives of the log-likelihood of one case, averaged, without the products
   * that information needs: from M = Sigma^-1 R Sigma^-1 - Sigma^-1 itself, since most columns of B
   * have a single element.
   */
  addScoreAlone(score: Float64Array): void {
    const { directions, moments, implied } = this;
    const { M, metric } = this.inMoments();
    const { n, indices } = moments;
    const k = indices.length;
    const { v, B, E } = implied;
    const shifts = this.findShifts();
    const { ofB, ofE, byO, startO, row, half, parameter, count } = directions;
    const { rows: reached } = this;
    for (let x = 0; x < ofB.length + ofE.length; x++) {
      const [from, to] = [startO[x]!, startO[x + 1]!];
      if (from === to) continue;
      const source = x < ofB.length ? B : E;
      const column = x < ofB.length ? ofB[x]! : ofE[x - ofB.length]!;
      const places = x < ofB.length ? reached[column]! : this.all;
      for (let at = from; at < to; at++) {
        const s = byO[at]!;
        if (half[s] === 0) continue;
        const b = row[s]!;
        const rows = reached[b]!;
        let through = 0;
        for (let r = 0; r < rows.length; r++) {
          const i = rows[r]!;
          let bent = 0;
          for (let j = 0; j < places.length; j++) {
            const place = places[j]!;
            bent += M[i * k + place]! * source[indices[place]! * v + column]!;
          }
          through += B[indices[i]! * v + b]! * bent;
        }
        score[parameter[s]!] = score[parameter[s]!]! + n * half[s]! * through;
      }
    }
    for (let s = 0; s < count; s++) {
      if (shifts[s] === 0) continue;
      const b = row[s]!;
      const rows = reached[b]!;
      let along = 0;
      for (let r = 0; r < rows.length; r++)
        along += B[indices[rows[r]!]! * v + b]! * metric[rows[r]!]!;
      score[parameter[s]!] = score[parameter[s]!]! + n * shifts[s]! * along;
    }
  }

  /**
   * The derivatives in the moments themselves, at the point of the last `value`: W = Sigma^-1, M =
   * W R W - W, and `metric` = W d. They lie in room that the next call writes over.
   */
  inMoments(): { W: Float64Array; M: Float64Array; metric: Float64Array } {
    const { moments, W, R, T, M, d, metric } = this;
    const k = moments.indices.length;
    // All matrices are symmetric, so every product is one of rows.
    rowProducts(W, R, T, k, false);
    rowProducts(T, W, M, k, true);
    for (let i = 0; i < k; i++) {
      let along = 0;
      for (let j = 0; j < k; j++) {
        along += W[i * k + j]! * d[j]!;
        M[i * k + j] = M[i * k + j]! - W[i * k + j]!;
      }
      metric[i] = along;
    }
    return { W, M, metric };
  }

  /**
   * What the mean of the implied moments changes by, in units of b: for every direction, at the
   * last point.
   */
  private findShifts(): Float64Array {
    const { shifts, implied, directions } = this;
    const { kind, column, count } = directions;
    for (let s = 0; s < count; s++)
      shifts[s] =
        kind[s] === COVARIANCE ? 0 : kind[s] === INTERCEPT ? 1 : implied.means[column[s]!]!;
    return shifts;
  }

  /** Adds n times the derivatives of the log-likelihood of one case, averaged. After `columns`. */
  addScore(score: Float64Array): void {
    const { G, D, c, directions, moments } = this;
    const { count, b, o, half, parameter } = directions;
    const shifts = this.findShifts();
    for (let s = 0; s < count; s++) {
      const a = parameter[s]!;
      const value = half[s]! * G[b[s]! * c + o[s]!]! + shifts[s]! * D[b[s]!]!;
      score[a] = score[a]! + moments.n * value;
    }
  }

  /**
   * Adds n times the expected information of one case, lower triangle by directions. After
   * `columns`.
   */
  addInformation(out: Float64Array, q: number): void {
    const { P, c, directions, moments, shifts } = this;
    const { count, b, o, half, parameter } = directions;
    const { n } = moments;
    for (let s = 0; s < count; s++) {
      const ba = b[s]! * c;
      const oa = o[s]! * c;
      const h = n * half[s]!;
      const shift = n * shifts[s]!;
      const row = parameter[s]! * q;
      for (let t = 0; t <= s; t++) {
        const e = b[t]!;
        const r = o[t]!;
        const between = P[ba + e]!;
        const value =
          h * half[t]! * (between * P[oa + r]! + P[ba + r]! * P[oa + e]!) +
          shift * shifts[t]! * between;
        const a = row + parameter[t]!;
        out[a] = out[a]! + value;
        // Arrows that are one parameter count both ways.
        if (s !== t && parameter[s] === parameter[t]) out[a] = out[a]! + value;
      }
    }
  }

  /**
   * Derivatives of the log-likelihood of one case. After `addScore`.
   * @param y the case's values, the observed ones of this pattern in order
   * @param along room for c numbers; @param out the score, to which is added
   */
  caseScore(y: ArrayLike<number>, along: Float64Array, out: Float64Array): void {
    const { implied, moments, directions, L, P, bent, c, shifts } = this;
    const { indices } = moments;
    const k = indices.length;
    for (let i = 0; i < k; i++) bent[i] = y[i]! - implied.means[indices[i]!]!;
    solveLower(L, bent, k);
    this.alongColumns(bent, along);
    const { count, b, o, half, parameter } = directions;
    for (let s = 0; s < count; s++) {
      const [x, z] = [along[b[s]!]!, along[o[s]!]!];
      const value = shifts[s]! * x + half[s]! * (x * z - P[b[s]! * c + o[s]!]!);
      out[parameter[s]!] = out[parameter[s]!]! + value;
    }
  }

  /** Inner products of the columns in use with a vector in the metric of Sigma. */
  alongColumns(u: Float64Array, along: Float64Array): void {
    const { white, c } = this;
    const k = this.moments.indices.length;
    for (let x = 0; x < c; x++) {
      let sum = 0;
      for (let i = 0; i < k; i++) sum += white[x * k + i]! * u[i]!;
      along[x] = sum;
    }
  }

  /**
   * What mu changes by along each direction, in units of b; after `addScore` or `addScoreAlone`.
   */
  get meanShifts(): Float64Array {
    return this.shifts;
  }
}
