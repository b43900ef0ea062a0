import { exp, ln } from "./elementary";
import { Phi, zQuantile } from "./distributions";

/** Coefficients of polynomials, constant first, from Royston 1995. */
const LARGEST = [0, 0.221157, -0.147981, -2.07119, 4.434685, -2.706056];
const SECOND = [0, 0.042981, -0.293762, -1.752461, 5.682633, -3.582633];
const SMALL_MEAN = [0.544, -0.39978, 0.025054, -6.714e-4];
const SMALL_SD = [1.3822, -0.77857, 0.062767, -0.0020322];
const LARGE_MEAN = [-1.5861, -0.31082, -0.083751, 0.0038915];
const LARGE_SD = [-0.4803, -0.082676, 0.0030302];
const BOUND = [-2.273, 0.459];

/** The approximation was fitted up to this many values. */
export const SHAPIRO_WILK_MOST = 5000;

const polynomial = (coefficients: number[], x: number): number =>
  coefficients.reduceRight((sum, c) => sum * x + c, 0);

/** Weights of the order statistics: antisymmetric, with squares that sum to one. */
function weights(n: number): Float64Array {
  const scores = Float64Array.from({ length: n }, (_, i) =>
    zQuantile((i + 1 - 0.375) / (n + 0.25)),
  );
  const squares = scores.reduce((sum, m) => sum + m * m, 0);
  const a = new Float64Array(n);
  if (n === 3) return Float64Array.from([-Math.SQRT1_2, 0, Math.SQRT1_2]);
  const u = 1 / Math.sqrt(n);
  const [m1, m2] = [scores[n - 1]!, scores[n - 2]!];
  const first = polynomial(LARGEST, u) + m1 / Math.sqrt(squares);
  const second = polynomial(SECOND, u) + m2 / Math.sqrt(squares);
  const rest =
    n > 5
      ? (squares - 2 * m1 ** 2 - 2 * m2 ** 2) / (1 - 2 * first ** 2 - 2 * second ** 2)
      : (squares - 2 * m1 ** 2) / (1 - 2 * first ** 2);
  for (let i = 0; i < n; i++) a[i] = scores[i]! / Math.sqrt(rest);
  a[n - 1] = first;
  a[0] = -first;
  if (n > 5) {
    a[n - 2] = second;
    a[1] = -second;
  }
  return a;
}

function upperTail(W: number, n: number): number {
  if (n === 3)
    return Math.max(0, (6 / Math.PI) * (Math.asin(Math.sqrt(W)) - Math.asin(Math.sqrt(0.75))));
  const left = ln(1 - W);
  if (n > 11)
    return Phi(-(left - polynomial(LARGE_MEAN, ln(n))) / exp(polynomial(LARGE_SD, ln(n))));
  const bound = polynomial(BOUND, n);
  if (left >= bound) return 1e-99;
  return Phi(-(-ln(bound - left) - polynomial(SMALL_MEAN, n)) / exp(polynomial(SMALL_SD, n)));
}

/**
 * Shapiro & Wilk's test of normality by Royston's approximation (1995, Applied Statistics 44).
 * @returns W between 0 and 1 and the upper-tail p; null with fewer than 3 or more than 5,000
 *   values, or without spread
 */
export function shapiroWilk(values: ArrayLike<number>): { W: number; p: number } | null {
  const n = values.length;
  if (n < 3 || n > SHAPIRO_WILK_MOST) return null;
  const sorted = Float64Array.from(values).sort();
  const centre = sorted.reduce((sum, v) => sum + v, 0) / n;
  let spread = 0;
  let weighted = 0;
  const a = weights(n);
  for (let i = 0; i < n; i++) {
    const v = sorted[i]! - centre;
    spread += v * v;
    weighted += a[i]! * v;
  }
  if (!(spread > 0) || sorted[0] === sorted[n - 1]) return null;
  const W = Math.min(1, weighted ** 2 / spread);
  return { W, p: upperTail(W, n) };
}
