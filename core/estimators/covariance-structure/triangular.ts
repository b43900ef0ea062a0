// Small dense matrices in flat arrays, as the likelihood needs them: nothing here allocates.

/**
 * Inner products of the rows of two k x k matrices, out_ij = a_i b_j, four at a time: single sums
 * would wait for one another.
 * @param mirrored the result is symmetric, and only its lower triangle has to be found
 */
export function rowProducts(
  a: Float64Array,
  b: Float64Array,
  out: Float64Array,
  k: number,
  mirrored: boolean,
): void {
  for (let i = 0; i < k; i += 2) {
    const i0 = i * k;
    const two = i + 1 < k;
    const i1 = two ? i0 + k : i0;
    const until = mirrored ? Math.min(k, i + 2) : k;
    for (let j = 0; j < until; j += 2) {
      const j0 = j * k;
      const other = j + 1 < k;
      const j1 = other ? j0 + k : j0;
      let s00 = 0;
      let s01 = 0;
      let s10 = 0;
      let s11 = 0;
      for (let m = 0; m < k; m++) {
        const x = a[i0 + m]!;
        const y = a[i1 + m]!;
        const z = b[j0 + m]!;
        const w = b[j1 + m]!;
        s00 += x * z;
        s01 += x * w;
        s10 += y * z;
        s11 += y * w;
      }
      out[i0 + j] = s00;
      if (other) out[i0 + j + 1] = s01;
      if (two) out[i1 + j] = s10;
      if (two && other) out[i1 + j + 1] = s11;
    }
  }
  if (mirrored)
    for (let i = 0; i < k; i++) for (let j = 0; j < i; j++) out[j * k + i] = out[i * k + j]!;
}

/** The inverse of a lower triangle, into `out`, whose upper triangle stays zero. */
export function invertLower(L: Float64Array, out: Float64Array, k: number): void {
  for (let j = 0; j < k; j++)
    for (let i = j; i < k; i++) {
      let sum = i === j ? 1 : 0;
      for (let m = j; m < i; m++) sum -= L[i * k + m]! * out[m * k + j]!;
      out[i * k + j] = sum / L[i * k + i]!;
    }
}

/** L^-1 M L^-T of a symmetric matrix, in place. */
export function whiten(M: Float64Array, L: Float64Array, k: number): void {
  // Columns first, then rows.
  for (let j = 0; j < k; j++)
    for (let i = 0; i < k; i++) {
      let sum = M[i * k + j]!;
      for (let m = 0; m < i; m++) sum -= L[i * k + m]! * M[m * k + j]!;
      M[i * k + j] = sum / L[i * k + i]!;
    }
  for (let i = 0; i < k; i++)
    for (let j = 0; j < k; j++) {
      let sum = M[i * k + j]!;
      for (let m = 0; m < j; m++) sum -= M[i * k + m]! * L[j * k + m]!;
      M[i * k + j] = sum / L[j * k + j]!;
    }
}
