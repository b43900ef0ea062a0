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
  { kind, from, to, via, linkScale }: Quantity,
): QuantityReading | null {
  const response = model.responses.find((r) => r.outcome === to);
  if (!response) return null;
  const { family } = response;
  if (linkScale) return { measure: "product of coefficients", name: null, rests: null };
  const difference = { measure: DIFFERENCES[family], name: null, rests: null };
  const triad = plan.triads.find(
    ({ triad: t }) =>
      t.at === null &&
      t.contrast.key === from &&
      t.outcome === to &&
      (via.length === 0 || t.mediator === via[0]),
  )?.triad;
  const indirect = triad && {
    ...difference,
    name: "total natural indirect effect",
    rests: `what changes if ${triad.mediator} alone ${triad.block.length > 1 ? "are" : "is"} as under ${triad.contrast.upper} instead of ${triad.contrast.lower}`,
  };
  switch (kind) {
    case "specific_indirect":
      return (via.length === 1 ? indirect : null) ?? { measure: "b", name: null, rests: null };
    case "combined_indirect":
      return triad && triad.block.length > 1 ? indirect! : difference;
    case "direct":
      if (theory.moderated.some((m) => m.to === to && m.from === from))
        return { measure: COEFFICIENTS[family], name: null, rests: null };
      return triad ? { ...difference, name: "pure natural direct effect" } : difference;
    case "total":
    case "total_indirect":
      return difference;
    case "comparison":
      return null;
    default:
      return { measure: COEFFICIENTS[family], name: null, rests: null };
  }
}
