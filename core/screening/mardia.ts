import { chiSquaredP, normalP } from "../numerics/distributions";
import { blockFactor, completeBlock } from "./block";
import type { NumberColumn } from "../data";

export interface MardiaResult {
  variables: string[];
  n: number;
  skewness: number;
  skewnessChiSquare: number;
  skewnessDf: number;
  skewnessP: number;
  /** Corrected for small samples (Mardia 1974). */
  skewnessChiSquareSmallSample: number;
  skewnessPSmallSample: number;
  kurtosis: number;
  kurtosisZ: number;
  kurtosisP: number;
}

/**
 * Mardia's multivariate skewness and kurtosis (1970, Biometrika 57). The double sum of m_ij cubed
 * is taken as the sum of squared third moments of the orthonormal columns, which needs n p3 steps
 * instead of n2 p.
 * @throws StudyProblem `too_few_cases`, `constant_variable` or `collinear`
 */
export function mardia(variables: NumberColumn[]): MardiaResult {
  const block = completeBlock(variables);
  const { q } = blockFactor(block, "Multivariate normality");
  const n = block.rows.length;
  const p = variables.length;
  let third = 0;
  for (let a = 0; a < p; a++) {
    for (let b = a; b < p; b++) {
      for (let c = b; c < p; c++) {
        let sum = 0;
        for (let i = 0; i < n; i++) sum += q[a]![i]! * q[b]![i]! * q[c]![i]!;
        third += orderings(a, b, c) * sum * sum;
      }
    }
  }
  let fourth = 0;
  for (let i = 0; i < n; i++) {
    let squares = 0;
    for (const column of q) squares += column[i]! ** 2;
    fourth += squares * squares;
  }
  // m_ij = n q_i q_j
  const skewness = n * third;
  const kurtosis = n * fourth;
  const chi = (n * skewness) / 6;
  const df = (p * (p + 1) * (p + 2)) / 6;
  const chiSmall = (chi * ((p + 1) * (n + 1) * (n + 3))) / (n * ((n + 1) * (p + 1) - 6));
  const z = (kurtosis - p * (p + 2)) / Math.sqrt((8 * p * (p + 2)) / n);
  return {
    variables: block.names,
    n,
    skewness,
    skewnessChiSquare: chi,
    skewnessDf: df,
    skewnessP: chiSquaredP(chi, df),
    skewnessChiSquareSmallSample: chiSmall,
    skewnessPSmallSample: chiSquaredP(chiSmall, df),
    kurtosis,
    kurtosisZ: z,
    kurtosisP: normalP(z),
  };
}

/** How many ordered triples share these three indices. */
function orderings(a: number, b: number, c: number): number {
  if (a === b && b === c) return 1;
  return a === b || b === c ? 3 : 6;
}
