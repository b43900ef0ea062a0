import type { Measure } from "../theory";
import { scoreCorrelation } from "./marginal";
import { DEFAULT_RELIABILITY, type StudyPlan } from "../study";
import type { PlannedColumn } from "./variables";

/** How the answers to the items of a measure follow from what it measures. */
export interface PlannedItems {
  measure: Measure;
  columns: PlannedColumn[];
  /** Correlation of the normal score of an item with what is measured. */
  loading: number;
  /** The mean of the items is what is measured itself, so errors of a person add up to nothing. */
  exact: boolean;
}

/**
 * Items that agree as the expected reliability of their mean says: with k items of mean correlation
 * r it is k r / (1 + (k - 1) r) (Spearman 1910; Brown 1910). Answers in steps correlate less than
 * the scores behind them, so the scores are made to correlate more.
 */
export function plannedItems(
  measure: Measure,
  columns: PlannedColumn[],
  plan: StudyPlan,
): PlannedItems {
  const k = columns.length;
  const reliability =
    plan.reliabilities[measure.name.name] ??
    measure.reliability ??
    (k === 1 ? 1 : DEFAULT_RELIABILITY);
  const wanted = reliability / (k - reliability * (k - 1));
  const [first] = columns;
  const r = first ? (scoreCorrelation(wanted, first.marginal, first.marginal) ?? wanted) : wanted;
  const made =
    measure.form === "combines" || (plan.sizesAmong === "scores" && measure.form !== "reflects");
  if (!made) return { measure, columns, loading: Math.sqrt(r), exact: false };
  // Of errors that add up to nothing, any two correlate -1 / (k - 1).
  return { measure, columns, loading: Math.sqrt((1 + (k - 1) * r) / k), exact: true };
}

/**
 * Normal scores of the items of one measure.
 * @param construct what is measured, in z-scores
 * @param errors standard normal, one column for each item; changed in place
 */
export function itemScores(
  { loading, exact, measure }: PlannedItems,
  construct: Float64Array,
  errors: Float64Array[],
): Float64Array[] {
  const k = errors.length;
  const rest = Math.sqrt(Math.max(0, 1 - loading * loading));
  const spread = exact && k > 1 ? Math.sqrt(k / (k - 1)) : 1;
  for (let i = 0; i < construct.length; i++) {
    let middle = 0;
    if (exact) {
      for (const e of errors) middle += e[i]!;
      middle /= k;
    }
    for (let j = 0; j < k; j++) {
      const error = exact && k === 1 ? 0 : spread * (errors[j]![i]! - middle);
      const score = loading * construct[i]! + rest * error;
      errors[j]![i] = measure.items[j]!.reversed ? -score : score;
    }
  }
  return errors;
}
