import { codesOf, levelsOf, orderedColumn } from "./levels";
import { PerfectAssociation, stagedStatistics } from "./statistics";

/**
 * Polychoric correlations of complete columns of answers.
 * @param close where pairs stop, as a slope per case; to the last digit where it is left out
 * @returns k x k; the places of two columns that are associated without exception where there are
 *   such, since then there is no matrix
 */
export function polychoricMatrix(
  columns: readonly Float64Array[],
  close?: number,
): { matrix: number[][]; perfect: null } | { matrix: null; perfect: [number, number] } {
  const staged = columns.map((values) => {
    const levels = levelsOf(values);
    return orderedColumn(codesOf(values, levels), levels);
  });
  try {
    const { pairs } = stagedStatistics(staged, null, null, close);
    const matrix = columns.map((_, i) => columns.map((__, j): number => (i === j ? 1 : 0)));
    for (const { a, b, r } of pairs) matrix[a]![b] = matrix[b]![a] = r;
    return { matrix, perfect: null };
  } catch (error) {
    if (!(error instanceof PerfectAssociation)) throw error;
    return { matrix: null, perfect: [error.a, error.b] };
  }
}
