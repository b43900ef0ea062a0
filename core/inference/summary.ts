import type { IntervalKind } from "../study";

/** Which summary of the resamples an interval method reads. */
export const SUMMARY = {
  bca: "bca",
  bc: "bc",
  percentile: "percentile",
  bootstrap_t: "bootstrapT",
  basic: "basic",
  normal: "normal",
} as const;

export const isBootstrap = (method: IntervalKind): method is keyof typeof SUMMARY =>
  method in SUMMARY;
