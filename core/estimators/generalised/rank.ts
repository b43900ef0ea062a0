/** The smallest share of a column that the others leave, below which it counts as none. */
const SINGULAR = 1e-9;

/** Do columns, scaled to length one, determine one another? */
export function dependentDesign(design: Float64Array, p: number): boolean {
  return smallestShare(design, p) < SINGULAR;
}

/**
 * The smallest length of a unit column once the columns before it are taken out (modified
 * Gram-Schmidt, twice).
 */
function smallestShare(design: Float64Array, p: number): number {
  const n = design.length / p;
  const done: Float64Array[] = [];
  let smallest = 1;
  for (let k = 0; k < p; k++) {
    const column = Float64Array.from({ length: n }, (_, i) => design[i * p + k]!);
    scale(column);
    for (let pass = 0; pass < 2; pass++)
      for (const other of done) {
        let dot = 0;
        for (let i = 0; i < n; i++) dot += column[i]! * other[i]!;
        for (let i = 0; i < n; i++) column[i] = column[i]! - dot * other[i]!;
      }
    smallest = Math.min(smallest, scale(column));
    done.push(column);
  }
  return smallest;
}

/** Scales a column to length one. @returns its length before */
function scale(column: Float64Array): number {
  let squares = 0;
  for (const v of column) squares += v * v;
  const length = Math.sqrt(squares);
  if (length > 0) for (let i = 0; i < column.length; i++) column[i] = column[i]! / length;
  return length;
}
