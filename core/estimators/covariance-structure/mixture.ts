import { choleskyInPlace } from "../../numerics/cholesky";
import { exp, ln } from "../../numerics/elementary";
import type { ArrowModel } from "./arrows";
import { whiten } from "./triangular";
import { solveLower } from "../../numerics/cholesky";
import type { PreparedGroup } from "./prepared-sample";

/** The effect of `x` on `to` changes with the latent variable `w`: a place in A that grows by omega times w. */
export interface LatentProduct {
  x: number;
  to: number;
  /** Position of omega in the parameter vector. */
  parameter: number;
}

const LOG_2_PI = ln(2 * Math.PI);
const REACH = 8;
const NEGLIGIBLE = -45;
const SINGULAR = 1e-12;

/**
 * The likelihood of a model in which effects depend linearly on an exogenous normal latent variable w (Klein & Moosbrugger 2000,
 * Psychometrika 65): given w everything is linear and normal, so a case's density is the integral of normal densities over w,
 * taken at equally spaced points, which converges faster than any power of their distance. The slope follows from the posterior
 * weights of the points.
 */
export class MixtureLikelihood {
  readonly q: number;
  readonly n: number;
  readonly score: Float64Array;
  /** Log-likelihood of each case at the last point. */
  readonly cases: Float64Array;
  private readonly v: number;
  private readonly p: number;
  private readonly A: Float64Array;
  private readonly S: Float64Array;
  private readonly m: Float64Array;
  private readonly nodes: Node[];

  /**
   * @param model with the products' parameters among its own; @param w place of the latent variable that moderates
   * @param points on each side of zero
   */
  constructor(
    private readonly model: ArrowModel,
    private readonly w: number,
    private readonly products: readonly LatentProduct[],
    private readonly group: PreparedGroup,
    points: number,
  ) {
    const v = model.variables.length;
    [this.v, this.p, this.q, this.n] = [v, model.observed, model.parameters.length, group.n];
    this.score = new Float64Array(this.q);
    this.cases = new Float64Array(group.columns[0]!.length);
    this.A = new Float64Array(v * v);
    this.S = new Float64Array(v * v);
    this.m = new Float64Array(v);
    const us = Array.from({ length: 2 * points + 1 }, (_, k) => (REACH * (k - points)) / points);
    const densities = us.map((u) => exp(-0.5 * u * u));
    const total = densities.reduce((a, b) => a + b, 0);
    this.posterior = new Float64Array(this.cases.length * us.length);
    this.nodes = us.map(
      (u, k) => new Node(u, densities[k]! / total, v, this.posterior, k, us.length),
    );
  }
  /** By case and node: log density plus log weight, then the posterior weight of the node. */
  private readonly posterior: Float64Array;

  /** @returns the log-likelihood; -Infinity where some implied matrix is no covariance matrix */
  valueAt(theta: ArrayLike<number>): number {
    this.fill(theta);
    this.cases.fill(0);
    for (const node of this.nodes) if (!this.prepare(node)) return -Infinity;
    for (const [at, pattern] of this.group.patterns.entries()) {
      for (const node of this.nodes) if (!node.densities(this.group, at, this.v)) return -Infinity;
      const { posterior, nodes } = this;
      const count = nodes.length;
      for (const row of pattern.rows) {
        const start = row * count;
        let largest = -Infinity;
        for (let k = start; k < start + count; k++)
          if (posterior[k]! > largest) largest = posterior[k]!;
        let sum = 0;
        for (let k = start; k < start + count; k++) {
          const below = posterior[k]! - largest;
          // What is beyond the last bit of the sum adds nothing.
          const density = below > NEGLIGIBLE ? exp(below) : 0;
          posterior[k] = density;
          sum += density;
        }
        for (let k = start; k < start + count; k++) posterior[k] = posterior[k]! / sum;
        this.cases[row] = largest + ln(sum);
      }
    }
    let value = 0;
    for (const x of this.cases) value += x;
    return Number.isNaN(value) ? -Infinity : value;
  }

