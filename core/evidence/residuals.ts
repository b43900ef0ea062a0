import { LEVERAGE_ONE } from "../estimators/least-squares";
import type { Prepared } from "../prepare";

/** The rows of one equation for residual pictures. */
export interface ResidualRows {
  outcome: string;
  /** Data rows of the file, from 1. */
  rows: number[];
  fitted: number[];
  /** Internally studentised; null at a leverage of one. */
  studentised: (number | null)[];
  leverage: number[];
  cook: (number | null)[];
}

/** Fitted values, studentised residuals and influence of every row of an equation (Cook 1977, Technometrics 19). */
export function residualRows({ fits, sample, dataset }: Prepared, outcome: string): ResidualRows | null {
  // Rows made up to have the moments of a matrix have no residuals worth a look.
  if (dataset.table.moments) return null;
  const fit = fits.find((f) => f.equation.outcome === outcome);
  if (!fit) return null;
  const studentised = Array.from(fit.residuals, (e, i) => {
    const h = fit.leverage[i]!;
    return h > LEVERAGE_ONE || fit.perfect ? null : e / Math.sqrt(fit.s2 * (1 - h));
  });
  return {
    outcome,
    rows: Array.from(sample.rows, (r) => r + 1),
    fitted: Array.from(fit.residuals, (e, i) => fit.equation.y[i]! - e),
    studentised,
    leverage: [...fit.leverage],
    cook: studentised.map((r, i) => (r === null ? null : (r * r * fit.leverage[i]!) / (fit.p * (1 - fit.leverage[i]!)))),
  };
}
