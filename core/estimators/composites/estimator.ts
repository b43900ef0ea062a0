import type { Layout } from "./layout";
import { BY_CORRELATION } from "./layout";
import { NormalEquations } from "./normal-equations";
import { ProductColumns, type ProductColumn } from "./product-columns";
import { rhoA } from "./reliability";
import { correctedMoments, ScoreProducts } from "./score-products";
import { SINGULAR } from "./specification";
import { MOST_ROUNDS, WeightAlgorithm, type Ending } from "./weight-algorithm";

/** One construct as explained by others, and by products of scores. */
export interface PlannedEquation {
  outcome: number;
  predictors: number[];
  /** Products of two stages, as positions among the plan's. */
  products: number[];
}

/** Everything that estimation needs, as plain data. */
export interface EstimationPlan {
  layout: Layout;
  /** Rows of the sample. */
  n: number;
  /**
   * Row-major n x indicators, about the sample's means and in its SDs; products of indicators
   * likewise, as products of those.
   */
  values: Float64Array;
  productColumns: ProductColumn[];
  /** Products of scores, by two stages. */
  products: [number, number][];
  equations: PlannedEquation[];
  consistent: boolean;
  /** Constructs that are corrected by rho_A. */
  corrected: boolean[];
  /** Given reliabilities; NaN where there is none. */
  given: Float64Array;
  rounds?: number;
}

/** Means and covariances of the indicators in one sample, and its rows with their weights. */
export interface SampleMoments {
  total: number;
  means: Float64Array;
  /** Row-major, divisor n - 1; written over. */
  covariances: Float64Array;
  rowWeights(): Float64Array;
}

/** Why there is no estimate. */
export type Failure =
  Exclude<Ending, "converged"> | "zero_variance" | "rho_not_positive" | "singular_products";

/**
 * Estimates a composite path model from the covariances of its indicators: weights, correlations of
 * constructs, corrected where constructs are common factors, and the coefficients of every
 * equation. It allocates nothing, so that resamples cost little.
 */
export class CompositeEstimator {
  readonly algorithm: WeightAlgorithm;
  /** Correlations of the indicators. */
  readonly r: Float64Array;
  readonly sds: Float64Array;
  readonly rho: Float64Array;
  /** Correlations of constructs that paths are found from: as they are, or corrected. */
  readonly phi: Float64Array;
  /**
   * Coefficients, equation by equation: predictors, then products. NaN where an equation is
   * singular.
   */
  readonly coefficients: Float64Array;
  readonly offsets: number[];
  readonly scoreProducts: ScoreProducts | null;
  /**
   * Moments that equations with products are found from: of scores and products, corrected or not.
   */
  readonly moments: Float64Array;
  /** Reliability of each product of scores, in consistent estimation. */
  productReliability: number[] = [];
  private readonly products: ProductColumns | null;
  private readonly equations: NormalEquations;

  constructor(readonly plan: EstimationPlan) {
    const { layout, productColumns } = plan;
    const { indicators: p, constructs: c } = layout;
    this.algorithm = new WeightAlgorithm(layout, plan.rounds ?? MOST_ROUNDS);
    this.r = new Float64Array(p * p);
    this.sds = new Float64Array(p);
    this.rho = new Float64Array(c).fill(1);
    this.phi = new Float64Array(c * c);
    this.offsets = [];
    let count = 0;
    for (const { predictors, products } of plan.equations) {
      this.offsets.push(count);
      count += predictors.length + products.length;
    }
    this.coefficients = new Float64Array(count);
    this.products = productColumns.length > 0 ? new ProductColumns(productColumns, p) : null;
    const sizes = plan.equations.map((e) => e.predictors.length + e.products.length);
    this.equations = new NormalEquations(Math.max(1, ...sizes));
    this.scoreProducts =
      plan.products.length > 0
        ? new ScoreProducts(
            {
              values: plan.values,
              indicators: p,
              rows: plan.n,
              start: layout.start,
              constructs: c,
            },
            plan.products,
          )
        : null;
    const width = c + plan.products.length;
    this.moments = new Float64Array(plan.products.length > 0 ? width * width : 0);
  }

