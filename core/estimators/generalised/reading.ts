import { linkName, type Quantity } from "../../model";
import type { QuantityReading } from "../engine";
import type { Triad } from "./causal-model";
import type { FamilyId } from "./families";
import type { FittedResponses } from "./fitted-responses";
import { LINKS } from "./lines";

/** What a difference of mean responses is called. */
const DIFFERENCES: Record<FamilyId, string> = {
  linear: "difference in means",
  logistic: "difference in probability",
  probit: "difference in probability",
  poisson: "difference in mean count",
  negative_binomial: "difference in mean count",
};

/**
 * Kinds that are told along a moderator, or as a coefficient, on the scale of the linear predictor.
 */
const ON_LINK_SCALE = new Set<Quantity["kind"]>([
  "interaction",
  "average_direct",
  "average_indirect",
  "average_total",
  "average_change",
  "conditional_direct",
  "conditional_indirect",
  "conditional_contrast",
  "conditional_index",
  "index",
  "curve",
]);

/** A single step that is moderated changes on the scale of the model, a whole path in means. */
const isOnLink = (kind: Quantity["kind"], via: readonly string[]): boolean =>
  ON_LINK_SCALE.has(kind) && !(kind === "average_change" && via.length > 0);

const isStraight = ({ family }: { family: FamilyId }): boolean => family === "linear";

/**
 * What an effect on a response is called: natural effects by their names, everything else by its
 * scale.
 * @returns null for what has no single response, and for what other effects say
 */
export function readingOf(
  { model, plan, theory }: Pick<FittedResponses, "model" | "plan" | "theory">,
  { kind: stated, from, to, via, linkScale, compared }: Quantity,
): QuantityReading | null {
  const kind = compared?.kind ?? stated;
  const response = model.responses.find((r) => r.outcome === to);
  if (!response) return null;
  const { family } = response;
  const plain = { scale: null, name: null, rests: null };
  if (linkScale) return { ...plain, measure: "product of coefficients" };
  const link = linkName(LINKS[family]);
  const onLink = { ...plain, measure: link ? `b in ${link}` : "b", scale: link || null };
  const moderated = theory.moderated.some(
    (m) => m.to === to && m.from === (compared?.variable ?? from),
  );
  if (isOnLink(kind, via) || (kind === "direct" && moderated)) return onLink;
  const difference = { ...plain, measure: DIFFERENCES[family] };
  const told = plan.triads
    .map((t) => t.triad)
    .filter(
      (t) => t.at === null && t.outcome === to && (via.length === 0 || t.mediator === via[0]),
    );
  const triad = triadOf(told, from, compared);
  const indirect = triad && {
    ...difference,
    name: "total natural indirect effect",
    rests: indirectWords(triad),
  };
  switch (kind) {
    case "average_change":
      return changeReading(difference.measure, triad);
    case "specific_indirect":
      return via.length === 1 && told.length > 0 ? (indirect ?? difference) : onLink;
    case "combined_indirect":
      // Among straight lines single paths add up, and the sentence may name some of them alone.
      return indirect && triad!.block.length > 1 && !model.responses.every(isStraight)
        ? indirect
        : difference;
    case "direct":
      return triad ? { ...difference, name: "pure natural direct effect" } : difference;
    case "total":
    case "total_indirect":
      return difference;
    default:
      return null;
  }
}

/**
 * The triad of a predictor. Levels of which neither is the reference differ by two natural effects,
 * and that is no natural effect.
 */
const triadOf = (
  told: readonly Triad[],
  from: string | null,
  compared: Quantity["compared"],
): Triad | undefined =>
  told.find(({ contrast: c }) =>
    compared
      ? c.variable === compared.variable && c.upper === compared.upper && c.lower === compared.lower
      : c.key === from,
  );

const indirectWords = ({ mediator, block, contrast }: Triad): string =>
  `what changes if ${mediator} alone ${block.length > 1 ? "are" : "is"} as under ${contrast.upper} instead of ${contrast.lower}`;

const changeReading = (measure: string, triad: Triad | undefined): QuantityReading => ({
  measure: `change of the ${measure}`,
  scale: null,
  name: "change of the total natural indirect effect",
  rests: triad
    ? `${indirectWords(triad)}, and how that changes with the moderator, on average over the sample`
    : null,
});
