import { log2 } from "./elementary";

/**
 * Powers of two between which numbers may lie: products of three columns, squared, stay within
 * double precision (2^600), and so do fourth powers.
 */
const ORDINARY = 100;

/**
 * The power of two that brings the largest value near 1; 0 in the ordinary range of units, where
 * nothing is to be done. Multiplying by a power of two changes no digit, so results in the other
 * unit are the same to the last bit.
 * @param values NaN where missing
 */
export function powerOf(values: ArrayLike<number>): number {
  let most = 0;
  for (let i = 0; i < values.length; i++) {
    const size = Math.abs(values[i]!);
    if (size > most && size < Infinity) most = size;
  }
  if (most === 0) return 0;
  const power = Math.round(log2(most));
  return Math.abs(power) > ORDINARY ? power : 0;
}

/** value times 2^power, in two steps, since 2^power alone may not be representable. */
export function timesPower(value: number, power: number): number {
  const half = Math.trunc(power / 2);
  return value * twoTo(half) * twoTo(power - half);
}

function twoTo(power: number): number {
  let result = 1;
  const factor = power < 0 ? 0.5 : 2;
  for (let i = 0; i < Math.abs(power); i++) result *= factor;
  return result;
}

/** A column in units of 2^power; the column itself where the power is 0. */
export function inUnitOf(values: Float64Array, power: number): Float64Array {
  if (power === 0) return values;
  const half = Math.trunc(-power / 2);
  const [a, b] = [twoTo(half), twoTo(-power - half)];
  return values.map((v) => v * a * b);
}
