import { Matrix, QrDecomposition } from "ml-matrix";

/** Gains below this share of the largest are rounding. */
const ROUNDING = 1e-11;

/**
 * Least squares with coefficients that are not negative (Lawson & Hanson 1974, chapter 23): the x
 * >= 0 that brings A x nearest to b.
 * @param columns of A; @param b of their length
 * @returns what is left, b - A x: it makes an obtuse angle or a right one with every column
 */
export function nonNegativeResidual(
  columns: readonly Float64Array[],
  b: Float64Array,
): Float64Array {
  const rows = b.length;
  const x = new Float64Array(columns.length);
  const passive: number[] = [];
  const size = columns.map((c) => Math.sqrt(dot(c, c)) || 1);
  let residual = b.slice();
  const limit = ROUNDING * (Math.sqrt(dot(b, b)) || 1);
  for (let round = 0; round < 3 * columns.length + 3 * rows; round++) {
    const next = steepest(columns, size, residual, passive, limit);
    if (next < 0) break;
    passive.push(next);
    for (let inner = 0; inner <= columns.length; inner++) {
      const s = solved(columns, passive, b);
      if (s.every((v) => v > 0)) {
        x.fill(0);
        passive.forEach((at, i) => (x[at] = s[i]!));
        break;
      }
      let step = 1;
      passive.forEach((at, i) => {
        if (s[i]! <= 0) step = Math.min(step, x[at]! / (x[at]! - s[i]!));
      });
      passive.forEach((at, i) => (x[at] = x[at]! + step * (s[i]! - x[at]!)));
      for (let i = passive.length - 1; i >= 0; i--)
        if (x[passive[i]!]! <= 1e-14) {
          x[passive[i]!] = 0;
          passive.splice(i, 1);
        }
      if (passive.length === 0) break;
    }
    residual = b.slice();
    for (const at of passive)
      for (let k = 0; k < rows; k++) residual[k] = residual[k]! - columns[at]![k]! * x[at]!;
  }
  return residual;
}

function steepest(
  columns: readonly Float64Array[],
  size: readonly number[],
  residual: Float64Array,
  passive: readonly number[],
  limit: number,
): number {
  let best = -1;
  let gain = limit;
  columns.forEach((column, at) => {
    const own = dot(column, residual) / size[at]!;
    if (own > gain && !passive.includes(at)) {
      best = at;
      gain = own;
    }
  });
  return best;
}

function solved(
  columns: readonly Float64Array[],
  passive: readonly number[],
  b: Float64Array,
): number[] {
  const a = new Matrix(Array.from(b, (_, k) => passive.map((at) => columns[at]![k]!)));
  const qr = new QrDecomposition(a);
  // A column that adds nothing to the others cannot stay.
  if (a.rows < a.columns || !qr.isFullRank())
    return passive.map((_, i) => (i < passive.length - 1 ? 1 : -1));
  return qr.solve(Matrix.columnVector(Array.from(b))).to1DArray();
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let k = 0; k < a.length; k++) sum += a[k]! * b[k]!;
  return sum;
}