  /** @returns null where it worked; the estimates are then in the arrays, until the next call */
  estimate(sample: SampleMoments): Failure | null {
    const failure = this.measure(sample);
    if (failure) return failure;
    return this.structure(sample);
  }

  /** Weights, correlations of scores. */
  measure({ covariances, means }: SampleMoments): Failure | null {
    if (this.products && !this.products.apply(covariances, means)) return "singular_products";
    if (!this.standardise(covariances)) return "zero_variance";
    const ending = this.algorithm.run(this.r);
    return ending === "converged" ? null : ending;
  }

  /** Corrections and coefficients, after `measure`. */
  structure(sample: SampleMoments): Failure | null {
    if (!this.correct()) return "rho_not_positive";
    this.multiply(sample);
    const { plan, coefficients, offsets, equations, phi, moments } = this;
    const { constructs: c } = plan.layout;
    plan.equations.forEach(({ outcome, predictors, products }, e) => {
      const at = offsets[e]!;
      const tolerance =
        products.length > 0
          ? equations.solve(
              moments,
              c + plan.products.length,
              [...predictors, ...products.map((q) => c + q)],
              outcome,
              coefficients,
              at,
            )
          : equations.solve(phi, c, predictors, outcome, coefficients, at);
      if (!(tolerance >= SINGULAR) || products.some((q) => this.productReliability[q]! <= 0))
        coefficients.fill(NaN, at, at + predictors.length + products.length);
    });
    return null;
  }

  /**
   * The intercept of an equation: the mean of its standardised outcome is zero, those of products
   * are not.
   */
  intercept(e: number): number {
    const { predictors, products } = this.plan.equations[e]!;
    const at = this.offsets[e]! + predictors.length;
    return -products.reduce(
      (sum, q, i) => sum + this.coefficients[at + i]! * this.scoreProducts!.means[q]!,
      0,
    );
  }

  private standardise(s: Float64Array): boolean {
    const { r, sds } = this;
    const p = sds.length;
    for (let k = 0; k < p; k++) {
      const variance = s[k * p + k]!;
      // Columns are in SDs of the sample, so this is a constant but for rounding.
      if (!(variance > CONSTANT)) return false;
      sds[k] = Math.sqrt(variance);
    }
    for (let k = 0; k < p; k++) {
      r[k * p + k] = 1;
      for (let m = 0; m < k; m++) {
        const value = s[k * p + m]! / (sds[k]! * sds[m]!);
        r[k * p + m] = value;
        r[m * p + k] = value;
      }
    }
    return true;
  }

  /**
   * Reliabilities, and the correlations of constructs without measurement error.
   * @returns false where there are none
   */
  private correct(): boolean {
    const { plan, rho, phi, algorithm } = this;
    const { constructs: c, start, modes } = plan.layout;
    const { weights, correlations } = algorithm;
    if (!plan.consistent) {
      phi.set(correlations);
      return true;
    }
    for (let j = 0; j < c; j++) {
      const given = plan.given[j]!;
      if (plan.corrected[j] && modes[j] === BY_CORRELATION)
        rho[j] = rhoA(weights, start[j]!, start[j + 1]!);
      else rho[j] = Number.isNaN(given) ? 1 : given;
      if (!(rho[j]! > 0)) return false;
    }
    for (let i = 0; i < c; i++)
      for (let j = 0; j < c; j++)
        phi[i * c + j] = i === j ? 1 : correlations[i * c + j]! / Math.sqrt(rho[i]! * rho[j]!);
    return true;
  }

  private multiply(sample: SampleMoments): void {
    const { plan, scoreProducts, moments, algorithm } = this;
    if (!scoreProducts) return;
    const { weights, correlations } = algorithm;
    scoreProducts.find(
      sample.rowWeights(),
      sample.total,
      weights,
      sample.means,
      this.sds,
      correlations,
    );
    if (plan.consistent)
      this.productReliability = correctedMoments(scoreProducts, plan.products, this.rho, moments);
    else moments.set(scoreProducts.covariances);
  }
}

/** In the variance of the whole sample: less than this is a constant and rounding. */
const CONSTANT = 1e-12;
