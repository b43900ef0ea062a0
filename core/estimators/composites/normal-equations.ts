import { choleskyInPlace, choleskySolveInPlace } from "../../numerics/cholesky";

/**
 * Regressions from a covariance or correlation matrix, by Cholesky factors of the predictors'
 * block, without allocating: the matrices are small and the calls are many.
 */
export class NormalEquations {
  private readonly factor: Float64Array;
  private readonly x: Float64Array;

  /** @param most the largest number of predictors */
  constructor(private readonly most: number) {
    this.factor = new Float64Array(most * most);
    this.x = new Float64Array(most);
  }

  /**
   * Writes the coefficients of `outcome` on `predictors` to `out` at `at`.
   * @param matrix row-major, symmetric; @param stride its width
   * @returns the smallest tolerance (1 - R² of a predictor on the earlier ones); the coefficients
   *   are meaningful where it is positive
   */
  solve(
    matrix: Float64Array,
    stride: number,
    predictors: ArrayLike<number>,
    outcome: number,
    out: Float64Array,
    at: number,
  ): number {
    const { factor, x, most } = this;
    const q = predictors.length;
    for (let i = 0; i < q; i++) {
      const row = predictors[i]! * stride;
      for (let j = 0; j <= i; j++) factor[i * most + j] = matrix[row + predictors[j]!]!;
      x[i] = matrix[row + outcome]!;
    }
    const tolerance = choleskyInPlace(factor, q, most);
    if (!(tolerance > 0)) return tolerance;
    choleskySolveInPlace(factor, q, most, x);
    for (let i = 0; i < q; i++) out[at + i] = x[i]!;
    return tolerance;
  }
}
