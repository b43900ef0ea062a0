import { inUnitOf, powerOf, timesPower } from "./unit";

/** Arithmetic mean, with one correction pass so that means of 1e6 with SD 1 keep their digits. */
export function mean(x: ArrayLike<number>): number {
  const n = x.length;
  let sum = 0;
  for (let i = 0; i < n; i++) sum += x[i]!;
  // Beyond the range of numbers the sum is, though the mean is not.
  if (Math.abs(sum) === Infinity && powerOf(x) !== 0) return scaledBack(x, mean);
  const first = sum / n;
  let rest = 0;
  for (let i = 0; i < n; i++) rest += x[i]! - first;
  return first + rest / n;
}

/** Sum of squared deviations from `centre`. */
export function sumOfSquares(x: ArrayLike<number>, centre: number): number {
  let sum = 0;
  for (let i = 0; i < x.length; i++) sum += (x[i]! - centre) ** 2;
  return sum;
}

/** Standard deviation, divisor n - 1; NaN for fewer than two values. */
export function standardDeviation(x: ArrayLike<number>): number {
  if (x.length < 2) return NaN;
  const variance = sumOfSquares(x, mean(x)) / (x.length - 1);
  const extreme = variance === Infinity || variance < SMALLEST;
  if (extreme && powerOf(x) !== 0) return scaledBack(x, standardDeviation);
  return Math.sqrt(variance);
}

/** Squares below this have lost digits. */
const SMALLEST = 1e-290;

/** A statistic in the unit of the values, taken where they can be squared. */
function scaledBack(x: ArrayLike<number>, statistic: (values: Float64Array) => number): number {
  const power = powerOf(x);
  return timesPower(statistic(inUnitOf(Float64Array.from(x), power)), power);
}

/** Pearson correlation of two columns of equal length; NaN when either is constant. */
export function correlation(x: ArrayLike<number>, y: ArrayLike<number>): number {
  const mx = mean(x);
  const my = mean(y);
  let sum = 0;
  for (let i = 0; i < x.length; i++) sum += (x[i]! - mx) * (y[i]! - my);
  return sum / Math.sqrt(sumOfSquares(x, mx) * sumOfSquares(y, my));
}

export function extent(x: ArrayLike<number>): [min: number, max: number] {
  let min = Infinity;
  let max = -Infinity;
  for (let i = 0; i < x.length; i++) {
    if (x[i]! < min) min = x[i]!;
    if (x[i]! > max) max = x[i]!;
  }
  return [min, max];
}

/** The two values of a column that has no more, in order. */
export function twoValues(values: ArrayLike<number>): [number, number] | null {
  const first = values[0]!;
  let other = NaN;
  for (let i = 1; i < values.length; i++) {
    const v = values[i]!;
    if (v === first || v === other) continue;
    if (!Number.isNaN(other)) return null;
    other = v;
  }
  if (Number.isNaN(other)) return null;
  return first < other ? [first, other] : [other, first];
}
