import { cautionsTold, leftOutTold, provisionalTold, type Evidence } from "../../evidence";
import { listed } from "../../wording";
import { heading, paragraph, type Part } from "../context";

/** What has to be known of decisions before they are relied on, and of which. */
export const limits: Part = ({ evidence, style }) => {
  const told = [
    ...leftOutTold(evidence),
    ...provisionalTold(evidence),
    ...(style.conditions ? conditions(evidence) : []),
    ...cautionsTold(evidence.hypotheses),
  ];
  return told.length === 0
    ? []
    : [heading("Limits of these results"), ...told.map((words) => paragraph(words))];
};

/**
 * What words of cause and effect rest on where a mediator stands between (Pearl 2001; VanderWeele
 * 2015): once, in a sentence.
 */
function conditions({ hypotheses, roles }: Evidence): string[] {
  const mediated = hypotheses.some((h) => h.chains.some((chain) => chain.length > 0));
  if (!mediated || roles.mediators.length === 0) return [];
  const between = listed(roles.mediators);
  return [
    `Words of cause and effect hold as far as ${between} ${roles.mediators.length === 1 ? "comes" : "come"} after ${listed(roles.predictors)} and before ${listed(roles.outcomes)}, and as far as nothing that was left out affects two of them: what mediates was measured, not assigned, and no analysis of these data can tell that.`,
  ];
}
