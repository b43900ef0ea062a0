import type { NumericColumn, OrderedColumn, StagedColumn } from "./levels";
import { thresholdInfluence } from "./levels";
import { polychoric, type Polychoric } from "./polychoric";
import { polyserial, type Polyserial } from "./polyserial";

/** What is known of a pair of variables. */
export interface Pair {
  /** Places of the two, the smaller first. */
  a: number;
  b: number;
  n: number;
  kind: "polychoric" | "polyserial" | "covariance";
  /** Correlation, and what stands among the statistics: r, r times the SD of a number, or the covariance. */
  r: number;
  value: number;
  polychoric: Polychoric | null;
  polyserial: Polyserial | null;
  /** Of two ordered variables: see `crossTable`. */
  table: Float64Array | null;
}

/** A pair whose likelihood has no maximum inside (-1, 1): every case keeps to the order. */
export class PerfectAssociation extends Error {
  constructor(
    readonly a: number,
    readonly b: number,
  ) {
    super(`Variables ${a} and ${b} are perfectly associated.`);
    this.name = "PerfectAssociation";
  }
}

/** Statistics of two stages, of one group. */
export interface StagedStatistics {
  columns: readonly StagedColumn[];
  /** How often each case counts; once each where null. */
  weights: Float64Array | null;
  /** Cases with at least one value. */
  n: number;
  /** Every pair, column by column of the lower triangle. */
  pairs: Pair[];
  /** Correlations and covariances of what stands behind the variables, p x p. */
  covariance: Float64Array;
}

/**
 * Thresholds, means and variances are held as the first stage found them; then each pair alone has
 * its polychoric or polyserial correlation, or its covariance (Olsson 1979; Muthen 1984,
 * Psychometrika 49).
 * @param weights how often each case counts; once each where null
 * @param start correlations to begin with, p x p; null for none
 * @param close where pairs stop, as a slope per case; to the last digit where it is left out
 * @throws PerfectAssociation
 */
export function stagedStatistics(
  columns: readonly StagedColumn[],
  weights: Float64Array | null = null,
  start: Float64Array | null = null,
  close?: number,
): StagedStatistics {
  const p = columns.length;
  const covariance = new Float64Array(p * p);
  columns.forEach((column, i) => {
    covariance[i * p + i] = column.kind === "ordered" ? 1 : column.variance;
  });
  const pairs: Pair[] = [];
  for (let a = 0; a < p; a++)
    for (let b = a + 1; b < p; b++) {
      const pair = pairOf(columns, a, b, weights, start ? start[a * p + b]! : 0, close);
      pairs.push(pair);
      covariance[a * p + b] = covariance[b * p + a] = pair.value;
    }
  return { columns, weights, n: casesOf(columns, weights), pairs, covariance };
}

const isThere = (column: StagedColumn, i: number): boolean =>
  column.kind === "ordered" ? column.codes[i]! >= 0 : !Number.isNaN(column.values[i]!);

export const rowsOf = (column: StagedColumn): number =>
  column.kind === "ordered" ? column.codes.length : column.values.length;

function casesOf(columns: readonly StagedColumn[], weights: Float64Array | null): number {
  let n = 0;
  for (let i = 0; i < rowsOf(columns[0]!); i++)
    if (columns.some((column) => isThere(column, i))) n += weights ? weights[i]! : 1;
  return n;
}

/** Counts of the cells of two ordered variables; the first row and column are of those missing. */
export function crossTable(
  a: OrderedColumn,
  b: OrderedColumn,
  weights: Float64Array | null,
): Float64Array {
  const width = b.levels.length + 1;
  const table = new Float64Array((a.levels.length + 1) * width);
  const [rows, columns] = [a.codes, b.codes];
  for (let i = 0; i < rows.length; i++) {
    const at = (rows[i]! + 1) * width + columns[i]! + 1;
    table[at] = table[at]! + (weights ? weights[i]! : 1);
  }
  return table;
}

