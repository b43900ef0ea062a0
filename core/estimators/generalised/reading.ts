import type { Quantity } from "../../model";
import type { QuantityReading } from "../engine";
import type { FamilyId } from "./families";
import type { FittedResponses } from "./fitted-responses";

/** What a difference of mean responses is called. */
const DIFFERENCES: Record<FamilyId, string> = {
  linear: "difference in means",
  logistic: "difference in probability",
  probit: "difference in probability",
  poisson: "difference in mean count",
  negative_binomial: "difference in mean count",
};

/** What a coefficient is on the scale of the model. */
const COEFFICIENTS: Record<FamilyId, string> = {
  linear: "b",
  logistic: "b in log odds",
  probit: "b in probits",
  poisson: "b in log counts",
  negative_binomial: "b in log counts",
};

/**
 * What an effect on a response is called: natural effects by their names, everything else by its scale.
 * @returns null for what has no single response
 */
export function readingOf(
  { model, plan, theory }: Pick<FittedResponses, "model" | "plan" | "theory">,
  { kind, from, to, via }: Quantity,
): QuantityReading | null {
  const response = model.responses.find((r) => r.outcome === to);
  if (!response) return null;
  const { family } = response;
  const difference = { measure: DIFFERENCES[family], name: null, rests: null };
  const triad = plan.triads.find(
    (t) =>
      t.triad.at === null &&
      t.triad.contrast.key === from &&
      t.triad.outcome === to &&
      (via.length === 0 || t.triad.mediator === via[0]),
  )?.triad;
  switch (kind) {
    case "specific_indirect":
      if (via.length !== 1 || !triad) return { measure: "b", name: null, rests: null };
      return {
        ...difference,
        name: "total natural indirect effect",
        rests: `what changes if ${triad.mediator} alone is as under ${triad.contrast.upper} instead of ${triad.contrast.lower}`,
      };
    case "direct":
      if (theory.moderated.some((m) => m.to === to && m.from === from))
        return { measure: COEFFICIENTS[family], name: null, rests: null };
      return triad ? { ...difference, name: "pure natural direct effect" } : difference;
    case "total":
    case "total_indirect":
    case "combined_indirect":
      return difference;
    case "comparison":
      return null;
    default:
      return { measure: COEFFICIENTS[family], name: null, rests: null };
  }
}
