import { pick } from "../../data";
import type { FittedComposite, FurtherStudies } from "./fitted-composite";
import type { EstimatedGroup } from "./estimated-groups";
import { exactFit } from "./exact-fit";
import { compareGroups } from "./group-comparison";
import { drawnFolds, predictOut } from "./prediction";

/**
 * What re-estimates the model many times besides the bootstrap: exact fit, groups by permutation,
 * prediction.
 */
export function furtherStudies(fit: FittedComposite): FurtherStudies {
  const { groups, options, composite, data, settings } = fit;
  const pairs = groups.flatMap((one, i) => groups.slice(i + 1).map((two) => [one, two] as const));
  const each = groups.map((group) => studiesOf(fit, group));
  const alone = groups.length === 1;
  return {
    comparisons:
      options.permutations > 0
        ? pairs.map(([one, two]) =>
            compareGroups(
              composite,
              [one, two],
              options.permutations,
              settings.seed,
              // Permutations from elsewhere are of all rows, so they say nothing about a part of
              // the groups.
              pairs.length === 1 ? (data.givenPermutations ?? null) : null,
            ),
          )
        : [],
    whole: alone ? each[0]! : { exactFit: null, prediction: null },
    byGroup: alone ? [] : each,
  };
}

/** Exact fit and prediction of one group, as far as they are wanted. */
function studiesOf(
  fit: FittedComposite,
  { rows, solution }: EstimatedGroup,
): FurtherStudies["whole"] {
  const { groups, options, composite, data, settings } = fit;
  // Resamples from elsewhere are of all rows, so they are none of a group.
  const given = groups.length === 1 ? (data.given ?? null) : null;
  const columns = new Map(
    [...composite.columns].map(([key, values]): [string, Float64Array] => [
      key,
      Float64Array.from(rows, (row) => values[row]!),
    ]),
  );
  return {
    exactFit:
      options.exactFit > 0 ? exactFit(solution, options.exactFit, settings.seed, given) : null,
    prediction:
      options.folds > 1 ? predictOut({ ...composite, columns }, foldsOf(fit, rows)) : null,
  };
}

/** Which fold each row of a group is in: as a column says, or drawn, once for each repetition. */
function foldsOf(
  { options, data, settings }: FittedComposite,
  rows: Int32Array,
): ArrayLike<number>[] {
  const { foldColumn, folds, repetitions } = options;
  if (foldColumn !== null) {
    const all = pick(data.typed.get(foldColumn)!.values, data.sample.rows);
    return [pick(all, rows)];
  }
  return Array.from({ length: repetitions }, (_, r) =>
    drawnFolds(rows.length, folds, r, settings.seed),
  );
}
