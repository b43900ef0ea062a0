/**
 * The reliability of a construct whose weights come by correlation, rho_A (Dijkstra & Henseler
 * 2015, MIS Quarterly 39): how much of the score is the common factor, if its items have one. With
 * w'Rw = 1 and ones on the diagonal of R it depends on the weights alone.
 * @param w weights; those of the block are from .. to - 1, two or more
 * @returns any number: nothing keeps it between zero and one
 */
export function rhoA(w: Float64Array, from: number, to: number): number {
  let squares = 0;
  let fourths = 0;
  for (let k = from; k < to; k++) {
    const square = w[k]! * w[k]!;
    squares += square;
    fourths += square * square;
  }
  return (squares * squares * (1 - squares)) / (squares * squares - fourths);
}

/** What weights become as loadings on the common factor: λ = w √ρ_A / w'w. */
export function factorLoadings(
  w: Float64Array,
  from: number,
  to: number,
  rho: number,
  out: Float64Array,
): void {
  let squares = 0;
  for (let k = from; k < to; k++) squares += w[k]! * w[k]!;
  const scale = Math.sqrt(rho) / squares;
  for (let k = from; k < to; k++) out[k] = w[k]! * scale;
}
