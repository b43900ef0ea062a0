import { plain, type MeasureEvidence } from "../evidence";
import type { Working } from "./types";

/** Where the reliability of a measure comes from. */
export function alphaWorking({ name, reliability }: MeasureEvidence): Working | null {
  const { value } = reliability;
  if (!value || value.alpha === null) return null;
  const { k, itemStatistics, alpha, interItem, omega } = value;
  const variances = itemStatistics.map((i) => i.sd * i.sd);
  const sum = variances.reduce((a, b) => a + b, 0);
  const total = itemStatistics.reduce(
    (all, a, i) =>
      all +
      itemStatistics.reduce(
        (row, b, j) => row + a.sd * b.sd * (i === j ? 1 : interItem[i]![j]!),
        0,
      ),
    0,
  );
  return {
    title: `Reliability of ${name}`,
    steps: [
      {
        what: "α",
        formula: "k / (k − 1) × (1 − Σ variances of items / variance of their sum)",
        numbers: `${k} / ${k - 1} × (1 − ${plain(sum)} / ${plain(total)}) = ${plain(alpha)}`,
        source: "Cronbach 1951, Psychometrika 16",
      },
      ...(omega
        ? [
            {
              what: "ω",
              formula: "(Σ loadings)² / implied variance of the sum",
              numbers: `${plain(omega.loadingsRaw.reduce((a, b) => a + b, 0))}² / (${plain(omega.loadingsRaw.reduce((a, b) => a + b, 0))}² + ${plain(omega.uniquenessesRaw.reduce((a, b) => a + b, 0))}) = ${plain(omega.total)}`,
              source: "McDonald 1999, Test Theory",
            },
          ]
        : []),
    ],
    rows: `${value.n} complete rows over ${k} items, reversed items reversed.`,
  };
}
