import type { ErrorKind, IntervalKind, Settings } from "../../../core";

/** What each way of making an interval is good for. */
export const INTERVAL_HELP: Record<IntervalKind, string> = {
  bca: "Bias-corrected and accelerated: adjusts for bias and skewness. What reviewers mostly expect; with indirect effects somewhat liberal below about 100 cases.",
  bc: "Bias-corrected: adjusts for bias only; with indirect effects the most liberal in small samples.",
  percentile:
    "The middle of the bootstrap distribution as it is; keeps the error rate better in small samples, at some loss of power.",
  bootstrap_t:
    "Each bootstrap sample is measured in its own standard error. Good under skewness, unsteady in small samples; takes longer.",
  basic: "The percentile interval mirrored at the estimate.",
  normal: "Estimate less bias, plus and minus z times the bootstrap error. Assumes symmetry.",
  monte_carlo:
    "Draws coefficients from their normal distribution instead of resampling cases. Fast. Single coefficients keep their t intervals.",
  delta:
    "Single coefficients by t, products by a first-order normal approximation, which assumes a symmetry that products seldom have.",
};

/** What each kind of standard error takes for granted. */
export const ERROR_HELP: Record<ErrorKind, string> = {
  classical: "Assumes that residuals spread equally everywhere.",
  HC0: "Allows unequal spread; too small in small samples.",
  HC1: "HC0 with a degrees-of-freedom correction.",
  HC2: "HC0 corrected for leverage.",
  HC3: "Corrects strongly for leverage; a good default under unequal spread.",
  HC4: "Like HC3, adapts to cases with very high leverage.",
  expected: "From the expected information; right where the items are normal.",
  observed: "From the observed information; the usual choice with values missing.",
  robust: "Allows items that are not normal (sandwich of case scores).",
  robust_expected: "Allows items that are not normal, around the expected information.",
  naive: "Takes the weights of the estimator as right.",
  normal_theory: "By normal theory, around this estimator.",
};

/** Names of kinds that are not their own. */
export const ERROR_WORDS: Partial<Record<ErrorKind, string>> = {
  expected: "expected information",
  observed: "observed information",
  robust: "robust",
  robust_expected: "robust, expected information",
  naive: "as the weights say",
  normal_theory: "normal theory",
};

/** What each choice does to coefficients; centring does nothing to effects, regions and indices. */
export const CENTRING_WORDS: Record<Settings["centring"], string> = {
  none: "A lower-order coefficient is the slope where its partner is 0, which may be far from the data. Effects are the same in each way.",
  mean: "A lower-order coefficient is the slope at the partner's mean. Effects, regions and indices do not change.",
  products: "Slopes as when centred; the intercept stays that of the raw columns.",
  standardised:
    "Every numeric variable, outcomes too, is turned into z-scores before products are made. Effects and probe values are then in SDs, found anew in every resample.",
};