/** The same without those missing. */
function complete(table: Float64Array, rows: number, columns: number): Float64Array {
  const out = new Float64Array(rows * columns);
  for (let i = 0; i < rows; i++)
    for (let j = 0; j < columns; j++)
      out[i * columns + j] = table[(i + 1) * (columns + 1) + j + 1]!;
  return out;
}

function pairOf(
  columns: readonly StagedColumn[],
  a: number,
  b: number,
  weights: Float64Array | null,
  start: number,
  close?: number,
): Pair {
  const [x, y] = [columns[a]!, columns[b]!];
  const base = { a, b, polychoric: null, polyserial: null, table: null };
  if (x.kind === "ordered" && y.kind === "ordered") {
    const all = crossTable(x, y, weights);
    const table = complete(all, x.levels.length, y.levels.length);
    let n = 0;
    for (let at = 0; at < table.length; at++) n += table[at]!;
    const found = polychoric(table, x.thresholds, y.thresholds, start, close);
    if (!found) throw new PerfectAssociation(a, b);
    return {
      ...base,
      n,
      kind: "polychoric",
      r: found.r,
      value: found.r,
      polychoric: found,
      table: all,
    };
  }
  if (x.kind === "numeric" && y.kind === "numeric") {
    const { n, value } = covarianceOf(x, y, weights);
    const r = value / Math.sqrt(x.variance * y.variance);
    return { ...base, n, kind: "covariance", r, value };
  }
  const [ordered, numeric] =
    x.kind === "ordered" ? [x, y as NumericColumn] : [y as OrderedColumn, x as NumericColumn];
  const found = polyserial(ordered, numeric, weights, start, close);
  if (!found) throw new PerfectAssociation(a, b);
  let n = 0;
  ordered.codes.forEach((_, i) => {
    if (isThere(ordered, i) && isThere(numeric, i)) n += weights ? weights[i]! : 1;
  });
  const value = found.r * Math.sqrt(numeric.variance);
  return { ...base, n, kind: "polyserial", r: found.r, value, polyserial: found };
}

/** Covariance about the means of the first stage, of cases that have both. */
function covarianceOf(
  x: NumericColumn,
  y: NumericColumn,
  weights: Float64Array | null,
): { n: number; value: number } {
  let n = 0;
  let sum = 0;
  for (let i = 0; i < x.values.length; i++) {
    const [u, v] = [x.values[i]!, y.values[i]!];
    if (Number.isNaN(u) || Number.isNaN(v)) continue;
    const weight = weights ? weights[i]! : 1;
    n += weight;
    sum += weight * (u - x.mean) * (v - y.mean);
  }
  return { n, value: sum / n };
}

/**
 * What each case moves the statistics by, times n: the casewise scores of both stages through the
 * inverse of their mean derivative, which is lower block triangular (expected information; Muthen &
 * Satorra 1995).
 */
export class Influences {
  readonly thresholds: (Float64Array | null)[];

  constructor(private readonly staged: StagedStatistics) {
    this.thresholds = staged.columns.map((column) =>
      column.kind === "ordered" ? thresholdInfluence(column) : null,
    );
  }

  /** N / n of a variable: scores count zero where it is missing. */
  private inflation(at: number): number {
    return this.staged.n / this.staged.columns[at]!.n;
  }

  /** Of a threshold on a level. */
  ofThreshold(at: number, code: number, c: number): number {
    if (code < 0) return 0;
    const size = (this.staged.columns[at] as OrderedColumn).thresholds.length;
    return this.thresholds[at]![code * size + c]! * this.inflation(at);
  }

  /** Of a mean, and of a variance, by the value of a case. */
  ofMean(at: number, value: number): number {
    const { mean } = this.staged.columns[at] as NumericColumn;
    return Number.isNaN(value) ? 0 : (value - mean) * this.inflation(at);
  }
  ofVariance(at: number, value: number): number {
    const { mean, variance } = this.staged.columns[at] as NumericColumn;
    return Number.isNaN(value) ? 0 : ((value - mean) ** 2 - variance) * this.inflation(at);
  }

