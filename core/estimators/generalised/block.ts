import type { InnerMean, InnerRule } from "./inner-means";
import { addGradient, offsetAt, pairOf, predictorAt, type Shape } from "./shape";

/**
 * One mediator of a block: its equation, and designs of its linear predictor in a world, row-major.
 */
export interface BlockMediator {
  equation: number;
  /** Where the mediators before it are zero. */
  base: Float64Array;
  /** What each mediator before it multiplies, in their order. */
  before: Float64Array[];
}

/**
 * An outcome as a + Σ b_j M_j, and the mediators in an order in which each acts only on later ones.
 */
export interface BlockDesigns {
  base: Float64Array;
  slopes: Float64Array[];
  mediators: BlockMediator[];
}

/**
 * The mean of an outcome over several normal mediators, for one row. Given treatment and covariates
 * the linear predictor of the outcome is normal: with B_j what a unit of mediator j does to it in
 * every way, its mean is a + Σ B_j l_j and its variance Σ B_j B_k s_jk, l_j the predictor of j
 * where the mediators before it are zero, s_jk the residual covariances.
 */
export class Block {
  private readonly slopes: Float64Array;
  private readonly all: Float64Array;
  private readonly own: Float64Array;
  private readonly means: Float64Array;
  private readonly acts: Float64Array;
  private readonly reach: Float64Array;
  private readonly along: Float64Array;
  centre = 0;
  variance = 0;

  constructor(
    private readonly shape: Shape,
    private readonly outcome: number,
    private readonly designs: BlockDesigns,
  ) {
    const k = designs.mediators.length;
    this.slopes = new Float64Array(k);
    this.all = new Float64Array(k);
    this.own = new Float64Array(k);
    this.means = new Float64Array(k);
    this.acts = new Float64Array(k * k);
    this.reach = new Float64Array(k * k);
    this.along = new Float64Array(k);
  }

  /**
   * Mean and variance of the linear predictor of the outcome in row i, with the mediators at
   * random: left in `centre` and `variance`.
   */
  moments(i: number, theta: Float64Array, at: number): void {
    const { outcome, designs, slopes, all, own, means, acts } = this;
    const { mediators } = designs;
    const k = mediators.length;
    this.centre =
      offsetAt(this.shape, outcome, i) +
      predictorAt(this.shape, outcome, designs.base, i, theta, at);
    for (let j = 0; j < k; j++) {
      const { equation, base, before } = mediators[j]!;
      slopes[j] = predictorAt(this.shape, outcome, designs.slopes[j]!, i, theta, at);
      own[j] =
        offsetAt(this.shape, equation, i) + predictorAt(this.shape, equation, base, i, theta, at);
      means[j] = own[j]!;
      for (let m = 0; m < j; m++) {
        acts[j * k + m] = predictorAt(this.shape, equation, before[m]!, i, theta, at);
        means[j] = means[j]! + acts[j * k + m]! * means[m]!;
      }
      this.centre += slopes[j]! * means[j]!;
    }
    for (let j = k - 1; j >= 0; j--) {
      all[j] = slopes[j]!;
      for (let m = j + 1; m < k; m++) all[j] = all[j]! + all[m]! * acts[m * k + j]!;
    }
    this.variance = 0;
    for (let j = 0; j < k; j++)
      for (let m = 0; m < k; m++)
        this.variance += all[j]! * all[m]! * this.residual(j, m, theta, at);
  }

  /**
   * The mean of row i; its gradient in the parameters is added to `gradient` where that is wanted.
   */
  row(
    i: number,
    theta: Float64Array,
    at: number,
    rule: InnerRule,
    inner: InnerMean,
    gradient: Float64Array | null,
  ): number {
    this.moments(i, theta, at);
    rule(this.centre, 1, 0, this.variance, inner);
    if (gradient) this.differentiate(i, theta, at, inner, gradient);
    return inner.value;
  }

  /** Residual covariance of two mediators; nothing where they are independent. */
  private residual(j: number, m: number, theta: Float64Array, at: number): number {
    const place = this.place(j, m);
    return place < 0 ? 0 : theta[at + place]!;
  }

  private place(j: number, m: number): number {
    const { mediators } = this.designs;
    return residualAt(this.shape, mediators[j]!.equation, mediators[m]!.equation);
  }

  private differentiate(
    i: number,
    theta: Float64Array,
    at: number,
    { da, ds }: InnerMean,
    gradient: Float64Array,
  ): void {
    const { outcome, designs, all, means, acts, reach, along } = this;
    const { mediators } = designs;
    const k = mediators.length;
    reachInto(acts, reach, k);
    // Half the derivative of the variance by B, and from there by every slope of the outcome.
    for (let j = 0; j < k; j++) {
      let sum = 0;
      for (let m = 0; m < k; m++) {
        let together = 0;
        for (let l = 0; l < k; l++) together += all[l]! * this.residual(m, l, theta, at);
        sum += 2 * together * reach[j * k + m]!;
      }
      along[j] = sum;
    }
    addGradient(this.shape, gradient, outcome, designs.base, i, da);
    for (let j = 0; j < k; j++) {
      const { equation, base, before } = mediators[j]!;
      addGradient(
        this.shape,
        gradient,
        outcome,
        designs.slopes[j]!,
        i,
        da * means[j]! + ds * along[j]!,
      );
      addGradient(this.shape, gradient, equation, base, i, da * all[j]!);
      for (let m = 0; m < j; m++)
        addGradient(
          this.shape,
          gradient,
          equation,
          before[m]!,
          i,
          all[j]! * (da * means[m]! + ds * along[m]!),
        );
      for (let m = 0; m <= j; m++) {
        const place = this.place(j, m);
        if (place >= 0)
          gradient[place] = gradient[place]! + ds * (j === m ? 1 : 2) * all[j]! * all[m]!;
      }
    }
  }
}

/**
 * What a unit of mediator m does to mediator j in every way, itself included, at j k + m.
 * @param acts what it does directly, in an order in which each acts only on later ones
 */
export function reachInto(acts: Float64Array, reach: Float64Array, k: number): void {
  reach.fill(0);
  for (let m = 0; m < k; m++)
    for (let j = m; j < k; j++) {
      let sum = j === m ? 1 : 0;
      for (let between = m; between < j; between++)
        sum += acts[j * k + between]! * reach[between * k + m]!;
      reach[j * k + m] = sum;
    }
}

/**
 * Where the residual covariance of two equations stands in the parameter vector, or the variance of
 * one; -1 where they are independent.
 */
export const residualAt = (shape: Shape, a: number, b: number): number =>
  a === b ? shape.variance[a]! : (shape.covariance.get(pairOf(a, b)) ?? -1);
