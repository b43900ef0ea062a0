import { listwise, pick } from "../../data";
import type { Dataset } from "../../dataset";
import {
  AS_ORDERED,
  halfOf,
  minimumAveragePartial,
  parallelAnalysis,
  rotate,
  solutionOf,
  type FactorSolution,
  type ParallelAnalysis,
  type Rotation,
} from "../../exploratory";
import {
  correlationMatrix,
  extractFactors,
  invert,
  mostFactors,
  type Extraction,
  type FactorFit,
} from "../../measures";
import { MOST_LEVELS, polychoricMatrix } from "../../ordered";
import { StudyProblem } from "../../problems";
import { NumberReader } from "./columns";

/** What somebody asks of items that may belong together. */
export interface ExploreQuestion {
  items: string[];
  /** As many as parallel analysis counts where null. */
  factors: number | null;
  extraction: Extraction;
  rotation: Rotation;
  /** Answers as numbers, or as ordered (polychoric correlations). */
  answers: "numbers" | "ordered";
  /** A random half of the people, so that the other one can confirm; everybody where null. */
  half: 1 | 2 | null;
  seed: number;
}

export interface Exploration {
  items: string[];
  /** Complete rows that were explored, out of so many. */
  n: number;
  of: number;
  /** Their rows of the file, from 1, where it is a half; empty otherwise. */
  explored: number[];
  parallel: ParallelAnalysis;
  /** By minimum average partial. */
  partial: number;
  factors: number;
  /** The most that these items can tell apart. */
  most: number;
  /** Fit of one factor, two and so on up to one more than are shown. */
  fits: FactorFit[];
  solution: FactorSolution;
}

/**
 * Exploratory factor analysis of items on their complete rows.
 * @throws StudyProblem for fewer than three items, too few rows, items that never vary or repeat
 *   one another, more factors than can be told apart
 */
export function explore(dataset: Dataset, question: ExploreQuestion): Exploration {
  const { items, extraction, rotation, seed, half } = question;
  if (items.length < 3) throw new StudyProblem("few_items_to_explore", { n: items.length });
  const reader = new NumberReader(dataset);
  const every = items.map((item) => reader.comparable(item).values);
  const { included } = dataset;
  const part = half === null ? null : halfOf(included.length, half, seed);
  const taken = part ? every.map((values) => pick(values, part)) : every;
  const rows = listwise(taken);
  const columns = taken.map((values) => pick(values, rows));
  const n = rows.length;
  const least = items.length + 2;
  if (n < least)
    throw new StudyProblem("few_rows_to_explore", { n, least, items: items.length, half });
  const still = items.filter((_, i) => columns[i]!.every((x) => x === columns[i]![0]));
  if (still.length > 0) throw new StudyProblem("still_items", { names: still });
  const ordered = question.answers === "ordered";
  const r = ordered ? orderedCorrelations(items, columns) : correlationMatrix(columns);
  if (ordered && !invert(r))
    throw new StudyProblem("items_hardly_differ", { names: repeated(items, r) });
  if (!invert(r)) throw new StudyProblem("items_repeat_one_another", { names: repeated(items, r) });
  const most = Math.max(1, mostFactors(items.length));
  const parallel = ordered
    ? parallelAnalysis(columns, seed, AS_ORDERED, r)
    : parallelAnalysis(columns, seed);
  const factors = Math.min(most, question.factors ?? Math.max(1, parallel.factors));
  const extracted = Array.from({ length: Math.min(most, factors + 1) }, (_, m) =>
    extractFactors(r, m + 1, n, extraction)!,
  );
  const chosen = extracted[factors - 1]!;
  return {
    items,
    n,
    of: part?.length ?? included.length,
    explored: part ? Array.from(part, (i) => included[i]! + 1) : [],
    parallel,
    partial: minimumAveragePartial(r).factors,
    factors,
    most,
    // The tests take correlations for those of normal numbers.
    fits: extracted.map(({ fit }) =>
      ordered ? { ...fit, test: null, rmsea: null, bic: null } : fit,
    ),
    solution: solutionOf(items, chosen, rotate(chosen.loadings, rotation, seed)),
  };
}

/** @throws StudyProblem for too many levels, and for items that keep to one order */
function orderedCorrelations(items: readonly string[], columns: Float64Array[]): number[][] {
  const many = items.filter((_, i) => new Set(columns[i]).size > MOST_LEVELS);
  if (many.length > 0)
    throw new StudyProblem("too_many_levels_to_explore", { names: many, most: MOST_LEVELS });
  const { matrix, perfect } = polychoricMatrix(columns);
  if (perfect)
    throw new StudyProblem("perfect_association", { names: perfect.map((i) => items[i]!) });
  return matrix;
}

/** The two items that correlate most: those somebody looks at first. */
function repeated(items: readonly string[], r: number[][]): string[] {
  let [a, b, most] = [0, 1, -1];
  r.forEach((row, i) =>
    row.forEach((value, j) => {
      if (j < i && Math.abs(value) > most) [a, b, most] = [j, i, Math.abs(value)];
    }),
  );
  return [items[a]!, items[b]!];
}
