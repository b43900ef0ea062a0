import type { ArrowModel } from "./arrows";

/**
 * The moments that parameters imply: Sigma = F B S B' F' and mu = F B m with B = (I - A)^-1, F picking the observed variables.
 * Holds its arrays, so that fitting allocates nothing.
 */
export class ImpliedMoments {
  /** Number of all variables, of observed ones, of parameters. */
  readonly v: number;
  readonly p: number;
  readonly q: number;
  readonly A: Float64Array;
  readonly S: Float64Array;
  readonly m: Float64Array;
  readonly B: Float64Array;
  /** Covariance of all variables, v x v. */
  readonly E: Float64Array;
  /** Means of all variables. */
  readonly means: Float64Array;
  /** p x p. */
  readonly Sigma: Float64Array;
  private readonly BS: Float64Array;

  constructor(readonly model: ArrowModel) {
    const v = model.variables.length;
    const p = model.observed;
    [this.v, this.p, this.q] = [v, p, model.parameters.length];
    [this.A, this.S, this.B, this.E, this.BS] = Array.from(
      { length: 5 },
      () => new Float64Array(v * v),
    ) as [Float64Array, Float64Array, Float64Array, Float64Array, Float64Array];
    this.m = new Float64Array(v);
    this.means = new Float64Array(v);
    this.Sigma = new Float64Array(p * p);
  }

  /** Computes everything at these parameters. */
  at(theta: ArrayLike<number>): this {
    this.fill(theta);
    const { v, p, B, S, E, BS, A, m, means, Sigma, model } = this;
    // Rows of B in causal order: b_i = e_i + sum_j A_ij b_j; paths never form a cycle.
    for (const i of model.order) {
      for (let k = 0; k < v; k++) B[i * v + k] = i === k ? 1 : 0;
      for (let j = 0; j < v; j++) {
        const a = A[i * v + j]!;
        if (a === 0) continue;
        for (let k = 0; k < v; k++) B[i * v + k] = B[i * v + k]! + a * B[j * v + k]!;
      }
    }
    for (let i = 0; i < v; i++)
      for (let k = 0; k < v; k++) {
        let sum = 0;
        for (let j = 0; j < v; j++) sum += B[i * v + j]! * S[j * v + k]!;
        BS[i * v + k] = sum;
      }
    for (let i = 0; i < v; i++) {
      let mean = 0;
      for (let j = 0; j < v; j++) mean += B[i * v + j]! * m[j]!;
      means[i] = mean;
      for (let k = 0; k <= i; k++) {
        let sum = 0;
        for (let j = 0; j < v; j++) sum += BS[i * v + j]! * B[k * v + j]!;
        E[i * v + k] = sum;
        E[k * v + i] = sum;
      }
    }
    for (let i = 0; i < p; i++) for (let k = 0; k < p; k++) Sigma[i * p + k] = E[i * v + k]!;
    return this;
  }

  private fill(theta: ArrayLike<number>): void {
    const { v, A, S, m, model } = this;
    for (const { matrix, row, column, parameter, value } of model.slots) {
      const x = parameter < 0 ? value : theta[parameter]!;
      if (matrix === "A") A[row * v + column] = x;
      else if (matrix === "m") m[row] = x;
      else {
        S[row * v + column] = x;
        S[column * v + row] = x;
      }
    }
  }
}
