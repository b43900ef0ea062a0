import type { GlossaryEntry } from "./entry";

/** What is estimated: paths, effects and what they depend on. */
export const EFFECTS: readonly GlossaryEntry[] = [
  {
    term: "average marginal effect",
    also: ["average effect"],
    definition:
      "The mean change of a response with a predictor over all rows: from 0 to 1, or per unit, everything else as it is.",
    source: "Ai & Norton 2003, Econ Letters 80",
  },
  {
    term: "beta",
    also: ["beta (std.)", "standardised", "in SDs"],
    definition:
      "Standardised coefficient: the change of the outcome, in its standard deviations, for one standard deviation of the predictor, other predictors held.",
    formula: "b · SD(predictor) / SD(outcome)",
  },
  {
    term: "conditional effect",
    also: ["slope", "simple slope"],
    definition:
      "The effect of a predictor at a stated value of a moderator; of one path, the simple slope.",
    source: "Aiken & West 1991",
  },
  {
    term: "contrast",
    also: ["difference"],
    definition:
      "The difference of two effects, with an interval of its own: two effects of which only one differs from zero need not differ from each other.",
  },
  {
    term: "controlled direct effect",
    definition: "The effect of a treatment if the mediator were the same for everybody.",
    formula: "E[Y(x1, m)] − E[Y(x0, m)]",
    source: "Pearl 2001",
  },
  {
    term: "correlation",
    also: ["r"],
    definition: "Linear relation of two variables, from −1 to 1.",
    formula: "covariance / (SD · SD)",
  },
  {
    term: "covariance",
    definition: "Mean product of the deviations of two variables from their means.",
    formula: "Σ (x − x̄)(y − ȳ) / (n − 1)",
  },
  {
    term: "direct effect",
    definition: "The effect of a predictor on an outcome with the mediators held.",
  },
  {
    term: "E-value",
    also: ["E-value of the limit"],
    definition:
      "The least ratio by which something left out has to be related to both mediator and outcome to explain an effect away.",
    formula: "R + √(R (R − 1))",
    source: "VanderWeele & Ding 2017, Ann Intern Med 167",
  },
  {
    term: "effect by potential outcomes",
    also: ["what would have been"],
    definition:
      "A difference of what would have been under one value of the treatment and under another, for the same people.",
    source: "Pearl 2001; Robins & Greenland 1992",
  },
  {
    term: "index of moderated mediation",
    also: ["index"],
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
    term: "Johnson-Neyman region",
    definition: "The values of a moderator at which a conditional effect differs from zero.",
    source: "Johnson & Fay 1950, Psychometrika 15; Bauer & Curran 2005",
  },
  {
    term: "mediation",
    definition: "A predictor acts on an outcome through a variable between them, the mediator.",
    source: "MacKinnon 2008",
  },
  {
    term: "moderated mediation",
    definition: "An indirect effect that depends on a moderator.",
    source: "Edwards & Lambert 2007; Preacher, Rucker & Hayes 2007",
  },
  {
    term: "moderation",
    also: ["interaction"],
    definition:
      "The effect of a predictor depends on another variable, the moderator; its coefficient is that of the product.",
    formula: "y = i + b₁x + b₂w + b₃xw",
    source: "Aiken & West 1991",
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
    term: "partial mediation",
    definition: "Both the indirect and the direct effect differ from zero, with the same sign.",
    source: "Zhao, Lynch & Chen 2010, J Consumer Research 37",
  },
  {
    term: "product of coefficients",
    also: ["by latent SDs", "on the scale of the model"],
    definition:
      "In models with links, a · b on the scale of the model: only comparable after the outcome is brought to one scale, and no effect of the treatment on the response itself.",
    source: "MacKinnon & Dwyer 1993, Eval Rev 17",
  },
  {
    term: "rate ratio",
    also: ["ratio", "as a ratio"],
    definition:
      "How many times larger an expected count (or a probability) is at one value than at another.",
  },
  {
    term: "suppression",
    definition:
      "A predictor whose coefficient lies beyond its correlation with the outcome, because another predictor takes irrelevant variance out of it.",
    source: "MacKinnon, Krull & Lockwood 2000, Prevention Science 1",
  },
  {
    term: "total effect",
    definition: "Direct and all indirect effects together.",
    formula: "c = c′ + Σ indirect",
  },
  {
    term: "unmeasured confounding",
    also: ["something left out", "differs between treatments by", "moves the outcome by"],
    definition:
      "Something left out that moves both mediator and outcome; neither random assignment of the treatment nor a larger sample removes it.",
    source: "VanderWeele 2010, Epidemiology 21",
  },
  {
    term: "zero-order correlation",
    definition: "The correlation of two variables with nothing else held.",
  },
];
