import type { GlossaryEntry } from "./entry";

/** What is said of one equation, one variable, one row. */
export const EQUATIONS: readonly GlossaryEntry[] = [
  {
    term: "adjusted R²",
    definition: "R² less what predictors explain by chance.",
    formula: "1 − (1 − R²)(n − 1) / (n − k − 1)",
    source: "Ezekiel 1930",
  },
  {
    term: "b",
    also: ["coefficient", "b (z-scores)"],
    definition:
      "Unstandardised coefficient: the change of the outcome for one unit of the predictor, other predictors held.",
  },
  {
    term: "collinearity",
    definition:
      "Predictors that nearly determine one another. Their separate coefficients are imprecise; their joint explanation is not.",
  },
  {
    term: "excess kurtosis",
    also: ["kurtosis"],
    definition: "Weight of the tails of a distribution, 0 for the normal one.",
    source: "Joanes & Gill 1998, Statistician 47",
  },
  {
    term: "homoscedasticity",
    definition:
      "Residuals spread equally at all values of the predictors. Where they do not, classical standard errors mislead; HC3 and the bootstrap do not.",
    source: "Koenker 1981, J Econometrics 17",
  },
  {
    term: "influential cases",
    also: ["Cook's distance"],
    definition: "Cases without which coefficients would change noticeably.",
    formula: "Cook's distance: r² / p · h / (1 − h)",
    source: "Cook 1977, Technometrics 19",
  },
  {
    term: "leverage",
    definition:
      "How far a row's predictors are from the middle, and so how much the row can pull on the fit.",
    formula: "diagonal of X (X′X)⁻¹ X′",
  },
  {
    term: "linearity",
    definition: "The mean of the outcome moves along a straight line with each predictor.",
    source: "RESET: Ramsey 1969, JRSS-B 31",
  },
  {
    term: "missing values",
    also: ["missing"],
    definition:
      "Answers that are not there. Listwise: only people with all answers count; full information uses everybody.",
    source: "Little & Rubin 2019",
  },
  {
    term: "normal quantile",
    definition:
      "Where a residual of this rank would lie if residuals were normal; points on the line speak for normality.",
  },
  {
    term: "outliers",
    definition: "Values far from the rest. They deserve a look, and removal only for a reason.",
    source: "Tukey 1977",
  },
  {
    term: "R²",
    also: ["explained by"],
    definition: "Share of the outcome's variance that the equation explains.",
    formula: "1 − residual SS / total SS",
  },
  {
    term: "residual SD",
    definition:
      "Standard deviation of what an equation leaves unexplained, in units of the outcome.",
  },
  {
    term: "SD",
    also: ["standard deviation"],
    definition: "Standard deviation: the typical distance of values from their mean.",
    formula: "√(Σ (x − x̄)² / (n − 1))",
  },
  {
    term: "simple mean",
    also: ["average"],
    definition: "Sum of the values by their number.",
    formula: "Σ x / n",
  },
  {
    term: "skewness",
    definition:
      "Lopsidedness of a distribution; 0 for a symmetric one, positive with a long tail to the right.",
    source: "Joanes & Gill 1998, Statistician 47",
  },
  {
    term: "squared distance",
    also: ["Mahalanobis distance"],
    definition:
      "How unusual a row is in several variables together, with their correlations taken into account.",
    formula: "(x − x̄)′ S⁻¹ (x − x̄)",
    source: "Mahalanobis 1936",
  },
  {
    term: "studentised residual",
    definition: "A row's residual in units of its standard error, found without that row.",
    source: "Cook & Weisberg 1982",
  },
  {
    term: "VIF",
    definition:
      "Variance inflation factor: by how much the variance of a coefficient grows because its predictor is correlated with others. Above 10 it usually counts as high.",
    formula: "1 / (1 − R² of the predictor on the others)",
  },
];