  /** Value and score. */
  at(theta: ArrayLike<number>): number {
    const value = this.valueAt(theta);
    this.score.fill(0);
    if (value === -Infinity) return value;
    for (const node of this.nodes) {
      node.gradient(this.group, this.p, this.v);
      this.collect(node, theta);
    }
    return value;
  }

  /** Implied means and covariances of all variables, averaged over w. */
  implied(theta: ArrayLike<number>): { means: Float64Array; E: Float64Array } {
    const { v } = this;
    this.fill(theta);
    const means = new Float64Array(v);
    const E = new Float64Array(v * v);
    for (const node of this.nodes) {
      this.prepare(node);
      for (let i = 0; i < v; i++) {
        means[i] = means[i]! + node.weight * node.means[i]!;
        for (let j = 0; j < v; j++)
          E[i * v + j] =
            E[i * v + j]! + node.weight * (node.E[i * v + j]! + node.means[i]! * node.means[j]!);
      }
    }
    for (let i = 0; i < v; i++)
      for (let j = 0; j < v; j++) E[i * v + j] = E[i * v + j]! - means[i]! * means[j]!;
    return { means, E };
  }

  private fill(theta: ArrayLike<number>): void {
    const { v, A, S, m } = this;
    for (const { matrix, row, column, parameter, value } of this.model.slots) {
      const x = parameter < 0 ? value : theta[parameter]!;
      if (matrix === "A") A[row * v + column] = x;
      else if (matrix === "m") m[row] = x;
      else S[row * v + column] = S[column * v + row] = x;
    }
    this.omegas = this.products.map(({ parameter }) => theta[parameter]!);
  }
  private omegas: number[] = [];

  /** The model given w at a node: its moments. */
  private prepare(node: Node): boolean {
    const { v, w, A, S, m, products, model } = this;
    const variance = S[w * v + w]!;
    if (!(variance > 0)) return false;
    const sd = Math.sqrt(variance);
    node.W = m[w]! + sd * node.u;
    node.A.set(A);
    products.forEach(({ x, to }, k) => {
      node.A[to * v + x] = node.A[to * v + x]! + this.omegas[k]! * node.W;
    });
    for (let i = 0; i < v; i++) {
      node.m[i] = m[i]! + (S[i * v + w]! / sd) * node.u;
      for (let j = 0; j < v; j++)
        node.S[i * v + j] = S[i * v + j]! - (S[i * v + w]! * S[j * v + w]!) / variance;
    }
    node.moments(model.order, v);
    return true;
  }

  /** Adds what a node says of the parameters: the chain rule from A, S and m given w to those of the model. */
  private collect(node: Node, theta: ArrayLike<number>): void {
    const { v, w, S, products, score, model } = this;
    const variance = S[w * v + w]!;
    const sd = Math.sqrt(variance);
    const { gA, gS, gm, u } = node;
    let toW = 0;
    products.forEach(({ x, to, parameter }) => {
      score[parameter] = score[parameter]! + gA[to * v + x]! * node.W;
      toW += gA[to * v + x]! * theta[parameter]!;
    });
    // Derivatives along the column of S that belongs to w.
    const column = new Float64Array(v);
    let square = 0;
    let line = 0;
    for (let i = 0; i < v; i++) {
      let sum = 0;
      for (let j = 0; j < v; j++) sum += gS[i * v + j]! * S[j * v + w]!;
      column[i] = (-2 * sum) / variance + (gm[i]! * u) / sd;
      square += S[i * v + w]! * sum;
      line += gm[i]! * S[i * v + w]!;
    }
    const ofVariance =
      square / (variance * variance) - (0.5 * u * line) / (variance * sd) + (toW * 0.5 * u) / sd;
    for (const { matrix, row, column: col, parameter } of model.slots) {
      if (parameter < 0) continue;
      let value: number;
      if (matrix === "A") value = gA[row * v + col]!;
      else if (matrix === "m") value = gm[row]! + (row === w ? toW : 0);
      else {
        value = (row === col ? 1 : 2) * gS[row * v + col]!;
        if (row === w && col === w) value += column[w]! + ofVariance;
        else if (row === w) value += column[col]!;
        else if (col === w) value += column[row]!;
      }
      score[parameter] = score[parameter]! + value;
    }
  }
}

