import { secondOrder } from "./curvature";
import { PATH } from "./directions";
import type { PatternLikelihood } from "./pattern";

// Read for every pair of directions; see curvature.ts.
const ofPath = PATH;

/**
 * Second derivatives of the log-likelihood in the means and covariances themselves, whatever model
 * implies them, summed over the patterns of one group. With values missing there are many patterns,
 * and everything that needs second derivatives (errors, score tests, the traces of scaled
 * statistics) is read from this one matrix by the chain rule.
 *
 * Moments come in the order of `momentAt`: element (i, j), j <= i, of Sigma, where a pair stands
 * for both of its places, then mu. With W = Sigma^-1 of a pattern's variables, G = W (R - Sigma) W
 * and K = W + 2 G, minus the second derivative of elements (b, o) and (e, r) is n/2 (W_oe K_br +
 * K_oe W_br + W_be K_or + K_be W_or), halved for each that lies on the diagonal; of (b, o) and mean
 * e n (W_oe D_b + W_be D_o) with D = W d; of two means n W.
 */
export class MomentCurvature {
  /** Observed variables, moments. */
  readonly p: number;
  readonly size: number;
  /** Minus the second derivatives, size x size, symmetric. */
  readonly information: Float64Array;
  /** Sums of n G, p x p, and of n D. */
  readonly G: Float64Array;
  readonly D: Float64Array;

  /** @param parts the patterns of one group at their last value */
  constructor(parts: readonly PatternLikelihood[]) {
    const p = (this.p = parts[0]!.implied.p);
    this.size = (p * (p + 1)) / 2 + p;
    this.information = new Float64Array(this.size * this.size);
    this.G = new Float64Array(p * p);
    this.D = new Float64Array(p);
    for (const part of parts) if (part.moments.n > 0) this.add(part);
    const { size, information } = this;
    for (let a = 0; a < size; a++)
      for (let b = 0; b < a; b++) information[b * size + a] = information[a * size + b]!;
  }

  private add(part: PatternLikelihood): void {
    const { p, size, information } = this;
    const { n, indices } = part.moments;
    const k = indices.length;
    const { W, M, metric } = part.inMoments();
    const K = new Float64Array(k * k);
    for (let at = 0; at < k * k; at++) K[at] = W[at]! + 2 * M[at]!;
    const means = (p * (p + 1)) / 2;
    for (let b = 0; b < k; b++) {
      const i = indices[b]!;
      this.D[i] = this.D[i]! + n * metric[b]!;
      for (let e = 0; e <= b; e++) {
        const at = (means + i) * size + means + indices[e]!;
        information[at] = information[at]! + n * W[b * k + e]!;
      }
      for (let o = 0; o < k; o++) {
        const place = i * p + indices[o]!;
        this.G[place] = this.G[place]! + n * M[b * k + o]!;
      }
    }
    for (let b = 0; b < k; b++)
      for (let o = 0; o <= b; o++) {
        const h = b === o ? 0.5 * n : n;
        const row = momentAt(indices[b]!, indices[o]!);
        for (let e = 0; e < k; e++) {
          const at = (means + indices[e]!) * size + row;
          const value = h * (W[o * k + e]! * metric[b]! + W[b * k + e]! * metric[o]!);
          information[at] = information[at]! + value;
        }
        this.addPairs(W, K, indices, b, o, 0.5 * h, row * size);
      }
  }

  /** Covariance (b, o) with those before it and itself. */
  private addPairs(
    W: Float64Array,
    K: Float64Array,
    indices: Int32Array,
    b: number,
    o: number,
    h: number,
    row: number,
  ): void {
    const { information } = this;
    const k = indices.length;
    const [ofB, ofO] = [b * k, o * k];
    for (let e = 0; e <= b; e++) {
      const [be, oe, kbe, koe] = [W[ofB + e]!, W[ofO + e]!, K[ofB + e]!, K[ofO + e]!];
      const last = e === b ? o : e;
      const start = row + (indices[e]! * (indices[e]! + 1)) / 2;
      for (let r = 0; r <= last; r++) {
        const sum = oe * K[ofB + r]! + koe * W[ofB + r]! + be * K[ofO + r]! + kbe * W[ofO + r]!;
        const at = start + indices[r]!;
        information[at] = information[at]! + (e === r ? 0.5 * h : h) * sum;
      }
    }
  }
}

