import type { CovarianceKind } from "../study";
import type { Covariance } from "./covariance";

/** Columns of which a kernel wants sums and cross-products in every resample. */
export interface KernelColumns {
  width: number;
  /** Row-major n x width. */
  values: Float64Array;
  /** Row-major n x extra: columns of which only sums are wanted. */
  extra: Float64Array;
}

/** One resample, as a kernel sees it. What it holds is written over by the next one. */
export interface Resample {
  /** Sum of the weights. */
  total: number;
  /** Weighted sums of the kernel's columns. */
  sums: Float64Array;
  /** Weighted sums of their products, row-major width x width, upper triangle. */
  cross: Float64Array;
  /** Weighted sums of the extra columns. */
  extra: Float64Array;
  /** The weight of every row: how often it was drawn. */
  weights(): Float64Array;
}

/** Which covariance of the coefficients is wanted of every resample. */
export interface CovarianceRule {
  kind: CovarianceKind;
  crossEquations: "joint" | "zero";
}

/**
 * The covariance of the parameters within a resample, for the bootstrap-t; written over by each
 * `find`.
 */
export interface ResampleCovariance extends Covariance {
  /** @returns false where the resample has none */
  find(weights: Float64Array): boolean;
}

/**
 * Refits a model under row weights, fast and without allocating. Made from plain data that a worker
 * was given; it knows nothing of studies, sentences or effects.
 */
export interface Kernel {
  /** Rows of the sample. */
  n: number;
  /** Parameters of a fit. */
  size: number;
  /** Null where it works on the weights alone. */
  columns: KernelColumns | null;
  /** Parameters from here on are averages over the sample, which the delta method holds fixed. */
  firstFixed: number;
  /**
   * Writes the parameters of a resample to `out` at `at`.
   * @returns false when the replicate fails (singular, not converged, a level lost); `out` is then
   *   not meaningful
   */
  refit(resample: Resample, out: Float64Array, at: number): boolean;
  /** Where the engine knows standard errors within a resample. */
  covariance?(rule: CovarianceRule): ResampleCovariance;
}
