import type { BootstrapP } from "./bootstrap-p";

/** Limits of one method with everything that is said of them. */
export interface BootstrapInterval extends BootstrapP {
  lower: number;
  upper: number;
  /** Probabilities at which the replicates' quantiles were taken. */
  adjusted: [number, number];
  /** Bounds at the whole error in one tail. */
  oneSidedLower: number;
  oneSidedUpper: number;
  /** Monte Carlo error of each limit: how far another seed would move it. */
  mcseLower: number;
  mcseUpper: number;
  /** The same of the one-sided bounds. */
  mcseOneSidedLower: number;
  mcseOneSidedUpper: number;
  /**
   * How many replicates lie beyond each limit, and beyond the one-sided bounds, as the tails say it;
   * null where no limit is a quantile.
   */
  beyond: [number, number] | null;
  beyondOneSided: [number, number] | null;
  /** An adjusted tail lies beyond the replicates, so the limit is the extreme one. */
  tooFewReplicates: boolean;
  /** The limit nearer the null lies within two Monte Carlo errors of it. */
  unsettled: boolean;
  /** Replicates that would settle it, when unsettled. */
  suggested: number | null;
}

export interface BootstrapSummary {
  /** Replicates used. */
  used: number;
  /** Replicates in which this quantity was not finite; with too many of them there are no limits. */
  missing: number;
  se: number | null;
  bias: number;
  /** Share of replicates below the estimate, ties counted half. */
  below: number;
  /** Null when infinite (all replicates on one side). */
  z0: number | null;
  acceleration: number | null;
  accelerationZero: boolean;
  percentile: BootstrapInterval | null;
  bc: BootstrapInterval | null;
  bca: BootstrapInterval | null;
  basic: BootstrapInterval | null;
  normal: BootstrapInterval | null;
  bootstrapT: BootstrapInterval | null;
}

export interface IntervalInput {
  estimate: number;
  /** Finite values, at least one. */
  replicates: Float64Array;
  /** The same in ascending order, where they have been sorted already. */
  sorted?: Float64Array;
  /** Fitted replicates in which the quantity was not finite. */
  missing?: number;
  /** Share of all resamples whose fit failed. */
  failed?: number;
  /** Jackknife values that did not fail; empty when BCa is not wanted. */
  jackknife: ArrayLike<number>;
  /** Stratum of each jackknife value, where rows were drawn within strata. */
  strata?: ArrayLike<number> | null;
  /** Confidence level. */
  level: number;
  nullValue?: number;
  /** Standard error of the estimate and of each replicate, for the bootstrap-t. */
  se?: number | undefined;
  replicateSe?: ArrayLike<number> | undefined;
}
