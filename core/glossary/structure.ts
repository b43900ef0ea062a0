import type { GlossaryEntry } from "./entry";

/** Models of covariances and of composites: how they are estimated, fit and predict. */
export const STRUCTURE: readonly GlossaryEntry[] = [
  {
    term: "asymptotically distribution-free",
    also: ["ADF"],
    definition:
      "Weighted least squares by the fourth moments of the data. Needs no normality, but very many people.",
    source: "Browne 1984, Br J Math Stat Psychol 37",
  },
  {
    term: "benchmark of prediction",
    also: ["benchmark", "Q² of the benchmark"],
    definition:
      "What a plain regression of each item on the items of the predictors achieves; a theory that predicts worse adds nothing to prediction.",
    source: "Shmueli et al. 2016, J Bus Res 69",
  },
  {
    term: "CFI",
    definition:
      "Comparative fit index: how far the model comes from uncorrelated variables towards a perfect fit; values near 1 are good, .95 is a common guide.",
    formula: "1 − max(χ² − df, 0) / max(χ² − df, χ² of the baseline − its df, 0)",
    source: "Bentler 1990, Psychol Bull 107",
  },
  {
    term: "composite",
    also: ["composites"],
    definition:
      "A construct that is made of its items, as a weighted sum; the weights follow from how it is related to others.",
    source: "Wold 1982",
  },
  {
    term: "degrees of freedom",
    also: ["df"],
    definition:
      "In a test of fit: known moments less free parameters. In an equation: rows less coefficients.",
  },
  {
    term: "diagonally weighted least squares",
    also: ["DWLS"],
    definition:
      "Least squares weighted by the variances of the covariances alone, with errors corrected for it.",
    source: "Satorra & Bentler 1994",
  },
  {
    term: "exact fit by bootstrap",
    also: ["95 % of resamples below", "99 % below", "Bollen-Stine"],
    definition:
      "The misfit compared with that of samples drawn from data that were turned so that the model holds in them exactly.",
    source: "Beran & Srivastava 1985; Bollen & Stine 1992",
  },
  {
    term: "f²",
    definition:
      "How much better an outcome is explained with a predictor than without it, relative to what stays unexplained.",
    formula: "(R² with − R² without) / (1 − R² with)",
    source: "Cohen 1988",
  },
  {
    term: "full information",
    also: ["FIML"],
    definition:
      "Maximum likelihood that uses every answer of every person, without filling in. Right where missing answers depend on what was observed.",
    source: "Arbuckle 1996; Enders 2010",
  },
  {
    term: "generalised least squares",
    also: ["GLS"],
    definition:
      "Fits covariances weighted by their normal-theory errors; close to maximum likelihood in large samples.",
    source: "Jöreskog & Goldberger 1972, Psychometrika 37",
  },
  {
    term: "inner weighting",
    also: ["path scheme", "factor scheme", "centroid scheme"],
    definition:
      "How a composite is drawn towards its neighbours while weights are found: by regression or correlation (path), correlation (factor) or its sign (centroid).",
    source: "Lohmöller 1989",
  },
  {
    term: "invariance of composites",
    also: ["same scores (correlation)", "log ratio of variances", "difference of means"],
    definition:
      "In three steps: the same making, the same weights (scores correlate 1), the same means and variances.",
    source: "Henseler, Ringle & Sarstedt 2016, Int Marketing Rev 33",
  },
  {
    term: "MAE",
    definition: "Mean absolute error of predictions of people the model has not seen.",
    formula: "Σ |x − x̂| / n",
  },
  {
    term: "maximum likelihood",
    also: ["ML"],
    definition:
      "Estimates under which the observed data are most probable, for normal variables; by full information where answers are missing.",
    source: "Bollen 1989",
  },
  {
    term: "modification index",
    also: ["χ² falls by", "score test"],
    definition:
      "By how much χ² would about fall if a parameter that is held were free. A suggestion to think, made from the same data.",
    source: "Sörbom 1989, Psychometrika 54",
  },
  {
    term: "partial least squares",
    definition:
      "Composites and the paths between them by turns: weights from the constructs around, then regressions of the scores.",
    source: "Wold 1982; Lohmöller 1989",
  },
  {
    term: "permutation",
    also: ["by chance", "5 % limit"],
    definition:
      "Group labels are shuffled many times, to see how often a difference as large comes by chance.",
    source: "Chin & Dibbern 2010",
  },
  {
    term: "Q² of prediction",
    definition:
      "Share of the squared errors of the plain mean that the model takes away in people it has not seen; zero or less is no better than the mean.",
    formula: "1 − Σ (x − x̂)² / Σ (x − mean)²",
    source: "Shmueli et al. 2016, J Bus Res 69",
  },
  {
    term: "RMSE",
    definition: "Root mean square error of predictions of people the model has not seen.",
    formula: "√(Σ (x − x̂)² / n)",
  },
  {
    term: "RMSEA",
    definition:
      "Root mean square error of approximation: misfit for each degree of freedom, with an interval; .05 and less counts as close.",
    formula: "√(max(χ² − df, 0) / (n · df))",
    source: "Steiger & Lind 1980; Browne & Cudeck 1993",
  },
  {
    term: "scaled test",
    also: ["scaled", "scaled (Satorra-Bentler)", "scaled (Yuan-Bentler)"],
    definition:
      "The χ² divided by a correction for answers that are not normal; indices of fit made from it follow.",
    source: "Satorra & Bentler 1994; Yuan & Bentler 2000",
  },
  {
    term: "SRMR",
    definition:
      "Standardised root mean square residual: the size of what the model leaves of the correlations and means; .08 and less is a common guide.",
    source: "Bentler 1995",
  },
  {
    term: "TLI",
    definition:
      "Tucker-Lewis index: like the CFI, with a penalty for every parameter; it can pass 1.",
    formula: "(χ²/df of the baseline − χ²/df) / (χ²/df of the baseline − 1)",
    source: "Tucker & Lewis 1973, Psychometrika 38",
  },
  {
    term: "unweighted least squares",
    also: ["ULS"],
    definition: "Fits covariances without weights. Needs no normality, depends on the scales.",
    source: "Bollen 1989",
  },
  {
    term: "weight",
    also: ["weights"],
    definition: "What an item contributes to the score of its composite, in SDs of both.",
  },
  {
    term: "χ²",
    also: ["unscaled", "chi-square"],
    definition:
      "Test of exact fit: how far the covariances that the model implies are from those observed. It grows with the sample, and so do its complaints.",
    formula: "(n − 1) or n times the minimum of the fit function",
    source: "Bollen 1989",
  },
  {
    term: "χ² difference",
    also: ["Δχ²", "Δdf", "scaled Δχ²"],
    definition: "Test of what a model holds equal or leaves out, against the model that does not.",
    source: "Satorra & Bentler 2001, Psychometrika 66",
  },
  {
    term: "generalised linear model",
    also: ["generalised linear models", "logistic", "probit", "Poisson", "negative binomial"],
    definition:
      "A regression whose outcome is yes/no or a count: the mean follows a straight line on the scale of a link.",
    formula: "g(mean of y) = i + b₁x₁ + …",
    source: "McCullagh & Nelder 1989",
  },
  {
    term: "least squares",
    definition:
      "The line or plane with the smallest sum of squared residuals, equation by equation.",
    formula: "b = (X′X)⁻¹ X′y",
  },
];
