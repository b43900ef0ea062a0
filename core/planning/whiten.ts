import { choleskyInPlace } from "../numerics/cholesky";
import { dot } from "../numerics/orthogonal";

/**
 * Columns turned in place so that their means are 0, their variances 1 and their correlations 0
 * exactly (divisor: rows). Moments of second order of everything that is linear in them are then
 * those of the population, to rounding.
 */
export function whiten(columns: readonly Float64Array[]): void {
  const p = columns.length;
  const rows = columns[0]?.length ?? 0;
  for (const column of columns) {
    const mean = column.reduce((sum, v) => sum + v, 0) / rows;
    for (let i = 0; i < rows; i++) column[i] = column[i]! - mean;
  }
  const gram = new Float64Array(p * p);
  for (let a = 0; a < p; a++)
    for (let b = 0; b <= a; b++) {
      const value = dot(columns[a]!, columns[b]!) / rows;
      gram[a * p + b] = value;
      gram[b * p + a] = value;
    }
  choleskyInPlace(gram, p, p);
  // Forward substitution, a row of the factor at a time.
  for (let a = 0; a < p; a++) {
    const column = columns[a]!;
    for (let b = 0; b < a; b++) {
      const weight = gram[a * p + b]!;
      const earlier = columns[b]!;
      for (let i = 0; i < rows; i++) column[i] = column[i]! - weight * earlier[i]!;
    }
    const root = gram[a * p + a]!;
    for (let i = 0; i < rows; i++) column[i] = column[i]! / root;
  }
}
