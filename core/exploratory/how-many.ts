import { RandomStream } from "../numerics/random";
import { quantile6 } from "../numerics/quantile";
import { rootsOf } from "../measures";
import { codesOf, levelsOf, orderedColumn, polychoricMatrix } from "../ordered";

/** Roots of the sample beside those of data without any common factor. */
export interface ParallelAnalysis {
  eigenvalues: number[];
  /** 95th percentiles over the drawn data sets, root by root. */
  permuted: number[];
  normal: number[];
  /** Roots from the first on that lie above what permuted columns give. */
  factors: number;
  /** The same against normal data. */
  factorsNormal: number;
  draws: number;
}

const DRAWS = 100;
const PERCENTILE = 0.95;

/** How columns are correlated, and what data without common factors look like then. */
export interface Correlating {
  /** What is permuted: the columns, or what they are made into first. */
  prepare(columns: Float64Array[]): Float64Array[];
  /** Null where these columns have no correlations. */
  of(columns: Float64Array[]): number[][] | null;
  /** A normal column of the kind of this one. */
  normalLike(column: Float64Array, stream: RandomStream): Float64Array;
}

/** Answers as numbers: the usual correlations. */
export const AS_NUMBERS: Correlating = {
  prepare: (columns) => columns.map(standardised),
  of: (standard) => correlations(standard),
  normalLike: (column, stream) => standardised(column.map(() => stream.normal())),
};

/** Far more digits than a percentile of 100 draws has. */
const ROUGH = 1e-6;

/** Answers as ordered: polychoric correlations; normal columns are cut at the same shares. */
export const AS_ORDERED: Correlating = {
  prepare: (columns) => columns,
  of: (columns) => polychoricMatrix(columns, ROUGH).matrix,
  normalLike(column, stream) {
    const { thresholds } = orderedColumn(codesOf(column, levelsOf(column)), levelsOf(column));
    return column.map(() => {
      const y = stream.normal();
      let level = 0;
      for (const tau of thresholds) if (y > tau) level += 1;
      return level;
    });
  },
};

/**
 * Parallel analysis (Horn 1965) by the 95th percentile (Glorfeld 1995) of 100 data sets of the same
 * size whose columns are permuted, and of 100 with independent normal columns. Draw d depends on
 * (seed, d) alone.
 * @param columns complete rows; each varies
 * @param r their correlations, of the same kind
 */
export function parallelAnalysis(
  columns: Float64Array[],
  seed: number,
  by: Correlating = AS_NUMBERS,
  r: number[][] | null = null,
): ParallelAnalysis {
  const standard = by.prepare(columns);
  const eigenvalues = rootsOf(r ?? by.of(standard)!).values;
  let draws = DRAWS;
  const over = (draw: (stream: RandomStream) => Float64Array[], from: number): number[] => {
    const all = Array.from({ length: DRAWS }, (_, d) => {
      const drawn = by.of(draw(new RandomStream(seed, from + d)));
      return drawn ? [rootsOf(drawn).values] : [];
    }).flat();
    // Some drawn answers may keep to one order without exception, and have no correlations.
    draws = Math.min(draws, all.length);
    return eigenvalues.map((_, m) =>
      quantile6(
        all.map((values) => values[m]!).sort((a, b) => a - b),
        PERCENTILE,
      ),
    );
  };
  const permuted = over((stream) => standard.map((column) => shuffled(column, stream)), 0);
  const normal = over((stream) => standard.map((column) => by.normalLike(column, stream)), DRAWS);
  const above = (limits: number[]): number => {
    const first = eigenvalues.findIndex((value, m) => value <= limits[m]!);
    return first < 0 ? eigenvalues.length : first;
  };
  return {
    eigenvalues,
    permuted,
    normal,
    factors: above(permuted),
    factorsNormal: above(normal),
    draws,
  };
}

/** Of mean 0 and sum of squares 1, so that cross-products are correlations. */
function standardised(column: Float64Array): Float64Array {
  let mean = 0;
  for (const x of column) mean += x / column.length;
  let squares = 0;
  for (const x of column) squares += (x - mean) ** 2;
  const unit = 1 / Math.sqrt(squares);
  return column.map((x) => (x - mean) * unit);
}

function correlations(standard: Float64Array[]): number[][] {
  const k = standard.length;
  const r = standard.map(() => new Array<number>(k).fill(1));
  for (let i = 0; i < k; i++)
    for (let j = 0; j < i; j++) {
      const [a, b] = [standard[i]!, standard[j]!];
      let sum = 0;
      for (let row = 0; row < a.length; row++) sum += a[row]! * b[row]!;
      r[i]![j] = r[j]![i] = sum;
    }
  return r;
}

/** Fisher and Yates. */
function shuffled(column: Float64Array, stream: RandomStream): Float64Array {
  const mixed = column.slice();
  for (let i = mixed.length - 1; i > 0; i--) {
    const j = stream.below(i + 1);
    [mixed[i], mixed[j]] = [mixed[j]!, mixed[i]!];
  }
  return mixed;
}

/**
 * Minimum average partial (Velicer 1976): principal components are taken out one by one; the
 * average squared partial correlation is smallest where what is left is no longer common.
 * @param r k x k correlations
 */
export function minimumAveragePartial(r: number[][]): { factors: number; averages: number[] } {
  const k = r.length;
  const { values, vectors } = rootsOf(r);
  const left = r.map((row) => [...row]);
  const averages: number[] = [];
  for (let m = 0; m < k - 1; m++) {
    if (m > 0)
      for (let i = 0; i < k; i++)
        for (let j = 0; j < k; j++)
          left[i]![j]! -= values[m - 1]! * vectors[i]![m - 1]! * vectors[j]![m - 1]!;
    // With (next to) nothing left of an item there are no partial correlations.
    if (left.some((row, i) => row[i]! < 1e-10)) break;
    let sum = 0;
    for (let i = 0; i < k; i++)
      for (let j = 0; j < k; j++)
        if (i !== j) sum += left[i]![j]! ** 2 / (left[i]![i]! * left[j]![j]!);
    averages.push(sum / (k * (k - 1)));
  }
  return { factors: averages.indexOf(Math.min(...averages)), averages };
}
