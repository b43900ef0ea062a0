import { correlation } from "../../numerics/moments";
import type { EquationFit } from "./fit";

export type SuppressionFlag = "sign_reversed" | "beta_above_one" | "enhanced";

/** A standardised coefficient beside the simple correlation it is compared with. */
export interface Suppression {
  term: string;
  beta: number;
  /** Correlation of the column with the outcome, no other predictor held. */
  correlation: number;
  vif: number;
  semipartial: number;
  flags: SuppressionFlag[];
}

/**
 * Compares every standardised coefficient with the zero-order correlation (Conger 1974, Educ Psychol Meas 34). None
 * of the flags is an improper solution: at full rank least squares always has 0 <= R2 <= 1 and a positive residual variance.
 */
export function suppression(fit: EquationFit): Suppression[] {
  return fit.equation.columns.map((column, j) => {
    const beta = (fit.b[j + 1]! * column.sd) / fit.equation.sdY;
    const r = correlation(column.values, fit.equation.y);
    const vif = fit.vif[j]!;
    const flags: SuppressionFlag[] = [];
    if (beta * r < 0) flags.push("sign_reversed");
    if (Math.abs(beta) > 1) flags.push("beta_above_one");
    // Beyond rounding: alone in its equation a column's beta is its correlation.
    if (beta * r > 0 && Math.abs(beta) > Math.abs(r) * (1 + 1e-9)) flags.push("enhanced");
    return { term: column.key, beta, correlation: r, vif, semipartial: beta / Math.sqrt(vif), flags };
  });
}
