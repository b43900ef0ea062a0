import { choleskyInPlace, choleskySolveInPlace } from "../../numerics/cholesky";

/**
 * Regressions from a covariance or correlation matrix, by Cholesky factors of the predictors'
 * block, without allocating: the matrices are small and the calls are many. Corrected correlations
 * may be no covariances of anything (one beyond 1); then by elimination with exchanges of rows.
 */
export class NormalEquations {
  private readonly factor: Float64Array;
  private readonly x: Float64Array;
  private wide: Float64Array | null = null;

  /** @param most the largest number of predictors */
  constructor(private readonly most: number) {
    this.factor = new Float64Array(most * most);
    this.x = new Float64Array(most);
  }

  /**
   * Writes the coefficients of `outcome` on `predictors` to `out` at `at`.
   * @param matrix row-major, symmetric; @param stride its width
   * @returns the smallest tolerance (1 - R² of a predictor on the earlier ones), of what is no
   *   covariance matrix the smallest size of 1 - R² on all others; there are coefficients where it
   *   is above zero
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
    if (!(tolerance > 0)) return this.eliminate(matrix, stride, predictors, outcome, out, at);
    choleskySolveInPlace(factor, q, most, x);
    for (let i = 0; i < q; i++) out[at + i] = x[i]!;
    return tolerance;
  }

  /** The same for a symmetric matrix that is not positive definite. */
  private eliminate(
    matrix: Float64Array,
    stride: number,
    predictors: ArrayLike<number>,
    outcome: number,
    out: Float64Array,
    at: number,
  ): number {
    const q = predictors.length;
    const width = 2 * q + 1;
    // Right of the block the identity, which becomes the inverse, and the outcome.
    const a = (this.wide ??= new Float64Array(this.most * (2 * this.most + 1)));
    a.fill(0, 0, q * width);
    for (let i = 0; i < q; i++) {
      const row = predictors[i]! * stride;
      for (let j = 0; j < q; j++) a[i * width + j] = matrix[row + predictors[j]!]!;
      a[i * width + q + i] = 1;
      a[i * width + 2 * q] = matrix[row + outcome]!;
    }
    for (let k = 0; k < q; k++) {
      let pivot = k;
      for (let i = k + 1; i < q; i++)
        if (Math.abs(a[i * width + k]!) > Math.abs(a[pivot * width + k]!)) pivot = i;
      const largest = a[pivot * width + k]!;
      if (!(Math.abs(largest) > 0)) return 0;
      for (let j = 0; j < width; j++) {
        const held = a[pivot * width + j]!;
        a[pivot * width + j] = a[k * width + j]!;
        a[k * width + j] = held / largest;
      }
      for (let i = 0; i < q; i++) {
        const times = i === k ? 0 : a[i * width + k]!;
        if (times !== 0)
          for (let j = 0; j < width; j++)
            a[i * width + j] = a[i * width + j]! - times * a[k * width + j]!;
      }
    }
    let tolerance = Infinity;
    for (let i = 0; i < q; i++) {
      const own = matrix[predictors[i]! * stride + predictors[i]!]!;
      tolerance = Math.min(tolerance, Math.abs(1 / (a[i * width + q + i]! * own)));
      out[at + i] = a[i * width + 2 * q]!;
    }
    return tolerance;
  }
}
