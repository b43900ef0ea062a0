import { plain, type MeasureEvidence } from "../evidence";
import { operand, sourced, step } from "./paper";
import type { Working, WorkingStep } from "./types";

/**
 * Where the numbers of one item of a measure come from; null where the measure has no reliability,
 * or no such item.
 */
export function itemWorking({ name, reliability }: MeasureEvidence, item: string): Working | null {
  const { value } = reliability;
  const at = value ? value.items.indexOf(item) : -1;
  if (!value || at < 0) return null;
  const own = value.itemStatistics[at]!;
  const cov = (i: number, j: number): number =>
    value.itemStatistics[i]!.sd *
    value.itemStatistics[j]!.sd *
    (i === j ? 1 : value.interItem[i]![j]!);
  const others = value.items.flatMap((_, i) => (i === at ? [] : [i]));
  const withOthers = others.reduce((sum, i) => sum + cov(at, i), 0);
  const ofOthers = others.reduce((sum, i) => sum + others.reduce((s, j) => s + cov(i, j), 0), 0);
  const variances = others.reduce((sum, i) => sum + cov(i, i), 0);
  const steps: WorkingStep[] = [];
  if (own.correctedItemTotal !== null)
    steps.push(
      step(
        "Corrected item-total r",
        "covariance of the item with the sum of the other items / (SD of the item × SD of that sum)",
        `${operand(withOthers)} / (${plain(own.sd)} × √(${plain(ofOthers)})) = ${plain(own.correctedItemTotal)}`,
      ),
    );
  if (own.squaredMultipleCorrelation !== null)
    steps.push(
      step(
        "Squared multiple r",
        "R² of the item regressed on all other items",
        plain(own.squaredMultipleCorrelation),
      ),
    );
  const { omega, k, n } = value;
  if (omega)
    steps.push(
      sourced(
        "Loading",
        "loading in SDs (one factor by maximum likelihood, from the correlations) × SD of the item",
        `${operand(omega.loadings[at]!)} × ${plain(own.sd)} = ${plain(omega.loadingsRaw[at])}`,
        "Lawley & Maxwell 1971, Factor Analysis, ch. 4",
      ),
    );
  if (own.alphaIfDropped !== null)
    steps.push(
      sourced(
        "α if item deleted",
        "α of the other items: k / (k − 1) × (1 − Σ variances / variance of their sum)",
        `${k - 1} / ${k - 2} × (1 − ${plain(variances)} / ${plain(ofOthers)}) = ${plain(own.alphaIfDropped)}`,
        "Cronbach 1951, Psychometrika 16",
      ),
    );
  return {
    title: `${item} of ${name}`,
    steps,
    rows: `${n} complete rows over ${k} items, reversed items reversed.`,
  };
}
