import { chiSquaredP } from "../../numerics/distributions";
import { exp, ln } from "../../numerics/elementary";

/** Terms smaller than this add nothing. */
const NEGLIGIBLE = 1e-17;

/**
 * P(X <= x) for a non-central chi-squared variable: a Poisson mixture of central ones, summed
 * outwards from its largest weight (Johnson, Kotz & Balakrishnan 1995, Continuous univariate
 * distributions 2, ch. 29).
 * @param lambda non-centrality, 0 or more
 */
export function noncentralChiSquaredCdf(x: number, df: number, lambda: number): number {
  if (x <= 0) return 0;
  const central = (k: number): number => 1 - chiSquaredP(x, df + 2 * k);
  if (lambda === 0) return central(0);
  const half = lambda / 2;
  const middle = Math.floor(half);
  const largest = exp(-half + middle * ln(half) - logFactorial(middle));
  let sum = largest * central(middle);
  let weight = largest;
  for (let k = middle + 1; weight > NEGLIGIBLE; k++) {
    weight *= half / k;
    sum += weight * central(k);
  }
  weight = largest;
  for (let k = middle; k > 0 && weight > NEGLIGIBLE; k--) {
    weight *= k / half;
    sum += weight * central(k - 1);
  }
  return Math.min(1, sum);
}

/** ln k!, exact sums for small k, Stirling's series beyond. */
function logFactorial(k: number): number {
  if (k < 20) {
    let product = 1;
    for (let i = 2; i <= k; i++) product *= i;
    return ln(product);
  }
  const x = k + 1;
  return (
    (x - 0.5) * ln(x) -
    x +
    0.5 * ln(2 * Math.PI) +
    1 / (12 * x) -
    1 / (360 * x * x * x) +
    1 / (1260 * x * x * x * x * x)
  );
}

/** The non-centrality at which P(X <= x) equals `share`; 0 where it is smaller at 0 already. */
export function noncentralityAt(x: number, df: number, share: number): number {
  if (noncentralChiSquaredCdf(x, df, 0) < share) return 0;
  let low = 0;
  let high = Math.max(1, x);
  while (noncentralChiSquaredCdf(x, df, high) > share) high *= 2;
  for (let i = 0; i < 200 && high - low > 1e-13 * high; i++) {
    const middle = (low + high) / 2;
    if (noncentralChiSquaredCdf(x, df, middle) > share) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