/** One point of integration: the normal model given w there. */
class Node {
  W = 0;
  readonly A: Float64Array;
  readonly S: Float64Array;
  readonly m: Float64Array;
  readonly B: Float64Array;
  readonly E: Float64Array;
  readonly means: Float64Array;
  readonly gA: Float64Array;
  readonly gS: Float64Array;
  readonly gm: Float64Array;
  constructor(
    readonly u: number,
    readonly weight: number,
    v: number,
    private readonly posterior: Float64Array,
    private readonly place: number,
    private readonly count: number,
  ) {
    const square = (): Float64Array => new Float64Array(v * v);
    [this.A, this.S, this.B, this.E, this.gA, this.gS] = [
      square(),
      square(),
      square(),
      square(),
      square(),
      square(),
    ];
    this.m = new Float64Array(v);
    this.means = new Float64Array(v);
    this.gm = new Float64Array(v);
  }

  moments(order: readonly number[], v: number): void {
    const { A, B, S, E, m, means } = this;
    for (const i of order) {
      for (let k = 0; k < v; k++) B[i * v + k] = i === k ? 1 : 0;
      for (let j = 0; j < v; j++) {
        const a = A[i * v + j]!;
        if (a !== 0) for (let k = 0; k < v; k++) B[i * v + k] = B[i * v + k]! + a * B[j * v + k]!;
      }
    }
    const BS = multiply(B, S, v);
    for (let i = 0; i < v; i++) {
      let mean = 0;
      for (let j = 0; j < v; j++) mean += B[i * v + j]! * m[j]!;
      means[i] = mean;
      for (let k = 0; k <= i; k++) {
        let sum = 0;
        for (let j = 0; j < v; j++) sum += BS[i * v + j]! * B[k * v + j]!;
        E[i * v + k] = E[k * v + i] = sum;
      }
    }
  }

  /** log density plus log weight of the cases of a pattern. @returns false where Sigma is no covariance matrix */
  densities({ columns, patterns }: PreparedGroup, at: number, v: number): boolean {
    const { indices, rows } = patterns[at]!;
    const k = indices.length;
    const L = factor(this.E, indices, v);
    if (!L) return false;
    let constant = ln(this.weight) - 0.5 * k * LOG_2_PI;
    for (let i = 0; i < k; i++) constant -= ln(L[i * k + i]!);
    const inverse = Float64Array.from({ length: k }, (_, i) => 1 / L[i * k + i]!);
    const d = new Float64Array(k);
    const own = [...indices].map((i) => columns[i]!);
    const means = Float64Array.from(indices, (i) => this.means[i]!);
    const { posterior, place, count } = this;
    for (let r = 0; r < rows.length; r++) {
      const row = rows[r]!;
      let length = 0;
      for (let i = 0; i < k; i++) {
        let sum = own[i]![row]! - means[i]!;
        for (let m = 0; m < i; m++) sum -= L[i * k + m]! * d[m]!;
        const x = sum * inverse[i]!;
        d[i] = x;
        length += x * x;
      }
      posterior[row * count + place] = constant - 0.5 * length;
    }
    return true;
  }

