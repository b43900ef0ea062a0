import { exp } from "../numerics/elementary";
import { Phi, phi, zQuantile } from "../numerics/distributions";

/** How one variable follows from a standard normal score: a smooth curve, or steps at cuts. */
export interface Marginal {
  /** The variable in z-scores at a normal score. */
  standard(z: number): number;
  /** What stands in the data: a level by its place, a count, or the z-score itself. */
  code(z: number): number;
  /**
   * Coefficients of the variable in normalised Hermite polynomials of the score, from the first on.
   */
  hermite: Float64Array;
}

/**
 * So many Hermite coefficients: the share of variance left over is below .01 even for a variable in
 * halves.
 */
const TERMS = 60;

export const NORMAL: Marginal = {
  standard: (z) => z,
  code: (z) => z,
  hermite: Float64Array.from({ length: TERMS }, (_, k) => (k === 0 ? 1 : 0)),
};

/** SD of the logarithm of the skewed variable: a lognormal whose skewness is 2. */
const LOG_SD = 0.5513;

/** A lognormal variable, in z-scores. */
export const SKEWED: Marginal = (() => {
  const variance = LOG_SD * LOG_SD;
  const middle = exp(variance / 2);
  const sd = middle * Math.sqrt(exp(variance) - 1);
  const standard = (z: number): number => (exp(LOG_SD * z) - middle) / sd;
  const hermite = new Float64Array(TERMS);
  let term = middle / sd;
  for (let k = 1; k <= TERMS; k++) {
    term *= LOG_SD / Math.sqrt(k);
    hermite[k - 1] = term;
  }
  return { standard, code: standard, hermite };
})();

/**
 * A variable of steps: code k between cut k - 1 and cut k.
 * @param shares of the codes, in order, adding up to 1
 * @param scores of the codes; their places where not said
 */
export function stepped(shares: readonly number[], scores?: readonly number[]): Marginal {
  const values = scores ?? shares.map((_, i) => i);
  const mean = shares.reduce((sum, p, i) => sum + p * values[i]!, 0);
  const variance = shares.reduce((sum, p, i) => sum + p * (values[i]! - mean) ** 2, 0);
  const sd = Math.sqrt(variance);
  const cuts = new Float64Array(shares.length - 1);
  let below = 0;
  for (let i = 0; i < cuts.length; i++) {
    below += shares[i]!;
    cuts[i] = zQuantile(Math.min(below, 1));
  }
  const place = (z: number): number => {
    let i = 0;
    while (i < cuts.length && z > cuts[i]!) i += 1;
    return i;
  };
  return {
    standard: (z) => (values[place(z)]! - mean) / sd,
    code: place,
    hermite: hermiteOfSteps(
      cuts,
      values.map((v) => (v - mean) / sd),
    ),
  };
}

/**
 * c_k = sum over cuts of the step there, times the density and the Hermite polynomial k - 1 at the
 * cut, over sqrt(k!).
 */
function hermiteOfSteps(cuts: Float64Array, scores: readonly number[]): Float64Array {
  const out = new Float64Array(TERMS);
  cuts.forEach((t, j) => {
    if (!Number.isFinite(t)) return;
    const step = (scores[j + 1]! - scores[j]!) * phi(t);
    // Normalised: h_k = He_k / sqrt(k!), so that nothing overflows.
    let before = 0;
    let now = 1;
    for (let k = 1; k <= TERMS; k++) {
      out[k - 1] = out[k - 1]! + (step * now) / Math.sqrt(k);
      const next = (t * now - Math.sqrt(k - 1) * before) / Math.sqrt(k);
      before = now;
      now = next;
    }
  });
  return out;
}

/** Poisson counts with a mean; the tail beyond one in 10^12 is cut. */
export function counted(mean: number): Marginal {
  const shares: number[] = [];
  let p = exp(-mean);
  let sum = 0;
  for (let k = 0; sum < 1 - 1e-12 && k < mean + 40 * Math.sqrt(mean) + 60; k++) {
    if (k > 0) p *= mean / k;
    shares.push(p);
    sum += p;
  }
  shares[shares.length - 1]! += 1 - sum;
  return stepped(shares);
}

/**
 * Cuts of answers on k points, at equal distances from -1.5 to 1.5, moved up where answers pile up
 * at the low end.
 */
export function answerShares(points: number, skewed: boolean): number[] {
  const move = skewed ? 1 : 0;
  const cuts =
    points === 2
      ? [move]
      : Array.from({ length: points - 1 }, (_, i) => -1.5 + (3 * i) / (points - 2) + move);
  const below = [0, ...cuts.map(Phi), 1];
  return below.slice(1).map((p, i) => p - below[i]!);
}

/** Correlation of two variables whose normal scores correlate rho. */
export function correlationAt(rho: number, a: Marginal, b: Marginal): number {
  let power = 1;
  let sum = 0;
  for (let k = 0; k < TERMS; k++) {
    power *= rho;
    sum += a.hermite[k]! * b.hermite[k]! * power;
  }
  return sum;
}

/**
 * The correlation of normal scores that gives two variables a correlation, by bisection; null where
 * none does.
 */
export function scoreCorrelation(r: number, a: Marginal, b: Marginal): number | null {
  if (r === 0) return 0;
  let [low, high] = r > 0 ? [0, 0.9999] : [-0.9999, 0];
  if (correlationAt(high, a, b) < r || correlationAt(low, a, b) > r) return null;
  if (a === NORMAL && b === NORMAL) return r;
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (correlationAt(middle, a, b) < r) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** Largest share of one level that leaves a variable to speak of. */
export const sharesAreUsable = (shares: readonly number[]): boolean =>
  shares.length > 1 &&
  shares.every((p) => p > 0 && p < 1) &&
  Math.abs(shares.reduce((a, b) => a + b, 0) - 1) < 1e-6;
