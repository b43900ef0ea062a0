import { linkName, type Quantity } from "../../model";
import type { QuantityReading } from "../engine";
import type { Triad } from "./causal-model";
import type { Contrast } from "./contrasts";
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
  { kind: stated, from, to, via, linkScale, difference: ofMeans, compared }: Quantity,
): QuantityReading | null {
  const kind = compared?.kind ?? stated;
  const response = model.responses.find((r) => r.outcome === to);
  if (!response) return null;
  const { family } = response;
  const plain = { scale: null, between: null, name: null, rests: null };
  if (linkScale) return { ...plain, measure: "product of coefficients" };
  const link = linkName(LINKS[family]);
  const onLink = { ...plain, measure: link ? `b in ${link}` : "b", scale: link || null };
  const moderated = theory.moderated.some(
    (m) => m.to === to && m.from === (compared?.variable ?? from),
  );
  if (isOnLink(kind, via) || (kind === "direct" && moderated)) return onLink;
  const contrast = ofMeans ? model.contrasts.find((c) => c.key === from) : undefined;
  const difference = { ...plain, measure: DIFFERENCES[family], between: betweenOf(contrast) };
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
  if (kind === "average_change")
    return { ...difference, ...changeReading(difference.measure, triad) };
  if (!TOLD_IN_MEANS.has(kind)) return null;
  // Where slopes tell, as among straight lines beside a moderated one.
  if (!ofMeans) return onLink;
  switch (kind) {
    case "specific_indirect":
      return via.length === 1 ? (indirect ?? difference) : difference;
    case "combined_indirect":
      // Among straight lines single paths add up, and the sentence may name some of them alone.
      return indirect && triad!.block.length > 1 && !model.responses.every(isStraight)
        ? indirect
        : difference;
    case "direct":
      return triad ? { ...difference, name: "pure natural direct effect" } : difference;
    default:
      return difference;
  }
}

/** Kinds that are differences of means, unless slopes tell. */
const TOLD_IN_MEANS = new Set<Quantity["kind"]>([
  "direct",
  "specific_indirect",
  "combined_indirect",
  "total_indirect",
  "total",
  "contrast",
]);

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

/** Which values of a number are compared; nothing where these are one unit apart, or groups. */
const betweenOf = (contrast: Contrast | undefined): string | null =>
  contrast && contrast.key === contrast.variable && contrast.distance !== 1 ? contrast.label : null;

const indirectWords = ({ mediator, block, contrast }: Triad): string =>
  `what changes if ${mediator} alone ${block.length > 1 ? "are" : "is"} as under ${contrast.upper} instead of ${contrast.lower}`;

const changeReading = (
  measure: string,
  triad: Triad | undefined,
): Pick<QuantityReading, "measure" | "name" | "rests"> => ({
  measure: `change of the ${measure}`,
  name: "change of the total natural indirect effect",
  rests: triad
    ? `${indirectWords(triad)}, and how that changes with the moderator, on average over the sample`
    : null,
});
