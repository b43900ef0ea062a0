import type { GlossaryEntry } from "./entry";

/** Answers taken as levels of a tendency that is not seen. */
export const ORDERED: readonly GlossaryEntry[] = [
  {
    term: "ordered answers",
    also: ["levels", "share of answers, %", "limits of the highest"],
    definition:
      "Answers taken as levels in an order, not as numbers: behind them a normal tendency is thought, which thresholds cut into the levels that are seen. Effects on such an outcome are on the tendency, in its SDs.",
    source: "Muthen 1984, Psychometrika 49",
  },
  {
    term: "polychoric correlation",
    also: ["polyserial correlation", "kind of correlation"],
    definition:
      "The correlation of the tendencies behind two ordered variables (polychoric), or behind one and a number (polyserial): the one under which the answers are most likely.",
    source: "Olsson 1979, Psychometrika 44; Olsson, Drasgow & Dorans 1982, Psychometrika 47",
  },
  {
    term: "reliability of ordered answers",
    also: ["omega of the answers", "omega of the tendencies"],
    definition:
      "How much of the variance of the sum of ordered answers the factor makes, thresholds allowed for; omega of the tendencies is what it would be if they were seen themselves.",
    source: "Green & Yang 2009, Psychometrika 74",
  },
  {
    term: "scaled and shifted test",
    also: ["scaled and shifted", "mean-adjusted", "shift"],
    definition:
      "A test of fit by weighted least squares whose statistic is multiplied and shifted so that its mean and variance are those of the chi-squared distribution with its degrees of freedom; mean-adjusted corrects the mean alone.",
    formula: "a T + b, a = √(df / t₂), b = df − √(df t₁² / t₂), t₁ = tr UΓ, t₂ = tr (UΓ)²",
    source: "Asparouhov & Muthen 2010; Satorra 2000",
  },
  {
    term: "threshold",
    also: ["thresholds"],
    definition:
      "Where the tendency behind ordered answers passes from one level to the next: the normal quantile of the share of answers below.",
    formula: "Φ⁻¹(share of answers up to a level)",
    source: "Olsson 1979, Psychometrika 44",
  },
];