/** Where an element of Sigma stands among the moments; j <= i. */
const momentAt = (i: number, j: number): number => (i * (i + 1)) / 2 + j;

/**
 * What a model's directions change the moments by, and the inner products that its second
 * derivatives need.
 */
export class ModelCurvature {
  /**
   * Of each direction: its derivative of the moments, one after another; and information times
   * that.
   */
  private readonly slopes: Float64Array[];
  private readonly through: (Float64Array | undefined)[] = [];
  private readonly products: Parameters<typeof secondOrder>[0];

  constructor(
    private readonly moments: MomentCurvature,
    part: PatternLikelihood,
  ) {
    const { implied, directions } = part;
    const { p, size } = moments;
    const { v, B, E } = implied;
    const { ofB, ofE, b, o, half, count } = directions;
    const c = ofB.length + ofE.length;
    const columns = Array.from({ length: c }, (_, x) =>
      Float64Array.from({ length: p }, (__, i) =>
        x < ofB.length ? B[i * v + ofB[x]!]! : E[i * v + ofE[x - ofB.length]!]!,
      ),
    );
    const shifts = part.meanShifts;
    this.slopes = Array.from({ length: count }, (_, s) => {
      const slope = new Float64Array(size);
      const [one, other] = [columns[b[s]!]!, columns[o[s]!]!];
      let at = 0;
      for (let i = 0; i < p; i++)
        for (let j = 0; j <= i; j++, at++)
          slope[at] = half[s]! * (one[i]! * other[j]! + one[j]! * other[i]!);
      for (let i = 0; i < p; i++, at++) slope[at] = shifts[s]! * one[i]!;
      return slope;
    });
    const G = new Float64Array(c * c);
    columns.forEach((x, a) => {
      const bent = Float64Array.from(x, (_, i) => innerAt(moments.G, i * p, x));
      columns.forEach((y, e) => (G[a * c + e] = innerAt(y, 0, bent)));
    });
    const D = Float64Array.from(columns, (x) => innerAt(moments.D, 0, x));
    this.products = { G, D, c, implied, directions };
  }

  /** Minus the second derivative along two directions. */
  between(s: number, t: number): number {
    const { kind } = this.products.directions;
    const through = (this.through[s] ??= this.bent(s));
    let sum = innerAt(this.slopes[t]!, 0, through);
    if (kind[t] === ofPath) sum -= secondOrder(this.products, s, t);
    else if (kind[s] === ofPath) sum -= secondOrder(this.products, t, s);
    return sum;
  }

  private bent(s: number): Float64Array {
    const { information, size } = this.moments;
    const slope = this.slopes[s]!;
    const out = new Float64Array(size);
    for (let a = 0; a < size; a++) {
      const weight = slope[a]!;
      if (weight === 0) continue;
      const row = a * size;
      for (let b = 0; b < size; b++) out[b] = out[b]! + weight * information[row + b]!;
    }
    return out;
  }
}

function innerAt(long: Float64Array, from: number, x: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < x.length; i++) sum += long[from + i]! * x[i]!;
  return sum;
}

/** So many directions to a moment make the way through the moments the shorter one. */
const WORTH = 0.5;

/**
 * Are second derivatives along a model's directions cheaper through those of the moments than
 * pattern by pattern?
 */
export function throughMoments(parts: readonly PatternLikelihood[]): boolean {
  const { p } = parts[0]!.implied;
  return parts.length > 1 && parts[0]!.directions.count >= WORTH * ((p * (p + 1)) / 2 + p);
}

/** @param parts the patterns of one group, after `addScore` or `addScoreAlone` */
export const modelCurvature = (parts: readonly PatternLikelihood[]): ModelCurvature =>
  new ModelCurvature(new MomentCurvature(parts), parts[0]!);
