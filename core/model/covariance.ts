import { choleskyInPlace, choleskySolveInPlace } from "../numerics/cholesky";

/**
 * Symmetric covariance of the first `size` parameters, row-major size x size. NaN where a block has
 * none (a perfect fit, an error type that does not exist there).
 */
export interface Covariance {
  size: number;
  values: Float64Array;
}

/**
 * a' V b over the parameters that V covers; what longer gradients hold beyond them does not enter.
 */
export function bilinearForm(
  a: ArrayLike<number>,
  b: ArrayLike<number>,
  { size, values }: Covariance,
): number {
  let sum = 0;
  for (let i = 0; i < size; i++) {
    if (a[i] === 0) continue;
    // Skipping zeros also skips blocks of equations that have no covariance.
    for (let j = 0; j < size; j++) if (b[j] !== 0) sum += a[i]! * values[i * size + j]! * b[j]!;
  }
  return sum;
}

/** g' V g: the variance of a function with gradient g. */
export const quadraticForm = (g: ArrayLike<number>, v: Covariance): number => bilinearForm(g, g, v);

/**
 * The same covariance with nothing between parameters of different equations.
 * @param equationOf which equation each covered parameter belongs to
 */
export function withoutCrossBlocks(
  { size, values }: Covariance,
  equationOf: (at: number) => number,
): Covariance {
  const owner = Int32Array.from({ length: size }, (_, at) => equationOf(at));
  return {
    size,
    values: values.map((v, at) => (owner[Math.floor(at / size)] === owner[at % size] ? v : 0)),
  };
}

/** A pivot of the correlation matrix below this leaves no digits for a quadratic form. */
const SINGULAR = 1e-13;

/**
 * b' V^-1 b, the squared length of b in units of its covariance.
 * @param b q numbers; @param v their covariance, row-major q x q
 * @returns null where V is not available or singular to working precision
 */
export function squaredDistance(b: ArrayLike<number>, v: ArrayLike<number>): number | null {
  const q = b.length;
  if (q === 0 || !Array.from(v).every(Number.isFinite)) return null;
  // Scaling to unit diagonal keeps the solve well behaved when coefficients differ by orders of
  // magnitude.
  const scale = Array.from({ length: q }, (_, i) => Math.sqrt(v[i * q + i]!));
  if (!scale.every((s) => s > 0)) return null;
  const matrix = Float64Array.from(
    { length: q * q },
    (_, at) => v[at]! / (scale[Math.floor(at / q)]! * scale[at % q]!),
  );
  if (!(choleskyInPlace(matrix, q, q) > SINGULAR)) return null;
  const rhs = Float64Array.from(scale, (s, i) => b[i]! / s);
  const x = rhs.slice();
  choleskySolveInPlace(matrix, q, q, x);
  return rhs.reduce((sum, value, i) => sum + value * x[i]!, 0);
}
