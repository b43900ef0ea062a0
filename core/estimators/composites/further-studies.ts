import { pick } from "../../data";
import type { FittedComposite, FurtherStudies } from "./fitted-composite";
import { exactFit } from "./exact-fit";
import { compareGroups } from "./group-comparison";
import { drawnFolds, predictOut } from "./prediction";

/** What re-estimates the model many times besides the bootstrap: exact fit, groups by permutation, prediction. */
export function furtherStudies(fit: FittedComposite): FurtherStudies {
  const { groups, options, composite, data, settings } = fit;
  const [first] = groups;
  const pairs = groups.flatMap((one, i) => groups.slice(i + 1).map((two) => [one, two] as const));
  const alone = groups.length === 1;
  return {
    exactFit:
      alone && options.exactFit > 0
        ? exactFit(first!.solution, options.exactFit, settings.seed, data.given ?? null)
        : null,
    comparisons:
      options.permutations > 0
        ? pairs.map(([one, two]) =>
            compareGroups(
              composite,
              [one, two],
              options.permutations,
              settings.seed,
              // Permutations from elsewhere are of all rows, so they say nothing about a part of the groups.
              pairs.length === 1 ? (data.givenPermutations ?? null) : null,
            ),
          )
        : [],
    prediction: alone && options.folds > 1 ? predictOut(composite, foldsOf(fit)) : null,
  };
}

/** Which fold each row is in: as a column says, or drawn, once for each repetition. */
function foldsOf({ options, data, settings }: FittedComposite): ArrayLike<number>[] {
  const { foldColumn, folds, repetitions } = options;
  const { rows } = data.sample;
  if (foldColumn !== null) return [pick(data.typed.get(foldColumn)!.values, rows)];
  return Array.from({ length: repetitions }, (_, r) =>
    drawnFolds(rows.length, folds, r, settings.seed),
  );
}
