import { ln } from "../numerics/elementary";
import { choleskyInPlace, choleskySolveInPlace } from "../numerics/cholesky";
import { mean, sumOfSquares } from "../numerics/moments";
import type { MissingPattern } from "./patterns";

/** Largest change of a mean or covariance of the standardised variables at convergence. */
const CONVERGED = 1e-12;
const MAX_STEPS = 20_000;
/** 1 - R2 below this: no inverse worth having. */
const SINGULAR = 1e-10;

/** What a pattern of observed variables contributes, in standardised units. */
interface PatternSums {
  observed: number[];
  missing: number[];
  n: number;
  /** Means of the observed variables. */
  means: Float64Array;
  /** Cross-products about those means, row-major. */
  products: Float64Array;
}

export interface NormalEstimates {
  /** Maximum-likelihood mean and covariance (divisor n, row-major) in the units of the data. */
  mean: Float64Array;
  covariance: Float64Array;
  /** Of the observed data. */
  logLikelihood: number;
  /** Sum over patterns of n (ybar - mu)' Sigma^-1 (ybar - mu). */
  distance: number;
  steps: number;
  converged: boolean;
}

/**
 * Mean and covariance of a multivariate normal sample with gaps by EM (Little & Rubin 2002, ch. 11). Every step works
 * on the sums of a pattern, so it costs patterns, not rows.
 * @param columns p columns, NaN where missing; patterns cover the rows used (none of them all missing)
 * @returns null when a covariance cannot be inverted
 */
export function normalEm(
  columns: Float64Array[],
  patterns: MissingPattern[],
): NormalEstimates | null {
  const p = columns.length;
  const centres = columns.map((c) => mean(c.filter((v) => !Number.isNaN(v))));
  const scales = columns.map((c, j) => {
    const x = c.filter((v) => !Number.isNaN(v));
    return Math.sqrt(sumOfSquares(x, centres[j]!) / x.length);
  });
  const sums = patterns.map((pattern) => sumsOf(pattern, columns, centres, scales));
  const n = sums.reduce((total, s) => total + s.n, 0);
  const mu = new Float64Array(p);
  const sigma = new Float64Array(p * p);
  for (let j = 0; j < p; j++) sigma[j * p + j] = 1;
  let steps = 0;
  let change = Infinity;
  while (change >= CONVERGED && steps < MAX_STEPS) {
    const next = step(sums, mu, sigma, n, p);
    if (next === null) return null;
    change = next;
    steps += 1;
  }
  const fit = likelihood(sums, mu, sigma, p, scales);
  if (fit === null) return null;
  return {
    mean: mu.map((m, j) => centres[j]! + m * scales[j]!),
    covariance: sigma.map((s, at) => s * scales[Math.floor(at / p)]! * scales[at % p]!),
    ...fit,
    steps,
    converged: change < CONVERGED,
  };
}

function sumsOf(
  { key, rows }: MissingPattern,
  columns: Float64Array[],
  centres: number[],
  scales: number[],
): PatternSums {
  const indices = [...key].map((mark, j) => [mark, j] as const);
  const observed = indices.filter(([mark]) => mark === "1").map(([, j]) => j);
  const missing = indices.filter(([mark]) => mark === "0").map(([, j]) => j);
  const z = observed.map((j) =>
    Float64Array.from(rows, (i) => (columns[j]![i]! - centres[j]!) / scales[j]!),
  );
  const means = Float64Array.from(z, mean);
  const k = observed.length;
  const products = new Float64Array(k * k);
  for (let a = 0; a < k; a++) {
    for (let b = 0; b <= a; b++) {
      let sum = 0;
      for (let i = 0; i < rows.length; i++)
        sum += (z[a]![i]! - means[a]!) * (z[b]![i]! - means[b]!);
      products[a * k + b] = sum;
      products[b * k + a] = sum;
    }
  }
  return { observed, missing, n: rows.length, means, products };
}

/** Lower factor of the observed block, and its smallest pivot share. */
function factorOf(
  observed: number[],
  sigma: Float64Array,
  p: number,
): { l: Float64Array; share: number } {
  const k = observed.length;
  const l = new Float64Array(k * k);
  for (let a = 0; a < k; a++)
    for (let b = 0; b <= a; b++) l[a * k + b] = sigma[observed[a]! * p + observed[b]!]!;
  return { l, share: choleskyInPlace(l, k, k) };
}

