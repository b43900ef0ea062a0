import type { ResidualRows } from "../sections";
import { LEVERAGE_ONE } from "./covariance";
import type { EquationFit } from "./fit";
import { zQuantile } from "../../numerics/distributions";

/**
 * Fitted values, internally studentised residuals and influence of every row of an equation (Cook
 * 1977, Technometrics 19).
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
    normal: normalScores(studentised),
    leverage: [...fit.leverage],
    cook: studentised.map((r, i) =>
      r === null ? null : cooksDistance(r, fit.leverage[i]!, fit.p),
    ),
  };
}

/**
 * Standard normal quantiles at the plotting positions (i - 3/8) / (n + 1/4) (Blom 1958), i the rank
 * of each value; equal values take ranks in their order.
 * @param values null where there is none
 */
export function normalScores(values: readonly (number | null)[]): (number | null)[] {
  const known = values.flatMap((value, i) => (value === null ? [] : [i]));
  const order = known.sort((i, j) => values[i]! - values[j]! || i - j);
  const scores: (number | null)[] = values.map(() => null);
  order.forEach((i, rank) => {
    scores[i] = zQuantile((rank + 1 - 0.375) / (order.length + 0.25));
  });
  return scores;
}

/**
 * Cook's distance from an internally studentised residual, its leverage and the number of
 * coefficients.
 */
export const cooksDistance = (studentised: number, leverage: number, p: number): number =>
  (studentised * studentised * leverage) / (p * (1 - leverage));
