import { dfWords, pClause, plain, thousands } from "../evidence";
import type { EquationEvidence } from "../estimators";
import { operand, sourced, step } from "./paper";
import type { Working, WorkingStep } from "./types";

/**
 * Where the checks of one regression come from: spread, curvature, shape of residuals, influence,
 * collinearity, suppression.
 */
export function checksWorking(equation: EquationEvidence): Working | null {
  const { checks, outcome, n, p } = equation;
  if (!checks) return null;
  return {
    title: `Checks of the equation of ${outcome}`,
    steps: [
      ...spread(checks),
      ...curvature(checks),
      ...shape(checks, n),
      ...influence(checks, n, p),
      ...collinearity(equation),
    ],
    rows: `${thousands(n)} rows and the residuals of the equation with its ${p} coefficients.`,
  };
}

type Checks = NonNullable<EquationEvidence["checks"]>;

const spread = ({ breuschPagan, koenker }: Checks): WorkingStep[] => [
  sourced(
    "Homoscedasticity, Koenker",
    "n × R² of the squared residuals on the predictors",
    `χ²(${koenker.df}) = ${plain(koenker.statistic)}, ${pClause(koenker.p)}`,
    "Koenker 1981, J Econometrics 17",
  ),
  sourced(
    "Breusch-Pagan",
    "half the explained sum of squares of residual² / mean residual² on the predictors",
    `χ²(${breuschPagan.df}) = ${plain(breuschPagan.statistic)}, ${pClause(breuschPagan.p)}; it leans on normal residuals`,
    "Breusch & Pagan 1979, Econometrica 47",
  ),
];

const curvature = ({ reset }: Checks): WorkingStep[] =>
  reset === null
    ? []
    : [
        sourced(
          "Linearity, RESET",
          "F of powers of the fitted values added to the equation",
          `F(${reset.df1}, ${dfWords(reset.df2)}) = ${plain(reset.F)}, ${pClause(reset.p)}`,
          "Ramsey 1969, JRSS-B 31",
        ),
      ];

function shape(
  { skewness, excessKurtosis, adjustedSkewness, adjustedExcessKurtosis, shapiroWilk }: Checks,
  n: number,
): WorkingStep[] {
  const factor = Math.sqrt(n * (n - 1)) / (n - 2);
  return [
    sourced(
      "Skewness of residuals",
      "√(n (n − 1)) / (n − 2) × m₃ / m₂^1.5",
      `${plain(factor)} × ${operand(skewness)} = ${plain(adjustedSkewness)}`,
      "Joanes & Gill 1998, The Statistician 47",
    ),
    sourced(
      "Excess kurtosis of residuals",
      "(n − 1) / ((n − 2) (n − 3)) × ((n + 1) (m₄ / m₂² − 3) + 6)",
      `${plain((n - 1) / ((n - 2) * (n - 3)))} × (${n + 1} × ${operand(excessKurtosis)} + 6) = ${plain(adjustedExcessKurtosis)}`,
      "Joanes & Gill 1998, The Statistician 47",
    ),
    ...(shapiroWilk
      ? [
          sourced(
            "Shapiro-Wilk",
            "(Σ aᵢ e₍ᵢ₎)² / Σ e², a from the expected order of normal values",
            `W = ${plain(shapiroWilk.W)}, ${pClause(shapiroWilk.p)}`,
            "Royston 1995, Applied Statistics 44",
          ),
        ]
      : []),
  ];
}

function influence(
  { outliers, outlierCritical, highLeverage, highCook, topCook }: Checks,
  n: number,
  p: number,
): WorkingStep[] {
  const first = topCook[0];
  const steps = [
    step(
      "Outliers",
      "|externally studentised residual| beyond the point of t at (1 − level) / n, both ways (Bonferroni)",
      `${outliers} of ${n} beyond ${plain(outlierCritical)}`,
    ),
    step(
      "High leverage",
      "leverage > 2 × coefficients / n",
      `${highLeverage} above 2 × ${p} / ${n} = ${plain((2 * p) / n)}`,
    ),
  ];
  if (!first) return steps;
  return [
    ...steps,
    sourced(
      "Cook's distance",
      "r² / coefficients × leverage / (1 − leverage), r the internally studentised residual; high above 4 / n",
      `row ${first.row}: ${plain(first.studentisedInternal * first.studentisedInternal)} / ${p} × ${plain(first.leverage)} / ${plain(1 - first.leverage)} = ${plain(first.cook)}; ${highCook} above 4 / ${n} = ${plain(4 / n)}`,
      "Cook 1977, Technometrics 19",
    ),
  ];
}

function collinearity({ conditionNumber, coefficients, suppression, outcome }: EquationEvidence) {
  const vifs = coefficients.flatMap((c) =>
    c.vif === null || c.tolerance === null
      ? []
      : [
          step(
            `VIF of ${c.label}`,
            "1 / (1 − R² by the other predictors)",
            `1 / (1 − ${plain(1 - c.tolerance)}) = ${plain(c.vif)}`,
          ),
        ],
  );
  return [
    ...vifs,
    sourced(
      "Condition number",
      "largest / smallest singular value of the centred columns, each of length one",
      plain(conditionNumber.centred),
      "Belsley, Kuh & Welsch 1980, Regression Diagnostics",
    ),
    ...suppression
      .filter((s) => s.kind !== null)
      .map((s) =>
        sourced(
          `${s.term} beside its correlation`,
          `standardised coefficient beside the correlation with ${outcome}`,
          `${plain(s.beta)} beside ${plain(s.correlation)}; semipartial ${plain(s.semipartial)}, VIF ${plain(s.vif)}`,
          "Conger 1974, Educ Psychol Meas 34",
        ),
      ),
  ];
}
