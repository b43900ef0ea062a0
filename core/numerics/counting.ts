import gammaln from "@stdlib/math-base-special-gammaln";
import { ln } from "./elementary";

/** Up to here sums are made term by term; above, their logarithms and series cost the same for any count. */
const TERM_BY_TERM = 1000;
/** From here on the series below are exact to the last digit. */
const FAR = 30;

/** ln(count!). */
export function logFactorial(count: number): number {
  if (count > TERM_BY_TERM) return gammaln(count + 1);
  let sum = 0;
  for (let k = 2; k <= count; k++) sum += ln(k);
  return sum;
}

/** ln of Γ(x + count) / (Γ(x) count!), the number of ways in a negative binomial distribution. */
export function logRising(x: number, count: number): number {
  if (count > TERM_BY_TERM) return gammaln(x + count) - gammaln(x) - gammaln(count + 1);
  let sum = 0;
  for (let k = 0; k < count; k++) sum += ln((x + k) / (k + 1));
  return sum;
}

/**
 * Sums of 1/(x + k) and of 1/(x + k)² over k from 0 to count - 1: differences of digamma and
 * trigamma functions (Abramowitz & Stegun 1964, 6.3.18 and 6.4.12).
 */
export function reciprocalSums(x: number, count: number): { first: number; second: number } {
  let [first, second] = [0, 0];
  const near = count > TERM_BY_TERM ? Math.max(0, Math.ceil(FAR - x)) : count;
  for (let k = 0; k < near; k++) {
    const part = 1 / (x + k);
    first += part;
    second += part * part;
  }
  if (near === count) return { first, second };
  const [from, to] = [x + near, x + count];
  return {
    first: first + ln(to / from) + digammaRest(to) - digammaRest(from),
    second: second + trigamma(from) - trigamma(to),
  };
}

/** ψ(x) - ln x for large x. */
function digammaRest(x: number): number {
  const r = 1 / (x * x);
  return -1 / (2 * x) - r * (1 / 12 - r * (1 / 120 - r * (1 / 252 - r / 240)));
}

/** ψ'(x) for large x. */
function trigamma(x: number): number {
  const r = 1 / (x * x);
  return 1 / x + r / 2 + (r / x) * (1 / 6 - r * (1 / 30 - r * (1 / 42 - r / 30)));
}