/** One EM step in place; the largest change, or null when a block is singular. */
function step(
  sums: PatternSums[],
  mu: Float64Array,
  sigma: Float64Array,
  n: number,
  p: number,
): number | null {
  const total = new Float64Array(p);
  const products = new Float64Array(p * p);
  for (const pattern of sums)
    if (!addCompleted(pattern, mu, sigma, p, total, products)) return null;
  let change = 0;
  for (let j = 0; j < p; j++) total[j] = total[j]! / n;
  for (let i = 0; i < p; i++) {
    for (let j = 0; j < p; j++) {
      const value = products[i * p + j]! / n - total[i]! * total[j]!;
      change = Math.max(change, Math.abs(value - sigma[i * p + j]!));
      sigma[i * p + j] = value;
    }
  }
  for (let j = 0; j < p; j++) {
    change = Math.max(change, Math.abs(total[j]!));
    mu[j] = mu[j]! + total[j]!;
  }
  return change;
}

/** Adds a pattern's expected deviations from mu and their cross-products. */
function addCompleted(
  pattern: PatternSums,
  mu: Float64Array,
  sigma: Float64Array,
  p: number,
  total: Float64Array,
  products: Float64Array,
): boolean {
  const { observed, missing, n } = pattern;
  const k = observed.length;
  const { l, share } = factorOf(observed, sigma, p);
  if (!(share > SINGULAR)) return false;
  const d = pattern.means.map((m, a) => m - mu[observed[a]!]!);
  const about = new Float64Array(k * k);
  for (let r = 0; r < k; r++) {
    const row = observed[r]! * p;
    total[observed[r]!] = total[observed[r]!]! + n * d[r]!;
    for (let c = 0; c < k; c++) {
      const value = pattern.products[r * k + c]! + n * d[r]! * d[c]!;
      about[r * k + c] = value;
      products[row + observed[c]!] = products[row + observed[c]!]! + value;
    }
  }
  // What is missing is expected by regression on what is observed.
  const weights: Float64Array[] = [];
  const expected: Float64Array[] = [];
  for (const j of missing) {
    const w = Float64Array.from(observed, (o) => sigma[o * p + j]!);
    choleskySolveInPlace(l, k, k, w);
    const t = times(about, w, k);
    weights.push(w);
    expected.push(t);
    total[j] = total[j]! + n * inner(d, w);
    for (let r = 0; r < k; r++) {
      const o = observed[r]!;
      products[o * p + j] = products[o * p + j]! + t[r]!;
      products[j * p + o] = products[j * p + o]! + t[r]!;
    }
  }
  missing.forEach((i, a) => {
    missing.forEach((j, b) => {
      let explained = 0;
      for (let r = 0; r < k; r++) explained += sigma[i * p + observed[r]!]! * weights[b]![r]!;
      const value = inner(weights[a]!, expected[b]!) + n * (sigma[i * p + j]! - explained);
      products[i * p + j] = products[i * p + j]! + value;
    });
  });
  return true;
}

function likelihood(
  sums: PatternSums[],
  mu: Float64Array,
  sigma: Float64Array,
  p: number,
  scales: number[],
) {
  let logLikelihood = 0;
  let distance = 0;
  for (const { observed, n, means, products } of sums) {
    const k = observed.length;
    const { l, share } = factorOf(observed, sigma, p);
    if (!(share > SINGULAR)) return null;
    const d = means.map((m, a) => m - mu[observed[a]!]!);
    const solved = Float64Array.from(d);
    choleskySolveInPlace(l, k, k, solved);
    const own = n * inner(d, solved);
    let logDeterminant = 0;
    let trace = 0;
    for (let a = 0; a < k; a++) {
      logDeterminant += 2 * ln(l[a * k + a]! * scales[observed[a]!]!);
      const column = products.slice(a * k, a * k + k);
      choleskySolveInPlace(l, k, k, column);
      trace += column[a]!;
    }
    logLikelihood -= 0.5 * (n * (k * ln(2 * Math.PI) + logDeterminant) + trace + own);
    distance += own;
  }
  return { logLikelihood, distance };
}

function times(m: Float64Array, x: Float64Array, k: number): Float64Array {
  const out = new Float64Array(k);
  for (let i = 0; i < k; i++) for (let j = 0; j < k; j++) out[i] = out[i]! + m[i * k + j]! * x[j]!;
  return out;
}

function inner(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}
