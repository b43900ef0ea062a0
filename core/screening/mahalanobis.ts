import { chiSquaredP } from "../numerics/distributions";
import { blockFactor, completeBlock } from "./block";
import type { NumberColumn } from "../data";

const FLAG_P = 0.001;
const TOP = 5;

export interface DistantRow {
  /** 0-based position. */
  row: number;
  d2: number;
  p: number;
}

export interface MahalanobisResult {
  variables: string[];
  n: number;
  df: number;
  /** The five most distant rows, the farthest first. */
  top: DistantRow[];
  /** Rows with p < 0.001, ascending. */
  flagged: DistantRow[];
  /** (n - 1) p, up to rounding. */
  sum: number;
}

/**
 * Squared Mahalanobis distances of the rows complete on the variables, with p from chi-squared on p
 * degrees of freedom. From the orthogonal factor of the standardised columns: D2 = (n - 1) |q_i|2.
 * @throws StudyProblem `too_few_cases`, `constant_variable` or `collinear`
 */
export function mahalanobis(variables: NumberColumn[]): MahalanobisResult {
  const block = completeBlock(variables);
  const { q } = blockFactor(block, "The distance");
  const n = block.rows.length;
  const df = variables.length;
  const all = Array.from(block.rows, (row, i): DistantRow => {
    let squares = 0;
    for (const column of q) squares += column[i]! ** 2;
    const d2 = (n - 1) * squares;
    return { row, d2, p: chiSquaredP(d2, df) };
  });
  return {
    variables: block.names,
    n,
    df,
    top: [...all].sort((a, b) => b.d2 - a.d2).slice(0, TOP),
    flagged: all.filter((r) => r.p < FLAG_P),
    sum: all.reduce((total, r) => total + r.d2, 0),
  };
}
