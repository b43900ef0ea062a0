import { errorsName, plain, pClause, thousands, type Evidence } from "../evidence";
import type { EquationEvidence } from "../estimators";
import type { Working, WorkingStep } from "./types";

/** Where the numbers of one regression equation come from: what it explains, and every coefficient with its test and VIF. */
export function equationWorking(equation: EquationEvidence, evidence: Evidence): Working {
  const { outcome, n, p, dfResidual, r2, adjustedR2, rss, residualVariance, residualSd } = equation;
  const { errors, unit } = evidence;
  const total = r2 < 1 ? rss / (1 - r2) : null;
  const steps: WorkingStep[] = [
    {
      what: "Residual SD",
      formula: "√(Σ residual² / (n − coefficients))",
      numbers: `√(${plain(rss)} / (${n} − ${p})) = √${plain(residualVariance)} = ${plain(residualSd)}`,
      source: null,
    },
    {
      what: "R²",
      formula: "1 − Σ residual² / Σ (y − ȳ)²",
      numbers:
        total === null
          ? plain(r2)
          : `1 − ${plain(rss)} / ${plain(total)} = ${plain(r2)}; adjusted 1 − (1 − ${plain(r2)}) × ${n - 1} / ${dfResidual} = ${plain(adjustedR2)}`,
      source: null,
    },
    ...equation.coefficients.flatMap((c): WorkingStep[] => {
      const test = c.errors[errors];
      if (!test) return [];
      const vif =
        c.vif === null || c.tolerance === null
          ? ""
          : `; VIF 1 / (1 − ${plain(1 - c.tolerance)}) = ${plain(c.vif)}`;
      return [
        {
          what: c.label,
          formula: "t = b / SE",
          numbers: `${plain(c.b)} / ${plain(test.se)} = ${plain(test.t)}, ${pClause(test.p)}${vif}`,
          source: null,
        },
      ];
    }),
  ];
  return {
    title: `Equation of ${outcome}`,
    steps,
    rows: `${thousands(n)} ${unit || "rows"}; least squares, ${errorsName(errors)} errors.`,
  };
}
