import type { ResidualRows } from "../sections";
import { LEVERAGE_ONE } from "./covariance";
import type { EquationFit } from "./fit";

/**
 * Fitted values, internally studentised residuals and influence of every row of an equation (Cook 1977, Technometrics 19).
 * @param rows 0-based file row of each case of the sample
 */
export function residualRows(fit: EquationFit, rows: ArrayLike<number>): ResidualRows {
  const studentised = Array.from(fit.residuals, (e, i) => {
    const h = fit.leverage[i]!;
    return h > LEVERAGE_ONE || fit.perfect ? null : e / Math.sqrt(fit.s2 * (1 - h));
  });
  return {
    outcome: fit.equation.outcome,
    rows: Array.from(rows, (r) => r + 1),
    fitted: Array.from(fit.residuals, (e, i) => fit.equation.y[i]! - e),
    studentised,
    leverage: [...fit.leverage],
    cook: studentised.map((r, i) =>
      r === null ? null : cooksDistance(r, fit.leverage[i]!, fit.p),
    ),
  };
}

/** Cook's distance from an internally studentised residual, its leverage and the number of coefficients. */
export const cooksDistance = (studentised: number, leverage: number, p: number): number =>
  (studentised * studentised * leverage) / (p * (1 - leverage));
