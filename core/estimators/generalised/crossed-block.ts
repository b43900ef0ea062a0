import { reachInto, residualAt, type BlockDesigns } from "./block";
import { addGradient, offsetAt, predictorAt, type Shape } from "./shape";

/** What the product of two mediators multiplies, by their places in the block; row-major. */
export interface Cross {
  first: number;
  second: number;
  design: Float64Array;
}

/**
 * The mean of an outcome that is a straight line over several normal mediators of which some stand
 * in one product, for one row: a + Σ b_j μ_j + Σ q_jk (μ_j μ_k + c_jk), μ the means of the
 * mediators in a world and c their covariances given treatment and covariates, C = R S R' with R
 * what a unit of each does to those after it and S the residual covariances.
 */
export class CrossedBlock {
  private readonly k: number;
  private readonly means: Float64Array;
  /**
   * What a unit of mediator m does to mediator j directly, at j k + m; in every way, itself
   * included.
   */
  private readonly acts: Float64Array;
  private readonly reach: Float64Array;
  private readonly residual: Float64Array;
  private readonly covariance: Float64Array;
  /**
   * What a unit of each mediator does to the outcome at the means: by itself, and through those
   * after it too.
   */
  private readonly slopes: Float64Array;
  private readonly products: Float64Array;
  private readonly half: Float64Array;
  private readonly within: Float64Array;

  constructor(
    private readonly shape: Shape,
    private readonly outcome: number,
    private readonly designs: BlockDesigns & { crosses: readonly Cross[] },
  ) {
    const k = designs.mediators.length;
    this.k = k;
    this.means = new Float64Array(k);
    this.slopes = new Float64Array(k);
    [this.acts, this.reach, this.residual, this.covariance, this.products, this.half, this.within] =
      Array.from({ length: 7 }, () => new Float64Array(k * k)) as Square7;
  }

  /**
   * The mean of row i; its gradient in the parameters is added to `gradient` where that is wanted.
   */
  row(i: number, theta: Float64Array, at: number, gradient: Float64Array | null): number {
    this.moments(i, theta, at);
    const { shape, outcome, designs, k, means, covariance, products, slopes } = this;
    let value =
      offsetAt(shape, outcome, i) + predictorAt(shape, outcome, designs.base, i, theta, at);
    for (let j = 0; j < k; j++) {
      slopes[j] = predictorAt(shape, outcome, designs.slopes[j]!, i, theta, at);
      value += slopes[j]! * means[j]!;
    }
    products.fill(0);
    for (const { first, second, design } of designs.crosses) {
      const q = predictorAt(shape, outcome, design, i, theta, at);
      products[first * k + second] = q;
      products[second * k + first] = q;
      value += q * (means[first]! * means[second]! + covariance[first * k + second]!);
    }
    if (gradient) this.differentiate(i, gradient);
    return value;
  }

  /** Means of the mediators in a world and their covariances, for row i. */
  private moments(i: number, theta: Float64Array, at: number): void {
    const { shape, designs, k, means, acts, reach, residual, covariance, half } = this;
    designs.mediators.forEach(({ equation, base, before }, j) => {
      means[j] = offsetAt(shape, equation, i) + predictorAt(shape, equation, base, i, theta, at);
      for (let m = 0; m < j; m++) {
        acts[j * k + m] = predictorAt(shape, equation, before[m]!, i, theta, at);
        means[j] = means[j]! + acts[j * k + m]! * means[m]!;
      }
    });
    reachInto(acts, reach, k);
    for (let j = 0; j < k; j++)
      for (let m = 0; m < k; m++) {
        const place = this.place(j, m);
        residual[j * k + m] = place < 0 ? 0 : theta[at + place]!;
      }
    multiplyInto(reach, residual, half, k, false);
    multiplyInto(half, reach, covariance, k, true);
  }

  private place(j: number, m: number): number {
    const { mediators } = this.designs;
    return residualAt(this.shape, mediators[j]!.equation, mediators[m]!.equation);
  }

  private differentiate(i: number, gradient: Float64Array): void {
    const { shape, outcome, designs, k, means, covariance, products, slopes } = this;
    const { acts, reach, half, within } = this;
    addGradient(shape, gradient, outcome, designs.base, i, 1);
    designs.slopes.forEach((design, j) =>
      addGradient(shape, gradient, outcome, design, i, means[j]!),
    );
    for (const { first, second, design } of designs.crosses)
      addGradient(
        shape,
        gradient,
        outcome,
        design,
        i,
        means[first]! * means[second]! + covariance[first * k + second]!,
      );
    for (let j = 0; j < k; j++)
      for (let m = 0; m < k; m++) slopes[j] = slopes[j]! + products[j * k + m]! * means[m]!;
    for (let j = k - 1; j >= 0; j--)
      for (let m = j + 1; m < k; m++) slopes[j] = slopes[j]! + slopes[m]! * acts[m * k + j]!;
    // ½ tr(Q C): by a path from b to a it changes by (C Q R) at (b, a), by the residual covariances
    // by R'QR.
    multiplyInto(products, reach, half, k, false);
    multiplyInto(covariance, half, within, k, false);
    designs.mediators.forEach(({ equation, base, before }, a) => {
      addGradient(shape, gradient, equation, base, i, slopes[a]!);
      for (let b = 0; b < a; b++)
        addGradient(
          shape,
          gradient,
          equation,
          before[b]!,
          i,
          slopes[a]! * means[b]! + within[b * k + a]!,
        );
    });
    for (let a = 0; a < k; a++)
      for (let b = 0; b <= a; b++) {
        const place = this.place(a, b);
        if (place < 0) continue;
        let sum = 0;
        for (let j = 0; j < k; j++) sum += reach[j * k + a]! * half[j * k + b]!;
        gradient[place] = gradient[place]! + (a === b ? sum / 2 : sum);
      }
  }
}

type Square = Float64Array;
type Square7 = [Square, Square, Square, Square, Square, Square, Square];

/** A B, or A B' where `transposed`, of k x k matrices, row-major. */
function multiplyInto(a: Square, b: Square, out: Square, k: number, transposed: boolean): void {
  for (let r = 0; r < k; r++)
    for (let c = 0; c < k; c++) {
      let sum = 0;
      for (let m = 0; m < k; m++) sum += a[r * k + m]! * b[transposed ? c * k + m : m * k + c]!;
      out[r * k + c] = sum;
    }
}
