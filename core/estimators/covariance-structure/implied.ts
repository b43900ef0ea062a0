import type { ArrowModel } from "./arrows";

/**
 * The moments that parameters imply: Sigma = F B S B' F' and mu = F B m with B = (I - A)^-1, F
 * picking the observed variables. Holds its arrays, so that fitting allocates nothing, and steps
 * over the zeros that most of A and S are.
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
  /** Columns of B S, one after another. */
  private readonly SB: Float64Array;
  /**
   * Where each free arrow stands in its matrix, a covariance twice: its parameter, its place, and
   * in which of A, S and m.
   */
  private readonly parameterOf: Int32Array;
  private readonly placeOf: Int32Array;
  private readonly matrixOf: Uint8Array;
  /** Paths into each variable in causal order: row, column. */
  private readonly pathRows: Int32Array;
  private readonly pathColumns: Int32Array;
  /** Elements of S that may differ from zero, both triangles. */
  private readonly sRows: Int32Array;
  private readonly sColumns: Int32Array;

  constructor(readonly model: ArrowModel) {
    const v = model.variables.length;
    const p = model.observed;
    [this.v, this.p, this.q] = [v, p, model.parameters.length];
    [this.A, this.S, this.B, this.E, this.SB] = Array.from(
      { length: 5 },
      () => new Float64Array(v * v),
    ) as [Float64Array, Float64Array, Float64Array, Float64Array, Float64Array];
    this.m = new Float64Array(v);
    this.means = new Float64Array(v);
    this.Sigma = new Float64Array(p * p);
    const places = this.placeArrows();
    this.parameterOf = Int32Array.from(places, (place) => place.parameter);
    this.placeOf = Int32Array.from(places, (place) => place.at);
    this.matrixOf = Uint8Array.from(places, ({ of }) =>
      of === this.A ? 0 : of === this.S ? 1 : 2,
    );
    const { slots } = model;
    // An arrow may stand there twice, where it is tried what letting it go would do.
    const distinct = new Map(slots.map((s) => [`${s.matrix} ${s.row} ${s.column}`, s]));
    const each = [...distinct.values()];
    const paths = model.order.flatMap((row) =>
      each.filter((s) => s.matrix === "A" && s.row === row),
    );
    this.pathRows = Int32Array.from(paths, (s) => s.row);
    this.pathColumns = Int32Array.from(paths, (s) => s.column);
    const both = each.flatMap(({ matrix, row, column }) =>
      matrix !== "S"
        ? []
        : row === column
          ? [[row, column] as const]
          : [[row, column] as const, [column, row] as const],
    );
    this.sRows = Int32Array.from(both, ([row]) => row);
    this.sColumns = Int32Array.from(both, ([, column]) => column);
  }

  /** Where everything stands, for those who compute the same elsewhere. */
  get layout() {
    return {
      places: { parameter: this.parameterOf, at: this.placeOf, matrix: this.matrixOf },
      paths: { rows: this.pathRows, columns: this.pathColumns },
      elements: { rows: this.sRows, columns: this.sColumns },
    };
  }

  /** Computes everything at these parameters. */
  at(theta: ArrayLike<number>): this {
    this.fill(theta);
    const { v, p, B, S, E, SB, A, m, means, Sigma, pathRows, pathColumns } = this;
    // Rows of B in causal order: b_i = e_i + sum_j A_ij b_j; paths never form a cycle.
    B.fill(0);
    for (let i = 0; i < v; i++) B[i * v + i] = 1;
    for (let k = 0; k < pathRows.length; k++) {
      const i = pathRows[k]! * v;
      const j = pathColumns[k]! * v;
      const a = A[i + pathColumns[k]!]!;
      for (let c = 0; c < v; c++) B[i + c] = B[i + c]! + a * B[j + c]!;
    }
    SB.fill(0);
    const { sRows, sColumns } = this;
    for (let k = 0; k < sRows.length; k++) {
      const j = sRows[k]!;
      const c = sColumns[k]!;
      const s = S[j * v + c]!;
      for (let i = 0; i < v; i++) SB[c * v + i] = SB[c * v + i]! + B[i * v + j]! * s;
    }
    E.fill(0);
    for (let i = 0; i < v; i++) {
      let mean = 0;
      for (let j = 0; j < v; j++) {
        const b = B[i * v + j]!;
        if (b === 0) continue;
        mean += b * m[j]!;
        for (let k = 0; k <= i; k++) E[i * v + k] = E[i * v + k]! + b * SB[j * v + k]!;
      }
      means[i] = mean;
      for (let k = 0; k < i; k++) E[k * v + i] = E[i * v + k]!;
    }
    for (let i = 0; i < p; i++) for (let k = 0; k < p; k++) Sigma[i * p + k] = E[i * v + k]!;
    return this;
  }

  private placeArrows(): { of: Float64Array; at: number; parameter: number }[] {
    const { v, A, S, m, model } = this;
    return model.slots.flatMap(({ matrix, row, column, parameter, value }) => {
      const at = matrix === "m" ? row : row * v + column;
      const of = matrix === "A" ? A : matrix === "S" ? S : m;
      const all =
        matrix === "S" && row !== column
          ? [
              { of, at, parameter },
              { of, at: column * v + row, parameter },
            ]
          : [{ of, at, parameter }];
      if (parameter >= 0) return all;
      for (const place of all) place.of[place.at] = value;
      return [];
    });
  }

  private fill(theta: ArrayLike<number>): void {
    const { A, S, m, parameterOf, placeOf, matrixOf } = this;
    for (let k = 0; k < parameterOf.length; k++) {
      const x = theta[parameterOf[k]!]!;
      const kind = matrixOf[k]!;
      if (kind === 0) A[placeOf[k]!] = x;
      else if (kind === 1) S[placeOf[k]!] = x;
      else m[placeOf[k]!] = x;
    }
  }
}
