import type { Variable } from "../../data";
import type { Warning } from "../../problems";
import type { EquationEvidence } from "../sections";
import { LEVERAGE_ONE } from "./covariance";
import type { EquationFit } from "./fit";

const HIGH_VIF = 10;

/**
 * What deserves a look in the equations: perfect fits, rows that alone determine a coefficient, near collinearity.
 * @param fits in the metric in which coefficients are reported; @param rows 0-based file row of each case
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

/** Outcomes with two values, which least squares can explain, but not as well as it seems. */
export const binaryOutcomes = (
  outcomes: readonly string[],
  variables: ReadonlyMap<string, Variable>,
): Warning[] =>
  outcomes
    .filter((outcome) => variables.get(outcome)?.level === "binary")
    .map((outcome) => ({
      code: "binary_outcome",
      message: `“${outcome}” has two values; least squares explains its 0/1 coding as a probability, so use robust errors and read the effects as differences in proportions.`,
      about: [outcome],
    }));

function perfectFit({ perfect, equation: { outcome } }: EquationFit): Warning[] {
  if (!perfect) return [];
  const message = `The equation of “${outcome}” fits perfectly, so it has no standard errors. Is an outcome computed from its predictors?`;
  return [{ code: "perfect_fit", message, about: [outcome] }];
}

function leverageOne(
  { leverage, equation: { outcome } }: EquationFit,
  rows: ArrayLike<number>,
): Warning[] {
  const alone = [...leverage].flatMap((h, i) => (h > LEVERAGE_ONE ? [rows[i]! + 1] : []));
  if (alone.length === 0) return [];
  const message = `Row ${alone.join(", ")} alone determines a coefficient of the equation of “${outcome}” (leverage 1), so HC2 to HC4 errors are not available.`;
  return [{ code: "leverage_one", message, about: [outcome] }];
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
  const values = [
    ...near.map((n) => `${n.c.label} (VIF ${Math.round(n.vif)})`),
    ...sets.map(
      (o) => `${o.variable} (GVIF per dimension, squared: ${Math.round(o.gvifPerDimension! ** 2)})`,
    ),
  ];
  if (values.length === 0) return [];
  const message = `In the equation of “${outcome}” some predictors nearly determine each other: ${values.join(", ")}. Their separate coefficients are imprecise.`;
  return [
    {
      code: "near_collinear",
      message,
      about: [...near.map((n) => n.c.key), ...sets.map((o) => o.variable)],
    },
  ];
}
