/** Nodes and weights on [-1, 1]. */
export interface Quadrature {
  nodes: Float64Array;
  weights: Float64Array;
}

const known = new Map<number, Quadrature>();

/**
 * The Gauss-Legendre rule of n nodes on [-1, 1], exact for polynomials up to degree 2 n - 1. Nodes
 * by Newton's method from evenly spread starts by bisection of the recurrence (Press et al. 2007,
 * section 4.6), without a cosine, which engines round differently.
 */
export function gaussLegendre(n: number): Quadrature {
  const made = known.get(n);
  if (made) return made;
  const nodes = new Float64Array(n);
  const weights = new Float64Array(n);
  const half = Math.floor(n / 2);
  const steps = 40 * n;
  let found = 0;
  // Positive roots from the outside in: every change of sign on a fine grid of sqrt(1 - x), where
  // roots lie evenly.
  let before = legendre(n, 1).value;
  for (let i = 1; i <= steps && found < half; i++) {
    const share = i / steps;
    const x = 1 - share * share;
    const { value } = legendre(n, x);
    if (value * before < 0) {
      const root = polished(n, x, 1 - ((i - 1) / steps) ** 2);
      const { slope } = legendre(n, root);
      const weight = 2 / ((1 - root * root) * slope * slope);
      nodes[n - 1 - found] = root;
      nodes[found] = -root;
      weights[n - 1 - found] = weight;
      weights[found] = weight;
      found += 1;
    }
    before = value;
  }
  if (n % 2 === 1) {
    const { slope } = legendre(n, 0);
    weights[half] = 2 / (slope * slope);
  }
  const rule = { nodes, weights };
  known.set(n, rule);
  return rule;
}

/** The Legendre polynomial of degree n and its derivative. */
function legendre(n: number, x: number): { value: number; slope: number } {
  let before = 0;
  let value = 1;
  for (let k = 1; k <= n; k++) {
    const next = ((2 * k - 1) * x * value - (k - 1) * before) / k;
    before = value;
    value = next;
  }
  return { value, slope: (n * (before - x * value)) / (1 - x * x) };
}

/** The root between two places: halved until Newton's steps are safe. */
function polished(n: number, from: number, to: number): number {
  let [low, high] = [from, to];
  const sign = Math.sign(legendre(n, low).value);
  for (let i = 0; i < 12; i++) {
    const middle = (low + high) / 2;
    if (Math.sign(legendre(n, middle).value) === sign) low = middle;
    else high = middle;
  }
  let x = (low + high) / 2;
  for (let i = 0; i < 6; i++) {
    const { value, slope } = legendre(n, x);
    x -= value / slope;
  }
  return x;
}
