import { StudyProblem } from "../problems";

/** How a scale score is made of its items. */
export interface ScoreRule {
  form: "averages" | "sums";
  /** Smallest share of answered items for a score, e.g. 0.8. */
  answered: number;
}

export const DEFAULT_ANSWERED = 0.8;
/** A share such as 0.6 of 5 items must not fail on its last bit. */
const SLACK = 1e-9;

/**
 * Scale scores: the mean of the answered items, or that mean times the number of items (person-mean
 * imputation); missing where too few are answered.
 * @param columns k items of n rows, NaN where missing, reversed items already reversed
 */
export function scaleScores(columns: Float64Array[], { form, answered }: ScoreRule): Float64Array {
  const k = columns.length;
  const scores = new Float64Array(columns[0]?.length ?? 0).fill(NaN);
  for (let i = 0; i < scores.length; i++) {
    let sum = 0;
    let count = 0;
    for (const column of columns) {
      const value = column[i]!;
      if (Number.isNaN(value)) continue;
      sum += value;
      count += 1;
    }
    if (count === 0 || count / k < answered - SLACK) continue;
    scores[i] = form === "averages" ? sum / count : (k * sum) / count;
  }
  return scores;
}

/**
 * A reverse-keyed item turned round: min + max - x, with the declared limits of the scale, not the
 * observed ones.
 * @throws StudyProblem `out_of_range` naming the item and the row (1-based) of a value beyond the
 *   limits
 */
export function reversed(
  item: string,
  values: Float64Array,
  [low, high]: readonly [number, number],
): Float64Array {
  const bad = values.findIndex((v) => v < low || v > high);
  if (bad >= 0) {
    throw new StudyProblem(
      "beyond_scale",
      { item, value: values[bad]!, row: bad + 1, low, high },
      { variables: [item], row: bad + 1 },
    );
  }
  return values.map((v) => low + high - v);
}
