import { solveLower } from "../../numerics/cholesky";
import type { NormalLikelihood } from "./normal-likelihood";
import type { CasePattern } from "./sample-moments";

/**
 * The cases of one group: columns with NaN where missing, and their patterns in the order of the
 * likelihood's.
 */
export interface GroupCases {
  columns: readonly Float64Array[];
  patterns: readonly CasePattern[];
}

/**
 * Sum over cases of the cross-products of their scores, not centred (Huber 1967; White 1982), at
 * the likelihood's last point.
 * @returns q x q
 */
export function scoreProducts(
  likelihood: NormalLikelihood,
  groups: readonly GroupCases[],
): Float64Array {
  const { q } = likelihood;
  const meat = new Float64Array(q * q);
  const score = new Float64Array(q);
  groups.forEach(({ columns, patterns }, g) => {
    patterns.forEach(({ indices, rows }, at) => {
      const part = likelihood.parts[g]![at]!;
      const along = new Float64Array(part.c);
      const y = new Float64Array(indices.length);
      for (const row of rows) {
        for (let i = 0; i < y.length; i++) y[i] = columns[indices[i]!]![row]!;
        score.fill(0);
        part.caseScore(y, along, score);
        addProducts(meat, score, q);
      }
    });
  });
  return mirrored(meat, q);
}

/**
 * What the normal-theory weight at the implied moments makes of the fourth moments of complete
 * cases.
 */
export interface WeightedFourthMoments {
  /**
   * Sum over cases of Delta'V z z' V Delta, with z a case's deviations from the sample's moments; q
   * x q.
   */
  meat: Float64Array;
  /** Sum over groups of tr(V Gamma): of the covariances alone, and what the means add. */
  trace: number;
  meansTrace: number;
}

/**
 * The two pieces of Satorra and Bentler's correction (1994), case by case, so that no matrix of
 * fourth moments is needed. With V = NT(Sigma), d = y - ybar and W = Sigma^-1, z'Vz = d'Wd + 1/2
 * [(d'Wd)^2 - 2 d'WSWd + tr(WSWS)].
 * @param likelihood at its last point, complete data
 */
export function weightedFourthMoments(
  likelihood: NormalLikelihood,
  groups: readonly GroupCases[],
): WeightedFourthMoments {
  const { q } = likelihood;
  const meat = new Float64Array(q * q);
  const score = new Float64Array(q);
  let trace = 0;
  let meansTrace = 0;
  groups.forEach(({ columns, patterns }, g) => {
    const part = likelihood.parts[g]![0]!;
    const { moments, directions, L, white, c } = part;
    const k = moments.means.length;
    const { rows } = patterns[0]!;
    const spread = whitened(moments.covariance, L, k);
    const squares = spread.reduce((sum, x) => sum + x * x, 0);
    const through = new Float64Array(c * c);
    for (let x = 0; x < c; x++)
      for (let y = 0; y < c; y++) {
        let sum = 0;
        for (let i = 0; i < k; i++)
          for (let j = 0; j < k; j++)
            sum += white[x * k + i]! * spread[i * k + j]! * white[y * k + j]!;
        through[x * c + y] = sum;
      }
    const u = new Float64Array(k);
    const along = new Float64Array(c);
    let total = 0;
    let lengths = 0;
    for (const row of rows) {
      for (let i = 0; i < k; i++) u[i] = columns[i]![row]! - moments.means[i]!;
      solveLower(L, u, k);
      let length = 0;
      let bent = 0;
      for (let i = 0; i < k; i++) {
        length += u[i]! * u[i]!;
        for (let j = 0; j < k; j++) bent += u[i]! * spread[i * k + j]! * u[j]!;
      }
      lengths += length;
      total += 0.5 * (length * length - 2 * bent + squares);
      part.alongColumns(u, along);
      score.fill(0);
      const { count, parameter, b, o, half } = directions;
      for (let d = 0; d < count; d++) {
        const [left, right] = [along[b[d]!]!, along[o[d]!]!];
        const value =
          part.meanShifts[d]! * left + half[d]! * (left * right - through[b[d]! * c + o[d]!]!);
        score[parameter[d]!] = score[parameter[d]!]! + value;
      }
      addProducts(meat, score, q);
    }
    trace += total / rows.length;
    meansTrace += lengths / rows.length;
  });
  return { meat: mirrored(meat, q), trace, meansTrace };
}

function whitened(covariance: Float64Array, L: Float64Array, k: number): Float64Array {
  const half = new Float64Array(k * k);
  const column = new Float64Array(k);
  for (let j = 0; j < k; j++) {
    for (let i = 0; i < k; i++) column[i] = covariance[i * k + j]!;
    solveLower(L, column, k);
    for (let i = 0; i < k; i++) half[j * k + i] = column[i]!;
  }
  // Rows of `half` are columns of L^-1 S; the other side follows.
  const out = new Float64Array(k * k);
  for (let i = 0; i < k; i++) {
    for (let j = 0; j < k; j++) column[j] = half[j * k + i]!;
    solveLower(L, column, k);
    for (let j = 0; j < k; j++) out[i * k + j] = column[j]!;
  }
  return out;
}

function addProducts(meat: Float64Array, score: Float64Array, q: number): void {
  for (let a = 0; a < q; a++) {
    const value = score[a]!;
    if (value === 0) continue;
    for (let b = 0; b <= a; b++) meat[a * q + b] = meat[a * q + b]! + value * score[b]!;
  }
}

function mirrored(matrix: Float64Array, q: number): Float64Array {
  for (let a = 0; a < q; a++) for (let b = 0; b < a; b++) matrix[b * q + a] = matrix[a * q + b]!;
  return matrix;
}

/** A^-1 M A^-1. */
export function sandwich(inverse: Float64Array, meat: Float64Array, q: number): Float64Array {
  return product(product(inverse, meat, q), inverse, q);
}

/** tr(A B) of symmetric matrices. */
export const traceOfProduct = (a: Float64Array, b: Float64Array): number =>
  a.reduce((sum, value, at) => sum + value * b[at]!, 0);

/** A B, q x q. */
export function product(a: Float64Array, b: Float64Array, q: number): Float64Array {
  const out = new Float64Array(q * q);
  for (let i = 0; i < q; i++)
    for (let k = 0; k < q; k++) {
      const value = a[i * q + k]!;
      if (value === 0) continue;
      for (let j = 0; j < q; j++) out[i * q + j] = out[i * q + j]! + value * b[k * q + j]!;
    }
  return out;
}
