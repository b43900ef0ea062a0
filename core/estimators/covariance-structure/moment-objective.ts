import type { ArrowModel } from "./arrows";
import { COVARIANCE, directionsOf, INTERCEPT, PATH, type Directions } from "./directions";
import { ImpliedMoments } from "./implied";
import type { Objective } from "./normal-likelihood";

/** Moments of one group with the weight that deviations from them get. */
export interface WeightedMoments {
  n: number;
  /**
   * Means (where they are modelled), then the lower triangle of the covariances, column by column.
   */
  moments: Float64Array;
  /** m x m, or its diagonal alone. */
  weight: Float64Array;
}

/** Rows and columns of the lower triangle of a p x p matrix, column by column. */
export function lowerTriangle(p: number): { rows: Int32Array; columns: Int32Array } {
  const rows: number[] = [];
  const columns: number[] = [];
  for (let j = 0; j < p; j++)
    for (let i = j; i < p; i++) {
      rows.push(i);
      columns.push(j);
    }
  return { rows: Int32Array.from(rows), columns: Int32Array.from(columns) };
}

/** Means, where wanted, and the lower triangle of a covariance matrix as one vector. */
export function momentVector(
  means: ArrayLike<number> | null,
  covariance: ArrayLike<number>,
  p: number,
): Float64Array {
  const { rows, columns } = lowerTriangle(p);
  const lower = Float64Array.from(rows, (i, at) => covariance[i * p + columns[at]!]!);
  return means === null ? lower : Float64Array.from([...Array.from(means), ...lower]);
}

/**
 * Weighted distance of the moments of samples from those a model implies: minus half of sum_g n_g
 * (s - sigma)' W (s - sigma), climbed by Gauss-Newton steps (Browne 1984, Br J Math Stat Psychol
 * 37).
 */
export class MomentObjective implements Objective {
  readonly q: number;
  readonly n: number;
  readonly score: Float64Array;
  readonly information: Float64Array;
  readonly implied: ImpliedMoments[];
  private readonly directions: Directions[];

  constructor(
    models: readonly ArrowModel[],
    private readonly groups: readonly WeightedMoments[],
    private readonly means: boolean,
    q = models[0]!.parameters.length,
  ) {
    this.q = q;
    this.n = groups.reduce((sum, g) => sum + g.n, 0);
    this.score = new Float64Array(this.q);
    this.information = new Float64Array(this.q * this.q);
    this.implied = models.map((model) => new ImpliedMoments(model));
    this.directions = models.map(directionsOf);
  }

  valueAt(theta: ArrayLike<number>): number {
    let value = 0;
    this.implied.forEach((implied, g) => {
      const r = this.residual(implied.at(theta), g);
      const wr = times(this.groups[g]!.weight, r);
      for (let a = 0; a < r.length; a++) value -= 0.5 * this.groups[g]!.n * r[a]! * wr[a]!;
    });
    return Number.isNaN(value) ? -Infinity : value;
  }

  derivatives(): void {
    const { q, score, information } = this;
    score.fill(0);
    information.fill(0);
    this.implied.forEach((implied, g) => {
      const { n, weight } = this.groups[g]!;
      const delta = this.jacobian(g);
      const r = this.residual(implied, g);
      const turned = delta.map((column) => column && times(weight, column));
      delta.forEach((_, a) => {
        const left = turned[a];
        if (!left) return;
        score[a] = score[a]! + n * inner(left, r);
        for (let b = 0; b < q; b++) {
          const right = delta[b];
          if (right) information[a * q + b] = information[a * q + b]! + n * inner(left, right);
        }
      });
    });
  }

  /** What the moments of a group leave over at the last point. */
  residuals(g: number): Float64Array {
    return this.residual(this.implied[g]!, g);
  }

  private residual({ means, Sigma, p }: ImpliedMoments, g: number): Float64Array {
    const implied = momentVector(this.means ? means.subarray(0, p) : null, Sigma, p);
    return this.groups[g]!.moments.map((s, at) => s - implied[at]!);
  }

  /**
   * Derivatives of the implied moments of a group at the last point, one column per parameter; null
   * where they are zero.
   */
  jacobian(g: number): (Float64Array | null)[] {
    return momentJacobian(this.implied[g]!, this.directions[g]!, this.means);
  }
}

/**
 * Derivatives of the moments that a model implies.
 * @returns a column per parameter; null where nothing changes
 */
export function momentJacobian(
  implied: ImpliedMoments,
  directions: Directions,
  means: boolean,
): (Float64Array | null)[] {
  const { p, v, B, E } = implied;
  const { rows, columns } = lowerTriangle(p);
  const offset = means ? p : 0;
  const size = offset + rows.length;
  const out: (Float64Array | null)[] = implied.model.parameters.map(() => null);
  for (let s = 0; s < directions.count; s++) {
    const kind = directions.kind[s];
    const column = (out[directions.parameter[s]!] ??= new Float64Array(size));
    const b = (i: number): number => B[i * v + directions.row[s]!]!;
    if (means && kind !== COVARIANCE) {
      const scale = kind === INTERCEPT ? 1 : implied.means[directions.column[s]!]!;
      for (let i = 0; i < p; i++) column[i] = column[i]! + scale * b(i);
    }
    if (kind === INTERCEPT) continue;
    const source = kind === PATH ? E : B;
    const o = (i: number): number => source[i * v + directions.column[s]!]!;
    for (let at = 0; at < rows.length; at++) {
      const [i, j] = [rows[at]!, columns[at]!];
      const value = directions.half[s]! * (b(i) * o(j) + o(i) * b(j));
      column[offset + at] = column[offset + at]! + value;
    }
  }
  return out;
}

/** W x of a symmetric matrix, or of a diagonal one given by its diagonal. */
export function times(matrix: Float64Array, x: Float64Array): Float64Array {
  const m = x.length;
  if (matrix.length === m) return x.map((value, i) => value * matrix[i]!);
  const out = new Float64Array(m);
  for (let j = 0; j < m; j++) {
    const value = x[j]!;
    if (value === 0) continue;
    for (let i = 0; i < m; i++) out[i] = out[i]! + matrix[j * m + i]! * value;
  }
  return out;
}

export function inner(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}
