import type { GlossaryEntry } from "./entry";

/** How sure one can be: errors, intervals, tests and verdicts. */
export const INFERENCE: readonly GlossaryEntry[] = [
  {
    term: "acceleration",
    definition:
      "How fast the standard error changes with the effect itself, from leaving out one row at a time.",
    formula: "Σ d³ / (6 · √(Σ d²)³)",
    source: "Efron 1987, JASA 82",
  },
  {
    term: "basic interval",
    also: ["basic", "basic bootstrap"],
    definition: "The percentile interval mirrored at the estimate.",
    formula: "2 · estimate − percentile",
    source: "Davison & Hinkley 1997",
  },
  {
    term: "BC interval",
    also: ["bias-corrected (BC)", "bias-corrected"],
    definition:
      "Bias-corrected bootstrap interval: percentiles moved for the share of bootstrap estimates below the estimate.",
    source: "Efron 1981; Efron & Tibshirani 1993",
  },
  {
    term: "BCa interval",
    also: ["BCa", "BCa CI", "bias-corrected and accelerated (BCa)"],
    definition:
      "Bias-corrected and accelerated bootstrap interval: the percentiles are moved for the bias and the skewness of the bootstrap distribution.",
    source: "Efron 1987, JASA 82",
  },
  {
    term: "bias",
    definition:
      "Mean of the estimates over samples less what they estimate; over bootstrap samples, less the estimate.",
  },
  {
    term: "bootstrap samples",
    also: ["resamples"],
    definition:
      "Samples drawn with replacement from the data, each as large as they are. The scatter of an estimate over them stands for its sampling error.",
    source: "Efron & Tibshirani 1993",
  },
  {
    term: "bootstrap-t interval",
    also: ["bootstrap-t"],
    definition: "Quantiles of the bootstrap estimates, each measured in its own standard error.",
    source: "Efron & Tibshirani 1993",
  },
  {
    term: "cluster-robust errors",
    also: ["CR2"],
    definition:
      "Standard errors for people who come in clusters, such as classes, with a correction for few of them.",
    source: "Bell & McCaffrey 2002",
  },
  {
    term: "cannot be tested",
    definition:
      "No interval and no p can be had: one cluster alone on a side of a comparison, more than a tenth of the bootstrap samples without a fit, an outcome explained without rest, a path that is held at a number. The reason says which.",
  },
  {
    term: "caution",
    also: ["cautions", "limits of these results"],
    definition:
      "A warning that touches a verdict, and stands wherever that verdict stands: few clusters or events, failed bootstrap samples, intervals that err more often than their level says.",
  },
  {
    term: "confidence band",
    also: ["band", "band lower", "band upper"],
    definition:
      "A confidence interval at every point of a line; simultaneous where all points are to be covered at once.",
    source: "Bauer & Curran 2005, Multivar Behav Res 40",
  },
  {
    term: "confidence interval",
    also: [
      "CI",
      "CI lower",
      "CI upper",
      "lower",
      "upper",
      "interval",
      "for the interval",
      "robust CI",
      "resampled CI",
    ],
    definition:
      "The values of an effect that the data are compatible with; over many samples a 95 % interval holds the true value 95 times in 100.",
  },
  {
    term: "decision",
    also: ["verdict"],
    definition:
      "Supported: the interval excludes zero on the stated side. Not supported: it does not. Unsettled: another seed could change which.",
  },
  {
    term: "delta method",
    also: ["delta", "delta-method"],
    definition:
      "Standard error of a function of coefficients from its slopes in them; the interval is symmetric. For a product also known as the Sobel test.",
    formula: "√(a² SE_b² + b² SE_a²)",
    source: "Sobel 1982; Oehlert 1992",
  },
  {
    term: "excludes zero",
    definition:
      "Zero lies outside the confidence interval: at its level the data are not compatible with no effect.",
  },
  {
    term: "Holm's correction",
    also: ["p, adjusted (Holm)", "adjusted p", "Holm"],
    definition:
      "The p of several hypotheses, from the smallest on, times the number of those left, so that the chance of any false finding stays at the level.",
    source: "Holm 1979, Scand J Stat 6",
  },
  {
    term: "Monte Carlo interval",
    also: ["Monte Carlo"],
    definition: "Percentiles of an effect over coefficients drawn from their normal distribution.",
    source: "MacKinnon, Lockwood & Williams 2004, Multivar Behav Res 39",
  },
  {
    term: "Monte Carlo SE of the limit",
    also: ["Monte Carlo error"],
    definition:
      "How far a limit of a simulated interval would scatter over other seeds; more bootstrap samples make it smaller.",
  },
  {
    term: "normal interval",
    also: ["normal", "normal bootstrap", "normal with bias correction"],
    definition: "Estimate less bias, plus and minus z times the bootstrap error.",
    source: "Davison & Hinkley 1997",
  },
  {
    term: "p",
    also: ["p, two-tailed", "p of it"],
    definition:
      "The probability, if the effect were zero, of an estimate at least as far from zero as this one; by the test that is named beside it.",
  },
  {
    term: "percentile interval",
    also: ["percentile"],
    definition: "The middle of the bootstrap distribution as it is.",
    source: "Efron 1981",
  },
  {
    term: "quasi-Bayesian interval",
    also: ["quasi-Bayesian"],
    definition: "Percentiles of an effect over coefficients drawn from their normal distribution.",
    source: "Imai, Keele & Tingley 2010, Psychol Methods 15",
  },
  {
    term: "robust errors",
    also: ["HC0", "HC1", "HC2", "HC3", "HC4", "SE (robust)"],
    definition:
      "Standard errors that stay right under unequal spread of residuals; HC3 also in small samples.",
    source: "White 1980; MacKinnon & White 1985; Long & Ervin 2000",
  },
  {
    term: "SE",
    definition:
      "Standard error: by how much an estimate scatters over samples. The kind in use is named: classical, HC0 to HC4 (robust to unequal spread), CR2 (clusters), bootstrap.",
    source: "White 1980; MacKinnon & White 1985; Cribari-Neto 2004",
  },
  {
    term: "seed",
    definition:
      "The number that random draws start from: the same seed gives the same resamples and the same limits, on any machine.",
  },
  {
    term: "t",
    also: ["t or z"],
    definition: "Estimate in units of its standard error, compared with the t distribution.",
    formula: "estimate / SE",
  },
  {
    term: "unsettled",
    definition:
      "Another seed could turn the decision: the limit that decides lies within two Monte Carlo errors of zero or among the most extreme samples, the sign that “strengthens” is read by does, or an adjusted p lies as near its limit. More bootstrap samples settle it.",
  },
  {
    term: "Wald test",
    also: ["Wald χ²", "p of Wald"],
    definition:
      "Joint test that several quantities are zero or equal, from their estimates and covariances.",
    formula: "d′ V⁻¹ d",
  },
  {
    term: "z",
    definition: "Estimate in units of its standard error, compared with the normal distribution.",
    formula: "estimate / SE",
  },
  {
    term: "classical errors",
    also: ["classical"],
    definition:
      "Standard errors that assume residuals spread equally at all values of the predictors.",
    formula: "residual variance · (X′X)⁻¹",
  },
  {
    term: "errors from the information",
    also: ["expected", "observed", "robust", "robust_expected", "naive", "normal_theory"],
    definition:
      "Standard errors of maximum likelihood from the curvature of the likelihood: as expected for normal variables, as observed in the data (better with values missing), or robust to answers that are not normal.",
    formula: "I⁻¹; robust: I⁻¹ J I⁻¹",
    source: "Efron & Hinkley 1978, Biometrika 65; Yuan & Bentler 2000",
  },
];
