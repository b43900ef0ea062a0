import type { NumericColumn, OrderedColumn } from "./levels";
import { Influences, rowsOf, type StagedStatistics } from "./statistics";

/** One statistic of two stages, by its place among the variables. */
export type StatisticPlace =
  | { kind: "threshold"; variable: number; at: number }
  | { kind: "mean"; variable: number }
  | { kind: "moment"; row: number; column: number };

/**
 * All statistics in their order: thresholds variable by variable, means of numbers, the lower
 * triangle column by column without the variances of ordered variables.
 */
export function statisticPlaces({ columns }: StagedStatistics): StatisticPlace[] {
  const p = columns.length;
  const places: StatisticPlace[] = [];
  columns.forEach((column, variable) => {
    if (column.kind === "ordered")
      column.thresholds.forEach((_, at) => places.push({ kind: "threshold", variable, at }));
  });
  columns.forEach((column, variable) => {
    if (column.kind === "numeric") places.push({ kind: "mean", variable });
  });
  for (let column = 0; column < p; column++)
    for (let row = column; row < p; row++)
      if (row !== column || columns[row]!.kind === "numeric")
        places.push({ kind: "moment", row, column });
  return places;
}

export const statisticValues = (
  { columns, covariance }: StagedStatistics,
  places: readonly StatisticPlace[],
): Float64Array =>
  Float64Array.from(places, (place) =>
    place.kind === "threshold"
      ? (columns[place.variable] as OrderedColumn).thresholds[place.at]!
      : place.kind === "mean"
        ? (columns[place.variable] as NumericColumn).mean
        : covariance[place.row * columns.length + place.column]!,
  );

/** What every case moves a statistic by, times n, as a function of its row. */
export function influenceAt(
  staged: StagedStatistics,
  influences: Influences,
  place: StatisticPlace,
): (row: number) => number {
  const { columns, pairs } = staged;
  if (place.kind === "threshold") {
    const { codes } = columns[place.variable] as OrderedColumn;
    return (row) => influences.ofThreshold(place.variable, codes[row]!, place.at);
  }
  if (place.kind === "mean") {
    const { values } = columns[place.variable] as NumericColumn;
    return (row) => influences.ofMean(place.variable, values[row]!);
  }
  if (place.row === place.column) {
    const { values } = columns[place.row] as NumericColumn;
    return (row) => influences.ofVariance(place.row, values[row]!);
  }
  return influences.ofPair(pairs.find((p) => p.a === place.column && p.b === place.row)!);
}

/**
 * Covariance of the statistics, times n: Gamma = A^-1 B A^-T of the stacked estimating equations of
 * both stages (Muthen 1984; Muthen & Satorra 1995).
 * @returns m x m in the order of `places`
 */
export function statisticCovariance(
  staged: StagedStatistics,
  places: readonly StatisticPlace[],
): Float64Array {
  const { weights } = staged;
  const rows = rowsOf(staged.columns[0]!);
  const m = places.length;
  const influences = new Influences(staged);
  const each = places.map((place) => {
    const of = influenceAt(staged, influences, place);
    return Float64Array.from({ length: rows }, (_, row) => of(row));
  });
  const gamma = new Float64Array(m * m);
  for (let a = 0; a < m; a++)
    for (let b = 0; b <= a; b++) {
      const [x, y] = [each[a]!, each[b]!];
      let sum = 0;
      for (let row = 0; row < rows; row++) sum += (weights ? weights[row]! : 1) * x[row]! * y[row]!;
      gamma[a * m + b] = gamma[b * m + a] = sum / staged.n;
    }
  return gamma;
}

/**
 * The diagonal of that alone. Of a polychoric correlation it needs the table of its pair only, of
 * anything else the rows.
 */
export function statisticVariances(
  staged: StagedStatistics,
  places: readonly StatisticPlace[],
): Float64Array {
  const { columns, pairs, weights, n } = staged;
  const p = columns.length;
  const rows = rowsOf(columns[0]!);
  const influences = new Influences(staged);
  const byPlace = new Map(pairs.map((pair) => [pair.b * p + pair.a, pair]));
  return Float64Array.from(places, (place) => {
    const pair = place.kind === "moment" ? byPlace.get(place.row * p + place.column) : undefined;
    let sum = 0;
    if (pair?.polychoric) {
      const cells = influences.ofCells(pair);
      const table = pair.table!;
      for (let at = 0; at < cells.length; at++) sum += table[at]! * cells[at]! * cells[at]!;
    } else {
      const of = influenceAt(staged, influences, place);
      for (let row = 0; row < rows; row++) {
        const weight = weights ? weights[row]! : 1;
        if (weight === 0) continue;
        const value = of(row);
        sum += weight * value * value;
      }
    }
    return sum / n;
  });
}
