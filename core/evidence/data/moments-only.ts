import type { DataEvidence, Result } from "./types";

const needsRows = <T>(what: string): Result<T> => ({
  value: null,
  problem: {
    code: "needs_rows",
    message: `${what} needs the rows of the data; only means and covariances are known.`,
    variables: [],
  },
});

type Screened = Omit<DataEvidence, "findings" | "warnings">;

/**
 * What remains of a description when only means and covariances are known. Extremes, percentiles,
 * ranks, shapes and distances would come from rows that merely stand in for the matrix, so they are
 * taken out.
 */
export function knownFromMoments(data: Screened): Screened {
  const descriptives = Object.values(data.descriptives).map((v) => ({
    ...v,
    min: null,
    max: null,
    median: null,
    percentiles: null,
    skewness: null,
    skewnessSe: null,
    excessKurtosis: null,
    excessKurtosisSe: null,
    outliers: {
      ...v.outliers,
      median: null,
      mad: null,
      scale: null,
      rule: "none" as const,
      rows: [],
      z: [],
    },
    rangeErrors: [],
  }));
  return {
    ...data,
    descriptives: Object.fromEntries(descriptives.map((v) => [v.name, v])),
    duplicates: { rows: [], identifiers: [] },
    sets: data.sets.map((set) => ({
      ...set,
      correlations: {
        pairwise: withoutRanks(set.correlations.pairwise),
        listwise: withoutRanks(set.correlations.listwise),
      },
      little: needsRows("Little's test"),
      mahalanobis: needsRows("A Mahalanobis distance"),
      mardia: needsRows("Mardia's test"),
    })),
    measures: data.measures.map((m) => ({
      ...m,
      straightLining: needsRows("Straight-lining"),
      scores: needsRows("A score"),
    })),
  };
}

/** Rank correlations are no function of covariances. */
const withoutRanks = <T extends { cells: { spearman: unknown }[] }>(table: T): T => ({
  ...table,
  cells: table.cells.map((cell) => ({ ...cell, spearman: null })),
});
