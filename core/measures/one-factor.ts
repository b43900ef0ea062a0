import { extractFactors } from "./common-factors";

/** A common factor of k standardised items by maximum likelihood. */
export interface OneFactor {
  /** Standardised, oriented so that their sum is positive. */
  loadings: number[];
  uniquenesses: number[];
  /** Minimum of the discrepancy function. */
  discrepancy: number;
  /** A uniqueness stands at its bound. */
  heywood: boolean;
  atBound: boolean[];
  /** Test of one factor with Bartlett's correction; null for three items. */
  test: { chiSquare: number; df: number; p: number } | null;
  converged: boolean;
}

/**
 * One-factor maximum likelihood (Lawley & Maxwell 1971, ch. 4).
 * @param r k x k correlation matrix, k >= 3
 * @param n rows, for the test
 * @returns null when the correlations have no inverse
 */
export function oneFactor(r: number[][], n: number): OneFactor | null {
  const found = extractFactors(r, 1, n, "maximum_likelihood");
  if (!found) return null;
  const { uniquenesses, atBound, converged, value, fit } = found;
  const column = found.loadings.map((row) => row[0]!);
  const turned = column.reduce((a, b) => a + b, 0) < 0;
  return {
    loadings: turned ? column.map((l) => -l) : column,
    uniquenesses,
    discrepancy: Math.max(0, value),
    heywood: atBound.some(Boolean),
    atBound,
    test: fit.test,
    converged,
  };
}
