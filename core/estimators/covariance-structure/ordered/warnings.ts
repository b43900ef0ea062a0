import type { Warning } from "../../../problems";
import { levelsOf, MOST_LEVELS, type StagedColumn } from "../../../ordered";
import { describe } from "../../../screening";
import { plain } from "../../../wording/numbers";
import type { FittedModel } from "../fitted-model";
import type { TheoryModel } from "../theory-model";
import { warning } from "../wording";
import { smallestEigenvalue } from "../identification";
import { NEAR_ONE } from "./evidence";
import { correlationsOf } from "./problem";

/** What deserves a look where answers are ordered. */
export function orderedWarnings(model: TheoryModel, { ordered, spec }: FittedModel): Warning[] {
  if (!ordered) return [];
  const { observed } = spec;
  const { pairs, columns } = ordered.staged;
  const smallest = smallestEigenvalue(correlationsOf(ordered.staged), columns.length);
  return [
    ...unchosen(model, spec.observed, columns),
    ...keptAsNumbers(model, ordered.names),
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

/** Levels of a declared scale that nobody chose. */
function unchosen(
  { built }: TheoryModel,
  observed: readonly string[],
  columns: readonly StagedColumn[],
): Warning[] {
  return built.factors.flatMap(({ scale, items }) => {
    if (!scale || !scale.every(Number.isInteger) || scale[1] - scale[0] >= MOST_LEVELS) return [];
    const declared = Array.from({ length: scale[1] - scale[0] + 1 }, (_, k) => scale[0] + k);
    return items.flatMap(({ ref: { name }, reversed }) => {
      const column = columns[observed.indexOf(name)];
      if (column?.kind !== "ordered") return [];
      const levels = declared.filter((level) => !column.levels.includes(reversed ? -level : level));
      return levels.length === 0 ? [] : [warning("levels_left_out", { name, levels }, [name])];
    });
  });
}

/** Where all answers should be ordered: items that have too many levels for that. */
function keptAsNumbers({ built, options }: TheoryModel, names: ReadonlySet<string>): Warning[] {
  if (options.answers !== "ordered") return [];
  const kept = built.factors
    .flatMap((m) => m.items.map((item) => item.ref.name))
    .filter((name) => !names.has(name) && !built.spec.latent.includes(name));
  return kept.length === 0 ? [] : [warning("kept_as_numbers", { names: kept }, kept)];
}

/** From these marks on answers are hardly numbers (Rhemtulla, Brosseau-Liard & Savalei 2012). */
const FEW_LEVELS = 4;
const AT_AN_END = 0.4;
const SKEWED = 1.5;

/**
 * Measures whose answers might better be taken as ordered, with the reason; nothing is switched by
 * itself.
 */
export function orderedProposals(model: TheoryModel, fitted: FittedModel): Warning[] {
  const { built, options, sample } = model;
  const single = fitted.spec.groups.length === 1;
  const plain = built.products.length + built.interactions.length === 0;
  if (fitted.ordered || options.answers !== "stated" || !single || !plain || sample.momentsOnly)
    return [];
  return built.factors.flatMap(({ name: { name }, items }) => {
    const found = items.flatMap(({ ref }) => {
      const at = built.spec.observed.indexOf(ref.name);
      const reason = at < 0 ? null : reasonOf(sample.groups[0]![at]!);
      return reason === null ? [] : [{ item: ref.name, reason }];
    });
    const [first] = found;
    if (!first) return [];
    const about = [name, ...found.map((f) => f.item)];
    return [warning("answers_hardly_numbers", { name, ...first, others: found.length - 1 }, about)];
  });
}

function reasonOf(values: Float64Array): string | null {
  const known = values.filter((y) => !Number.isNaN(y));
  const levels = levelsOf(known);
  if (levels.length < 2 || levels.length > MOST_LEVELS) return null;
  if (levels.length <= FEW_LEVELS) return `has ${levels.length} levels`;
  const share = (level: number): number => known.filter((y) => y === level).length / known.length;
  const most = Math.max(share(levels[0]!), share(levels.at(-1)!));
  if (most > AT_AN_END) return `has ${Math.round(100 * most)} % of its answers at one end`;
  const skew = describe(known).skewness;
  return skew !== null && Math.abs(skew) > SKEWED ? `is skewed (${plain(skew, 1)})` : null;
}