  /** What the thresholds of a variable move a correlation by, on each level. */
  private throughThresholds(at: number, cross: Float64Array): Float64Array {
    const { levels } = this.staged.columns[at] as OrderedColumn;
    return Float64Array.from(levels, (_, code) =>
      cross.reduce((sum, weight, c) => sum + weight * this.ofThreshold(at, code, c), 0),
    );
  }

  /** Of a pair's statistic, as a function of a case. */
  ofPair(pair: Pair): (row: number) => number {
    const { columns, weights, n } = this.staged;
    const share = n / pair.n;
    if (pair.polychoric) {
      const [x, y] = [columns[pair.a] as OrderedColumn, columns[pair.b] as OrderedColumn];
      const cells = this.ofCells(pair);
      const width = y.levels.length + 1;
      return (row) => cells[(x.codes[row]! + 1) * width + y.codes[row]! + 1]!;
    }
    if (pair.polyserial) return this.ofSerial(pair, pair.polyserial, share);
    const [x, y] = [columns[pair.a] as NumericColumn, columns[pair.b] as NumericColumn];
    const meanWhere = (of: NumericColumn, other: NumericColumn): number => {
      let sum = 0;
      of.values.forEach((v, i) => {
        if (!Number.isNaN(v) && !Number.isNaN(other.values[i]!))
          sum += (weights ? weights[i]! : 1) * (v - of.mean);
      });
      return sum / pair.n;
    };
    const [byX, byY] = [meanWhere(y, x), meanWhere(x, y)];
    return (row) => {
      const [u, v] = [x.values[row]!, y.values[row]!];
      const both = !Number.isNaN(u) && !Number.isNaN(v);
      const own = both ? ((u - x.mean) * (v - y.mean) - pair.value) * share : 0;
      return own - byX * this.ofMean(pair.a, u) - byY * this.ofMean(pair.b, v);
    };
  }

  /** Of a polychoric correlation in each cell; the first row and column are of those missing. */
  ofCells(pair: Pair): Float64Array {
    const { columns, n } = this.staged;
    const { scores, information, withRows, withColumns } = pair.polychoric!;
    const rows = (columns[pair.a] as OrderedColumn).levels.length;
    const width = (columns[pair.b] as OrderedColumn).levels.length;
    const byRow = this.throughThresholds(pair.a, withRows);
    const byColumn = this.throughThresholds(pair.b, withColumns);
    const cells = new Float64Array((rows + 1) * (width + 1));
    for (let i = -1; i < rows; i++)
      for (let j = -1; j < width; j++) {
        const both = i >= 0 && j >= 0 ? (scores[i * width + j]! * n) / pair.n : 0;
        const through = (i < 0 ? 0 : byRow[i]!) + (j < 0 ? 0 : byColumn[j]!);
        cells[(i + 1) * (width + 1) + j + 1] = (both - through) / information;
      }
    return cells;
  }

  /** Of r times the SD of the number: by r and by the variance. */
  private ofSerial(pair: Pair, found: Polyserial, share: number): (row: number) => number {
    const { columns } = this.staged;
    const first = columns[pair.a]!.kind === "ordered";
    const [o, m] = first ? [pair.a, pair.b] : [pair.b, pair.a];
    const [ordered, numeric] = [columns[o] as OrderedColumn, columns[m] as NumericColumn];
    const byLevel = this.throughThresholds(o, found.withThresholds);
    const sd = Math.sqrt(numeric.variance);
    return (row) => {
      const code = ordered.codes[row]!;
      const value = numeric.values[row]!;
      const variance = this.ofVariance(m, value);
      const r =
        (found.scores[row]! * share -
          (code < 0 ? 0 : byLevel[code]!) -
          found.withMean * this.ofMean(m, value) -
          found.withVariance * variance) /
        found.information;
      return sd * r + (found.r / (2 * sd)) * variance;
    };
  }
}
