import type { Warning } from "../../../problems";
import type { StagedColumn } from "../../../ordered";
import type { FittedModel } from "../fitted-model";
import type { TheoryModel } from "../theory-model";
import { warning } from "../wording";
import { NEAR_ONE, smallestEigenvalue } from "./evidence";
import { correlationsOf } from "./problem";

/** What deserves a look where answers are ordered. */
export function orderedWarnings(model: TheoryModel, { ordered, spec }: FittedModel): Warning[] {
  if (!ordered) return [];
  const { observed } = spec;
  const { pairs, columns } = ordered.staged;
  const smallest = smallestEigenvalue(correlationsOf(ordered.staged), columns.length);
  return [
    ...unchosen(model, spec.observed, columns),
    ...pairs.flatMap(({ a, b, r, polychoric }) => {
      const names = { a: observed[a]!, b: observed[b]! };
      const about = [names.a, names.b];
      return [
        ...(polychoric?.corrected ? [warning("empty_cell", names, about)] : []),
        ...(Math.abs(r) > NEAR_ONE
          ? [warning("correlation_near_one", { ...names, r }, about)]
          : []),
      ];
    }),
    ...(smallest <= 0 ? [warning("correlations_not_positive_definite", { smallest }, [])] : []),
  ];
}

/** More levels than that are declared of no ordered item. */
const MOST_DECLARED = 7;

/** Levels of a declared scale that nobody chose. */
function unchosen(
  { built }: TheoryModel,
  observed: readonly string[],
  columns: readonly StagedColumn[],
): Warning[] {
  return built.factors.flatMap(({ scale, items }) => {
    if (!scale || !scale.every(Number.isInteger) || scale[1] - scale[0] >= MOST_DECLARED) return [];
    const declared = Array.from({ length: scale[1] - scale[0] + 1 }, (_, k) => scale[0] + k);
    return items.flatMap(({ ref: { name }, reversed }) => {
      const column = columns[observed.indexOf(name)];
      if (column?.kind !== "ordered") return [];
      const levels = declared.filter((level) => !column.levels.includes(reversed ? -level : level));
      return levels.length === 0 ? [] : [warning("levels_left_out", { name, levels }, [name])];
    });
  });
}
