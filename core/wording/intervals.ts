/** What each kind of interval is called in a sentence. */
export const INTERVAL_WORDS: Record<string, string> = {
  bca: "BCa",
  bc: "bias-corrected",
  percentile: "percentile",
  basic: "basic bootstrap",
  normal: "normal bootstrap",
  bootstrap_t: "bootstrap-t",
  monte_carlo: "Monte Carlo",
  delta: "delta-method",
};
