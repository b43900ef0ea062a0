/**
 * Cholesky factor of the leading n x n part of a symmetric matrix, in place (lower triangle), for
 * hot loops.
 * @returns the smallest pivot relative to its diagonal element: 1 - R2 of the worst column on the earlier ones;
 *   0 or less (or NaN) when the matrix is not positive definite, and then the factor is unusable
 */
export function choleskyInPlace(a: Float64Array, n: number, stride: number): number {
  let worst = 1;
  for (let j = 0; j < n; j++) {
    const diagonal = a[j * stride + j]!;
    let pivot = diagonal;
    for (let m = 0; m < j; m++) pivot -= a[j * stride + m]! * a[j * stride + m]!;
    const share = pivot / diagonal;
    if (!(share > 0)) return share;
    if (share < worst) worst = share;
    const root = Math.sqrt(pivot);
    a[j * stride + j] = root;
    for (let i = j + 1; i < n; i++) {
      let sum = a[i * stride + j]!;
      for (let m = 0; m < j; m++) sum -= a[i * stride + m]! * a[j * stride + m]!;
      a[i * stride + j] = sum / root;
    }
  }
  return worst;
}

/** Solves L L' x = rhs in place for a factor of `choleskyInPlace`. */
export function choleskySolveInPlace(
  l: Float64Array,
  n: number,
  stride: number,
  x: Float64Array,
): void {
  for (let i = 0; i < n; i++) {
    let sum = x[i]!;
    for (let m = 0; m < i; m++) sum -= l[i * stride + m]! * x[m]!;
    x[i] = sum / l[i * stride + i]!;
  }
  for (let i = n - 1; i >= 0; i--) {
    let sum = x[i]!;
    for (let m = i + 1; m < n; m++) sum -= l[m * stride + i]! * x[m]!;
    x[i] = sum / l[i * stride + i]!;
  }
}

/** L^-1 x in place, for a lower triangle L, k x k; x begins at `start`. */
export function solveLower(L: Float64Array, x: Float64Array, k: number, start = 0): void {
  for (let i = 0; i < k; i++) {
    let sum = x[start + i]!;
    for (let m = 0; m < i; m++) sum -= L[i * k + m]! * x[start + m]!;
    x[start + i] = sum / L[i * k + i]!;
  }
}
