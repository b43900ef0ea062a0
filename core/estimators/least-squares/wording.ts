import { warningsIn } from "../../wording/warnings";

/** A warning of least squares; what its sentences say stands here and nowhere else. */
export const warning = warningsIn({
  perfect_fit: ({ outcome }: { outcome: string }) =>
    `The equation of “${outcome}” fits perfectly, so it has no standard errors. Is an outcome computed from its predictors?`,
  leverage_one: ({ outcome, rows }: { outcome: string; rows: number[] }) =>
    `Row ${rows.join(", ")} alone determines a coefficient of the equation of “${outcome}” (leverage 1), so HC2 to HC4 errors are not available.`,
  near_collinear: ({
    outcome,
    vif,
    gvif,
  }: {
    outcome: string;
    vif: Inflated[];
    gvif: Inflated[];
  }) => {
    const values = [
      ...vif.map(({ name, factor }) => `${name} (VIF ${Math.round(factor)})`),
      ...gvif.map(
        ({ name, factor }) => `${name} (GVIF per dimension, squared: ${Math.round(factor)})`,
      ),
    ];
    return `In the equation of “${outcome}” some predictors nearly determine each other: ${values.join(", ")}. Their separate coefficients are imprecise.`;
  },
});

interface Inflated {
  name: string;
  /** Variance inflation factor. */
  factor: number;
}
