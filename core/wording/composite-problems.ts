import { quoted, worded } from "./condition";

const inGroup = (group: string | null): string => (group === null ? "" : ` in ${group}`);

/** What may stop a composite model. */
export const COMPOSITE_PROBLEMS = {
  composite_rows: worded(
    "too_few_cases",
    ({ group }: { group: string | null }) =>
      `There are too few complete cases${inGroup(group)} for this model: at least two more than an equation has predictors, or a measure weighted by regression has items. Leave paths or items out, or look at missing answers.`,
  ),
  composite_block: worded(
    "collinear",
    ({ names, group }: { names: string[]; group: string | null }) =>
      `${quoted(names)} determine one another${inGroup(group)}, so weights by regression cannot be found. Leave one of them out, or weight by correlation.`,
  ),
  composite_equation: worded(
    "collinear",
    ({ names, group }: { names: string[]; group: string | null }) =>
      `The predictors ${quoted(names)} determine one another${inGroup(group)}. Leave one of them out of the theory.`,
  ),
  item_used_twice: worded(
    "item_used_twice",
    ({ names }: { names: string[] }) =>
      `${quoted(names)} ${names.length === 1 ? "belongs" : "belong"} to two variables of this theory. Among composites, each item belongs to one: take it out of one of them.`,
  ),
};
