import { pClause, plain, type EquationEvidence } from "../../../core";

export interface CheckSentence {
  /** Deserves a decision. */
  look: boolean;
  title: string;
  text: string;
}

/** p below this counts as a departure worth a sentence. */
const DEPARTURE = 0.05;
const HIGH_VIF = 10;
const CONDITION = 30;

/** Each assumption of least squares with one sentence on what the test of it means here. */
export function checkSentences(equation: EquationEvidence, robust: boolean): CheckSentence[] {
  return [...residualChecks(equation, robust), ...collinearity(equation), ...suppressed(equation)];
}

function residualChecks({ checks, n }: EquationEvidence, robust: boolean): CheckSentence[] {
  if (!checks) return [];
  const {
    koenker,
    reset,
    adjustedSkewness,
    adjustedExcessKurtosis,
    shapiroWilk,
    outliers,
    outlierCritical,
    highLeverage,
    highCook,
  } = checks;
  const w = shapiroWilk
    ? ` (Shapiro-Wilk W = ${plain(shapiroWilk.W, 3)}, ${pClause(shapiroWilk.p)})`
    : "";
  const uneven = koenker.p < DEPARTURE;
  const bent = reset !== null && reset.p < DEPARTURE;
  return [
    {
      look: uneven && !robust,
      title: "homoscedasticity",
      text: uneven
        ? `The spread of the residuals changes with the predictors (Koenker, ${pClause(koenker.p)}). ${robust ? "The robust errors in use allow for that." : "Classical errors may be too small or too large: choose HC3 or HC4 errors; case bootstrap intervals allow for it anyway."}`
        : `No sign that the spread changes with the predictors (Koenker, ${pClause(koenker.p)}).`,
    },
    {
      look: bent,
      title: "linearity",
      text:
        reset === null
          ? "Curvature cannot be tested here: powers of the fitted values add nothing new."
          : bent
            ? `Powers of the fitted values explain more (RESET, ${pClause(reset.p)}): some relation is curved, or a product is missing. Look at the picture, and think of a logarithm or a moderator.`
            : `No sign of curvature (RESET, ${pClause(reset.p)}).`,
    },
    {
      look: false,
      title: "normality of residuals",
      text: `Skewness ${plain(adjustedSkewness, 2)}, excess kurtosis ${plain(adjustedExcessKurtosis, 2)}${w}. With ${n} rows ${n >= 100 ? "tests hardly depend on normal residuals" : "tests lean on normal residuals; prefer bootstrap intervals"}.`,
    },
    {
      look: outliers > 0,
      title: "influential cases",
      text: `${outliers === 0 ? "No residual" : outliers === 1 ? "One residual" : `${outliers} residuals`} beyond ${plain(outlierCritical, 2)} (corrected for ${n} rows); ${highLeverage} rows with high leverage, ${highCook} with a Cook's distance above 4 / n.`,
    },
  ];
}

/** Products, and whatever is part of one. */
const inProductsOf = ({ coefficients }: EquationEvidence): Set<string> =>
  new Set(
    coefficients.flatMap((c) =>
      c.components ? [c.term, ...c.components.map((part) => part.key)] : [],
    ),
  );

function collinearity(equation: EquationEvidence): CheckSentence[] {
  const { coefficients, conditionNumber, omnibus } = equation;
  const inProducts = inProductsOf(equation);
  // Code columns are judged as a set: their own VIF depend on the coding.
  const sets = omnibus.filter((o) => (o.gvifPerDimension ?? 0) ** 2 > HIGH_VIF);
  const high = [
    ...coefficients
      .filter(
        (c) =>
          c.vif !== null &&
          c.vif > HIGH_VIF &&
          !inProducts.has(c.term) &&
          !omnibus.some((o) => c.term.startsWith(`${o.variable}.`)),
      )
      .map((c) => `${c.label} (VIF ${plain(c.vif, 1)})`),
    ...sets.map((o) => `${o.variable} (GVIF^(1/(2 df)) ${plain(o.gvifPerDimension, 2)})`),
  ];
  const text =
    high.length > 0
      ? `${high.join(", ")} can hardly be told apart from the other predictors, so the separate coefficients are imprecise.`
      : `No predictor is nearly a combination of the others (condition number ${plain(conditionNumber.centred, 1)}${conditionNumber.centred > CONDITION ? ", high" : ""}).${inProducts.size > 0 ? " High VIF of terms in products come from their scale and do no harm to the interaction." : ""}`;
  return [{ look: high.length > 0, title: "collinearity", text }];
}

/**
 * A strange coefficient explained by what its predictors share; the evidence decides what it is
 * called.
 */
function suppressed({ suppression, r2, outcome }: EquationEvidence): CheckSentence[] {
  return suppression
    .filter((s) => s.kind !== null)
    .map((s) => {
      const beside = `${s.term} has the standardised coefficient ${plain(s.beta, 2)} but correlates ${plain(s.correlation, 2)} with ${outcome} (VIF ${plain(s.vif, 1)})`;
      if (s.kind === "collinearity")
        return {
          look: true,
          title: "unstable coefficient",
          text: `${beside}. Its interval is too wide to call that suppression: the predictors share so much that separate coefficients are hardly known.`,
        };
      return {
        look: true,
        title: "suppression",
        text: `${beside}: it shares variance with the other predictors, and what is left of it works ${s.flags.includes("sign_reversed") ? "the other way" : "more strongly"}. That is suppression, not an error: R² is ${plain(r2, 3)}, between 0 and 1, and every tolerance is above 0.`,
      };
    });
}
