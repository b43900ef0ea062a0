import type { Column } from "../../design";
import { codeColumns, type Grouping } from "../grouping";
import type { EstimatedGroup } from "./estimated-groups";
import type { TheoryComposite } from "./theory-model";

/**
 * What stands for the variables of a theory: scores, columns that keep their values, and codes of
 * groups; by key.
 */
export function columnsOf(
  { nodes, coded }: TheoryComposite,
  grouping: Grouping,
  groups: readonly EstimatedGroup[],
): Map<string, Column> {
  const columns = new Map<string, Column>();
  for (const { name, keys } of nodes)
    for (const key of keys)
      columns.set(
        key,
        coded.get(key) ?? {
          key,
          variable: name,
          label: name,
          contrast: null,
          values: scoresOf(key, groups, grouping.of.length),
          sd: 1,
          components: null,
        },
      );
  for (const column of codeColumns(grouping)) columns.set(column.key, column);
  return columns;
}

/** Scores of a construct in the rows of the sample, of variance one in each group. */
function scoresOf(key: string, groups: readonly EstimatedGroup[], n: number): Float64Array {
  const out = new Float64Array(n);
  for (const { built, rows, solution } of groups) {
    const j = built.model.constructs.findIndex((c) => c.name === key);
    rows.forEach((row, i) => (out[row] = solution.scores[j]![i]!));
  }
  return out;
}