  /** Derivatives of the weighted log density by every element of A, S and m given w. */
  gradient({ columns, patterns }: PreparedGroup, p: number, v: number): void {
    const { B, E, means, posterior, place, count, gA, gS, gm } = this;
    // Of Sigma and mu first, summed over patterns.
    const ofSigma = new Float64Array(v * v);
    const ofMu = new Float64Array(v);
    for (const { indices, rows } of patterns) {
      const k = indices.length;
      const own = [...indices].map((i) => columns[i]!);
      const L = factor(E, indices, v)!;
      const sum = new Float64Array(k);
      const products = new Float64Array(k * k);
      const d = new Float64Array(k);
      let total = 0;
      for (let r = 0; r < rows.length; r++) {
        const row = rows[r]!;
        const weight = posterior[row * count + place]!;
        if (weight < 1e-18) continue;
        total += weight;
        // Deviations first; the metric of Sigma is the same for all cases and waits.
        for (let i = 0; i < k; i++) d[i] = own[i]![row]! - means[indices[i]!]!;
        for (let i = 0; i < k; i++) {
          const x = weight * d[i]!;
          sum[i] = sum[i]! + x;
          for (let j = 0; j <= i; j++) products[i * k + j] = products[i * k + j]! + x * d[j]!;
        }
      }
      for (let i = 0; i < k; i++)
        for (let j = 0; j < i; j++) products[j * k + i] = products[i * k + j]!;
      solveLower(L, sum, k);
      whiten(products, L, k);
      for (let i = 0; i < k; i++) products[i * k + i] = products[i * k + i]! - total;
      // Back from the metric of Sigma: L^-T (.) L^-1 and L^-T (.).
      for (let j = 0; j < k; j++) solveUpper(L, products, k, j * k);
      transpose(products, k);
      for (let j = 0; j < k; j++) solveUpper(L, products, k, j * k);
      solveUpper(L, sum, k, 0);
      for (let i = 0; i < k; i++) {
        ofMu[indices[i]!] = ofMu[indices[i]!]! + sum[i]!;
        for (let j = 0; j < k; j++) {
          const place = indices[i]! * v + indices[j]!;
          ofSigma[place] = ofSigma[place]! + 0.5 * products[i * k + j]!;
        }
      }
    }
    for (let i = 0; i < v; i++) {
      let value = 0;
      for (let o = 0; o < p; o++) value += B[o * v + i]! * ofMu[o]!;
      gm[i] = value;
    }
    const half = new Float64Array(v * v);
    for (let i = 0; i < v; i++)
      for (let j = 0; j < p; j++) {
        let value = 0;
        for (let o = 0; o < p; o++) value += B[o * v + i]! * ofSigma[o * v + j]!;
        half[i * v + j] = value;
      }
    for (let i = 0; i < v; i++)
      for (let j = 0; j < v; j++) {
        let toS = 0;
        let toA = 0;
        for (let o = 0; o < p; o++) {
          toS += half[i * v + o]! * B[o * v + j]!;
          toA += half[i * v + o]! * E[o * v + j]!;
        }
        gS[i * v + j] = toS;
        gA[i * v + j] = 2 * toA + gm[i]! * means[j]!;
      }
  }
}

function factor(E: Float64Array, indices: Int32Array, v: number): Float64Array | null {
  const k = indices.length;
  const L = new Float64Array(k * k);
  for (let i = 0; i < k; i++)
    for (let j = 0; j < k; j++) L[i * k + j] = E[indices[i]! * v + indices[j]!]!;
  return choleskyInPlace(L, k, k) > SINGULAR ? L : null;
}

/** L^-T x, in place. */
function solveUpper(L: Float64Array, x: Float64Array, k: number, start: number): void {
  for (let i = k - 1; i >= 0; i--) {
    let sum = x[start + i]!;
    for (let m = i + 1; m < k; m++) sum -= L[m * k + i]! * x[start + m]!;
    x[start + i] = sum / L[i * k + i]!;
  }
}

function transpose(x: Float64Array, k: number): void {
  for (let i = 0; i < k; i++)
    for (let j = 0; j < i; j++) {
      const value = x[i * k + j]!;
      x[i * k + j] = x[j * k + i]!;
      x[j * k + i] = value;
    }
}

function multiply(a: Float64Array, b: Float64Array, v: number): Float64Array {
  const out = new Float64Array(v * v);
  for (let i = 0; i < v; i++)
    for (let k = 0; k < v; k++) {
      const value = a[i * v + k]!;
      if (value !== 0)
        for (let j = 0; j < v; j++) out[i * v + j] = out[i * v + j]! + value * b[k * v + j]!;
    }
  return out;
}
