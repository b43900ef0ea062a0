import { correlation } from "../../numerics/moments";
import type { EquationFit } from "./fit";
import type { CoefficientTest } from "../../model";
import type { Suppression, SuppressionFlag } from "../sections";

/** A variance inflation above this makes a strange coefficient a matter of imprecision first. */
const HIGH_VIF = 10;

/**
 * Compares every standardised coefficient with the zero-order correlation (Conger 1974, Educ
 * Psychol Meas 34). None of the flags is an improper solution: at full rank least squares always
 * has 0 <= R2 <= 1 and a positive residual variance. It is suppression only when the coefficient
 * differs from zero and its interval lies beyond the correlation, away from zero or on its other
 * side; terms of products are slopes at a place and compare with nothing.
 * @param testAt the t test of the coefficient at a position (intercept = 0)
 */
export function suppression(
  fit: EquationFit,
  testAt: (at: number) => CoefficientTest | null,
): Suppression[] {
  const { columns, sdY } = fit.equation;
  const inProducts = new Set(
    columns.flatMap((c) => (c.components ? [c.key, ...c.components.map((part) => part.key)] : [])),
  );
  return columns.map((column, j) => {
    const scale = column.sd / sdY;
    const beta = fit.b[j + 1]! * scale;
    const r = correlation(column.values, fit.equation.y);
    const vif = fit.vif[j]!;
    const flags: SuppressionFlag[] = [];
    if (beta * r < 0) flags.push("sign_reversed");
    if (Math.abs(beta) > 1) flags.push("beta_above_one");
    // Beyond rounding: alone in its equation a column's beta is its correlation.
    if (beta * r > 0 && Math.abs(beta) > Math.abs(r) * (1 + 1e-9)) flags.push("enhanced");
    // A code column has no correlation of its own: it depends on what the levels are compared with.
    const test = inProducts.has(column.key) || column.contrast !== null ? null : testAt(j + 1);
    const kind = test && kindOf(beta, r, vif, flags, test.lower * scale, test.upper * scale);
    return {
      term: column.key,
      beta,
      correlation: r,
      vif,
      semipartial: beta / Math.sqrt(vif),
      flags,
      kind,
    };
  });
}

/** @param lower limits of the standardised coefficient */
function kindOf(
  beta: number,
  r: number,
  vif: number,
  flags: SuppressionFlag[],
  lower: number,
  upper: number,
): Suppression["kind"] {
  if (flags.length === 0) return null;
  const differs = lower > 0 || upper < 0;
  const beyond = beta > 0 ? lower > r : upper < r;
  if (differs && beyond) return "suppression";
  return vif > HIGH_VIF && (flags.includes("sign_reversed") || flags.includes("beta_above_one"))
    ? "collinearity"
    : null;
}
