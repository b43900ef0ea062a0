import type { Warning } from "../../problems";
import type { EquationEvidence } from "../sections";
import { LEVERAGE_ONE } from "./covariance";
import type { EquationFit } from "./fit";
import { warning } from "./wording";

const HIGH_VIF = 10;

/**
 * What deserves a look in the equations: perfect fits, rows that alone determine a coefficient,
 * near collinearity.
 * @param fits in the metric in which coefficients are reported; @param rows 0-based file row of
 *   each case
 */
export function fitWarnings(
  fits: readonly EquationFit[],
  equations: readonly EquationEvidence[],
  rows: ArrayLike<number>,
): Warning[] {
  return fits.flatMap((fit, g) => [
    ...perfectFit(fit),
    ...leverageOne(fit, rows),
    ...nearlyCollinear(fit, equations[g]!),
  ]);
}

function perfectFit({ perfect, equation: { outcome } }: EquationFit): Warning[] {
  return perfect ? [warning("perfect_fit", { outcome }, [outcome])] : [];
}

function leverageOne(
  { leverage, equation: { outcome } }: EquationFit,
  rows: ArrayLike<number>,
): Warning[] {
  if (!leverage.some((h) => h > LEVERAGE_ONE)) return [];
  const alone = [...leverage].flatMap((h, i) => (h > LEVERAGE_ONE ? [rows[i]! + 1] : []));
  return [warning("leverage_one", { outcome, rows: alone }, [outcome])];
}

function nearlyCollinear(
  { equation: { outcome, columns }, vif }: EquationFit,
  evidence: EquationEvidence,
): Warning[] {
  const inProducts = new Set(
    columns.flatMap((c) => (c.components ? [c.key, ...c.components.map((part) => part.key)] : [])),
  );
  const near = columns.flatMap((c, j) =>
    c.contrast === null && vif[j]! > HIGH_VIF && !inProducts.has(c.key)
      ? [{ c, vif: vif[j]! }]
      : [],
  );
  // Code columns of one factor are never judged one by one: their VIF depend on the coding.
  const sets = evidence.omnibus.filter(
    (o) =>
      (o.gvifPerDimension ?? 0) ** 2 > HIGH_VIF &&
      !columns.some((c) => c.variable === o.variable && inProducts.has(c.key)),
  );
  if (near.length + sets.length === 0) return [];
  const inflated = {
    outcome,
    vif: near.map(({ c, vif }) => ({ name: c.label, factor: vif })),
    gvif: sets.map((o) => ({ name: o.variable, factor: o.gvifPerDimension! ** 2 })),
  };
  const about = [...near.map((n) => n.c.key), ...sets.map((o) => o.variable)];
  return [warning("near_collinear", inflated, about)];
}
