/** A term of the trade as the screens use it. */
export interface GlossaryEntry {
  term: string;
  definition: string;
  formula?: string;
  /** Where it comes from. */
  source?: string;
}

/** Terms with their definitions, in alphabetical order; screens explain their words from here. */
export const GLOSSARY: readonly GlossaryEntry[] = [
  {
    term: "alpha",
    definition:
      "Internal consistency of a sum or mean of items; a lower bound of its reliability when errors are unrelated, exact when all items measure equally well.",
    formula: "k / (k − 1) · (1 − Σ item variances / variance of the sum)",
    source: "Cronbach 1951, Psychometrika 16",
  },
  {
    term: "alpha if item deleted",
    definition:
      "Alpha of the remaining items. Where it is clearly higher, the item disturbs the scale.",
  },
  {
    term: "AVE",
    definition:
      "Average variance extracted: the mean share of its items' variance that a construct explains.",
    formula: "Σ λ² / k",
    source: "Fornell & Larcker 1981, J Marketing Res 18",
  },
  {
    term: "average marginal effect",
    definition:
      "The mean change of a response with a predictor over all rows: from 0 to 1, or per unit, everything else as it is.",
    source: "Ai & Norton 2003, Econ Letters 80",
  },
  {
    term: "BCa interval",
    definition:
      "Bias-corrected and accelerated bootstrap interval: the percentiles are moved for the bias and the skewness of the bootstrap distribution.",
    source: "Efron 1987, JASA 82",
  },
  {
    term: "beta",
    definition:
      "Standardised coefficient: the change of the outcome, in its standard deviations, for one standard deviation of the predictor, other predictors held.",
    formula: "b · SD(predictor) / SD(outcome)",
  },
  {
    term: "bootstrap samples",
    definition:
      "Samples drawn with replacement from the data, each as large as they are. The scatter of an estimate over them stands for its sampling error.",
    source: "Efron & Tibshirani 1993",
  },
  {
    term: "CFI",
    definition:
      "Comparative fit index: how far the model comes from uncorrelated variables towards a perfect fit; values near 1 are good, .95 is a common guide.",
    formula: "1 − max(χ² − df, 0) / max(χ² − df, χ² of the baseline − its df, 0)",
    source: "Bentler 1990, Psychol Bull 107",
  },
  {
    term: "collinearity",
    definition:
      "Predictors that nearly determine one another. Their separate coefficients are imprecise; their joint explanation is not.",
  },
  {
    term: "composite",
    definition:
      "A construct that is made of its items, as a weighted sum; the weights follow from how it is related to others.",
    source: "Wold 1982",
  },
  {
    term: "composite reliability",
    definition: "Reliability of a sum of items from their loadings, which need not be equal.",
    formula: "(Σ λ)² / ((Σ λ)² + Σ (1 − λ²))",
    source: "Jöreskog 1971, Psychometrika 36",
  },
  {
    term: "conditional effect",
    definition:
      "The effect of a predictor at a stated value of a moderator; of one path, the simple slope.",
    source: "Aiken & West 1991",
  },
  {
    term: "controlled direct effect",
    definition: "The effect of a treatment if the mediator were the same for everybody.",
    formula: "E[Y(x1, m)] − E[Y(x0, m)]",
    source: "Pearl 2001",
  },
  {
    term: "corrected item-total r",
    definition: "Correlation of an item with the sum of the other items of its measure.",
  },
  {
    term: "cross-loadings",
    definition:
      "Correlations of an item with the scores of constructs that it is not meant to measure.",
  },
  {
    term: "decision",
    definition:
      "Supported: the interval excludes zero on the stated side. Not supported: it does not. Unsettled: another seed could change which.",
  },
  {
    term: "direct effect",
    definition: "The effect of a predictor on an outcome with the mediators held.",
  },
  {
    term: "E-value",
    definition:
      "The least ratio by which something left out has to be related to both mediator and outcome to explain an effect away.",
    formula: "R + √(R (R − 1))",
    source: "VanderWeele & Ding 2017, Ann Intern Med 167",
  },
  {
    term: "excludes zero",
    definition:
      "Zero lies outside the confidence interval: at its level the data are not compatible with no effect.",
  },
  {
    term: "f²",
    definition:
      "How much better an outcome is explained with a predictor than without it, relative to what stays unexplained.",
    formula: "(R² with − R² without) / (1 − R² with)",
    source: "Cohen 1988",
  },
  {
    term: "Fornell-Larcker",
    definition:
      "A construct should share more variance with its own items than with any other construct: its √AVE exceeds its correlations.",
    source: "Fornell & Larcker 1981, J Marketing Res 18",
  },
  {
    term: "homoscedasticity",
    definition:
      "Residuals spread equally at all values of the predictors. Where they do not, classical standard errors mislead; HC3 and the bootstrap do not.",
    source: "Koenker 1981, J Econometrics 17",
  },
  {
    term: "HTMT",
    definition:
      "Heterotrait-monotrait ratio: correlations of items between two constructs, relative to those within them; near 1 the two cannot be told apart.",
    source: "Henseler, Ringle & Sarstedt 2015, J Acad Marketing Sci 43",
  },
  {
    term: "index of moderated mediation",
    definition: "By how much the indirect effect changes for one unit of the moderator.",
    formula: "∂(indirect effect) / ∂(moderator)",
  },
  {
    term: "indirect effect",
    definition:
      "What of a predictor's effect passes through mediators: the product of the paths along them.",
    formula: "a · b",
  },
  {
    term: "influential cases",
    definition: "Cases without which coefficients would change noticeably.",
    formula: "Cook's distance: r² / p · h / (1 − h)",
    source: "Cook 1977, Technometrics 19",
  },
  {
    term: "Johnson-Neyman region",
    definition: "The values of a moderator at which a conditional effect differs from zero.",
    source: "Johnson & Fay 1950, Psychometrika 15; Bauer & Curran 2005",
  },
  {
    term: "latent variable",
    definition:
      "A variable that is not observed itself: what its items have in common explains their answers, each with an error of its own.",
    source: "Bollen 1989",
  },
  {
    term: "linearity",
    definition: "The mean of the outcome moves along a straight line with each predictor.",
    source: "RESET: Ramsey 1969, JRSS-B 31",
  },
  {
    term: "loading",
    definition:
      "The effect of a latent variable on an item: by how much the item moves when the latent variable moves by one unit.",
  },
  {
    term: "Monte Carlo SE of the limit",
    definition:
      "How far a limit of a simulated interval would scatter over other seeds; more bootstrap samples make it smaller.",
  },
  {
    term: "natural direct effect",
    definition:
      "What a treatment changes without its mediator: pure with the mediator as under the value it is compared with, total with the mediator as under the treatment.",
    formula: "E[Y(x1, M(x0))] − E[Y(x0, M(x0))]",
    source: "Robins & Greenland 1992, Epidemiology 3; Pearl 2001",
  },
  {
    term: "natural indirect effect",
    definition:
      "What a treatment changes because it changes the mediator: total under the treatment, pure under the value it is compared with.",
    formula: "E[Y(x1, M(x1))] − E[Y(x1, M(x0))]",
    source: "Robins & Greenland 1992, Epidemiology 3; Pearl 2001",
  },
  {
    term: "odds ratio",
    definition:
      "How many times larger the odds of yes are: p / (1 − p) at one value over that at the other. Far from one it is no ratio of probabilities.",
  },
  {
    term: "omega",
    definition: "Reliability of the sum of items from one common factor with free loadings.",
    formula: "(Σ λ)² / ((Σ λ)² + Σ uniqueness)",
    source: "McDonald 1999",
  },
  {
    term: "p",
    definition:
      "The probability, if the effect were zero, of an estimate at least as far from zero as this one; by the test that is named beside it.",
  },
  {
    term: "partial mediation",
    definition: "Both the indirect and the direct effect differ from zero, with the same sign.",
    source: "Zhao, Lynch & Chen 2010, J Consumer Research 37",
  },
  {
    term: "Q² of prediction",
    definition:
      "Share of the squared errors of the plain mean that the model takes away in people it has not seen; zero or less is no better than the mean.",
    formula: "1 − Σ (x − x̂)² / Σ (x − mean)²",
    source: "Shmueli et al. 2016, J Bus Res 69",
  },
  {
    term: "quasi-Bayesian interval",
    definition: "Percentiles of an effect over coefficients drawn from their normal distribution.",
    source: "Imai, Keele & Tingley 2010, Psychol Methods 15",
  },
  {
    term: "residual SD",
    definition:
      "Standard deviation of what an equation leaves unexplained, in units of the outcome.",
  },
  {
    term: "rho_A",
    definition:
      "Reliability of a weighted score of items that reflect a common factor, from its weights.",
    source: "Dijkstra & Henseler 2015, MIS Quarterly 39",
  },
  {
    term: "RMSEA",
    definition:
      "Root mean square error of approximation: misfit for each degree of freedom, with an interval; .05 and less counts as close.",
    formula: "√(max(χ² − df, 0) / (n · df))",
    source: "Steiger & Lind 1980; Browne & Cudeck 1993",
  },
  {
    term: "SE",
    definition:
      "Standard error: by how much an estimate scatters over samples. The kind in use is named: classical, HC0 to HC4 (robust to unequal spread), CR2 (clusters), bootstrap.",
    source: "White 1980; MacKinnon & White 1985; Cribari-Neto 2004",
  },
  {
    term: "squared multiple r",
    definition: "Share of an item's variance that the other items explain.",
  },
  {
    term: "SRMR",
    definition:
      "Standardised root mean square residual: the size of what the model leaves of the correlations and means; .08 and less is a common guide.",
    source: "Bentler 1995",
  },
  {
    term: "suppression",
    definition:
      "A predictor whose coefficient lies beyond its correlation with the outcome, because another predictor takes irrelevant variance out of it.",
    source: "MacKinnon, Krull & Lockwood 2000, Prevention Science 1",
  },
  {
    term: "TLI",
    definition:
      "Tucker-Lewis index: like the CFI, with a penalty for every parameter; it can pass 1.",
    formula: "(χ²/df of the baseline − χ²/df) / (χ²/df of the baseline − 1)",
    source: "Tucker & Lewis 1973, Psychometrika 38",
  },
  {
    term: "total effect",
    definition: "Direct and all indirect effects together.",
    formula: "c = c′ + Σ indirect",
  },
  {
    term: "unsettled",
    definition:
      "The limit that decides lies within two Monte Carlo errors of zero: another seed could turn the decision. More bootstrap samples settle it.",
  },
  {
    term: "VIF",
    definition:
      "Variance inflation factor: by how much the variance of a coefficient grows because its predictor is correlated with others. Above 10 it usually counts as high.",
    formula: "1 / (1 − R² of the predictor on the others)",
  },
  {
    term: "weight",
    definition: "What an item contributes to the score of its composite, in SDs of both.",
  },
  {
    term: "zero-order correlation",
    definition: "The correlation of two variables with nothing else held.",
  },
];

/** The entry of a term, upper and lower case alike. */
export const glossaryEntry = (term: string): GlossaryEntry | undefined =>
  GLOSSARY.find((entry) => entry.term.toLowerCase() === term.toLowerCase());
