import { plain } from "../../wording/numbers";
import type { FittedComposite } from "./fitted-composite";
import type { CompositeSolution } from "./solution";

const SCHEME_WORDS = {
  path: "path weighting",
  factor: "factor weighting",
  centroid: "centroid weighting",
} as const;

const APPROACH_WORDS = {
  two_stage: "interactions by two stages",
  centred: "interactions by products of centred items",
  standardised: "interactions by products of standardised items",
  raw: "interactions by products of raw items",
  orthogonal: "interactions by residual products of items",
} as const;

/** How a model was estimated, for a report. */
export function methodWords({ groups, options, composite }: FittedComposite): string {
  const { model } = groups[0]!.built;
  const factors = model.constructs.filter((c) => c.corrected).map((c) => c.name);
  const parts = [
    `Partial least squares with ${SCHEME_WORDS[options.scheme]}`,
    ...(model.consistent && factors.length > 0
      ? [`correlations of the common factors ${factors.join(", ")} corrected for unreliability`]
      : []),
    ...(composite.model.products.length > 0
      ? [`${model.consistent ? "corrected " : ""}${APPROACH_WORDS[options.approach]}`]
      : []),
    ...(options.missing === "means" ? ["empty cells filled with means"] : []),
  ];
  return `${parts.join(", ")}.`;
}

/**
 * What misfit means, without a verdict.
 * @param group where there are several, its name
 */
export function fitWords(solution: CompositeSolution, group: string | null): string[] {
  const fit = solution.consistentFit ?? solution.fit;
  if (!fit) return [];
  const { saturated, estimated } = fit;
  const among = plain(saturated.srmr, 3);
  const along = estimated ? plain(estimated.srmr, 3) : among;
  const words = [
    `${group === null ? "If" : `${group}: if`} all constructs may correlate, implied and observed correlations of items differ by ${among} on average (SRMR). Below .08 is usually called good for factors (Hu & Bentler 1999); for composites there is no agreed limit.`,
  ];
  if (along !== among)
    words.push(
      `With the paths of the theory it is ${along}: what is added comes from paths that were left out.`,
    );
  else if (estimated && Math.abs(estimated.srmr - saturated.srmr) > 1e-9)
    words.push("With the paths of the theory it is the same to three decimals.");
  return group === null ? words : [words.join(" ")];
}
