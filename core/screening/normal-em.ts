import { ln } from "../numerics/elementary";
import { choleskyInPlace, choleskySolveInPlace, solveLower } from "../numerics/cholesky";
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
 * Mean and covariance of a multivariate normal sample with gaps by EM (Little & Rubin 2002, ch.
 * 11). Every step works on the sums of a pattern, so it costs patterns, not rows.
 * @param columns p columns, NaN where missing; patterns cover the rows used (none of them all
 *   missing)
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
  const climbed = climb(sums, mu, sigma, n);
  if (!climbed) return null;
  const { steps, change } = climbed;
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

/**
 * EM steps until they change nothing, in place. Two steps tell where the third and all after it
 * lead, nearly on a line; going there at once (squared extrapolation, Varadhan & Roland 2008,
 * scheme S3) saves most of them. A point that is no covariance matrix is not gone to.
 */
function climb(
  sums: PatternSums[],
  mu: Float64Array,
  sigma: Float64Array,
  n: number,
): { steps: number; change: number } | null {
  const room = new Room(mu.length);
  const joined = (): Float64Array => Float64Array.from([...mu, ...sigma]);
  const goTo = (point: Float64Array): void => {
    mu.set(point.subarray(0, mu.length));
    sigma.set(point.subarray(mu.length));
  };
  let steps = 0;
  let change = Infinity;
  while (steps < MAX_STEPS) {
    const start = joined();
    const points: Float64Array[] = [];
    for (let k = 0; k < 2; k++) {
      const next = step(sums, mu, sigma, n, room);
      if (next === null) return null;
      change = next;
      steps += 1;
      if (change < CONVERGED) return { steps, change };
      points.push(joined());
    }
    const ahead = extrapolated(start, points[0]!, points[1]!);
    goTo(ahead);
    const next = step(sums, mu, sigma, n, room);
    if (next === null) goTo(points[1]!);
    else steps += 1;
  }
  return { steps, change };
}

/** x0 + 2 a r + a^2 v with r = x1 - x0, v = x2 - 2 x1 + x0 and a = |r| / |v|, at least one. */
function extrapolated(x0: Float64Array, x1: Float64Array, x2: Float64Array): Float64Array {
  let rr = 0;
  let vv = 0;
  for (let i = 0; i < x0.length; i++) {
    const r = x1[i]! - x0[i]!;
    const v = x2[i]! - x1[i]! - r;
    rr += r * r;
    vv += v * v;
  }
  const a = vv > 0 ? Math.max(1, Math.sqrt(rr / vv)) : 1;
  return x0.map((x, i) => {
    const r = x1[i]! - x;
    return x + 2 * a * r + a * a * (x2[i]! - x1[i]! - r);
  });
}

/** Room that every pattern of every step uses again. */
class Room {
  /** Sums of the completed deviations from mu, and of their cross-products: lower triangle. */
  readonly total: Float64Array;
  readonly products: Float64Array;
  readonly l: Float64Array;
  readonly d: Float64Array;
  readonly about: Float64Array;
  /** Of each missing variable: what it is regressed by, and what that leads to. */
  readonly weights: Float64Array[];
  readonly expected: Float64Array[];
  readonly completed: Float64Array;

  constructor(readonly p: number) {
    this.total = new Float64Array(p);
    this.products = new Float64Array(p * p);
    this.l = new Float64Array(p * p);
    this.d = new Float64Array(p);
    this.about = new Float64Array(p * p);
    this.weights = Array.from({ length: p }, () => new Float64Array(p));
    this.expected = Array.from({ length: p }, () => new Float64Array(p));
    this.completed = new Float64Array(p);
  }

  /** Adds to the cross-product of two variables. */
  add(i: number, j: number, value: number): void {
    const at = i > j ? i * this.p + j : j * this.p + i;
    this.products[at] = this.products[at]! + value;
  }
}

/** One EM step in place; the largest change, or null when a block is singular. */
function step(
  sums: PatternSums[],
  mu: Float64Array,
  sigma: Float64Array,
  n: number,
  room: Room,
): number | null {
  const { total, products, p } = room;
  total.fill(0);
  products.fill(0);
  for (const pattern of sums) {
    const { observed, means } = pattern;
    const k = observed.length;
    for (let a = 0; a < k; a++) {
      room.d[a] = means[a]! - mu[observed[a]!]!;
      for (let b = 0; b <= a; b++) room.l[a * k + b] = sigma[observed[a]! * p + observed[b]!]!;
    }
    if (!(choleskyInPlace(room.l, k, k) > SINGULAR)) return null;
    if (pattern.n === 1) addCase(pattern, sigma, room);
    else addCompleted(pattern, sigma, room);
  }
  let change = 0;
  for (let j = 0; j < p; j++) total[j] = total[j]! / n;
  for (let i = 0; i < p; i++) {
    for (let j = 0; j <= i; j++) {
      const value = products[i * p + j]! / n - total[i]! * total[j]!;
      change = Math.max(change, Math.abs(value - sigma[i * p + j]!));
      sigma[i * p + j] = value;
      sigma[j * p + i] = value;
    }
  }
  for (let j = 0; j < p; j++) {
    change = Math.max(change, Math.abs(total[j]!));
    mu[j] = mu[j]! + total[j]!;
  }
  return change;
}

/**
 * Adds the expected deviations of the one case of a pattern, and their cross-products: with u and v
 * of d and of the covariances in the metric of the factor, what is missing is expected at v'u, and
 * varies by sigma - v'v about it.
 */
function addCase({ observed, missing }: PatternSums, sigma: Float64Array, room: Room): void {
  const { total, l, d, about: u, weights, completed, p } = room;
  const k = observed.length;
  for (let r = 0; r < k; r++) u[r] = completed[observed[r]!] = d[r]!;
  solveLower(l, u, k);
  for (let a = 0; a < missing.length; a++) {
    const j = missing[a]!;
    const v = weights[a]!;
    for (let r = 0; r < k; r++) v[r] = sigma[observed[r]! * p + j]!;
    solveLower(l, v, k);
    completed[j] = inner(v, u, k);
    for (let b = 0; b <= a; b++)
      room.add(j, missing[b]!, sigma[j * p + missing[b]!]! - inner(v, weights[b]!, k));
  }
  for (let i = 0; i < p; i++) {
    total[i] = total[i]! + completed[i]!;
    for (let j = 0; j <= i; j++) room.add(i, j, completed[i]! * completed[j]!);
  }
}

/** Adds a pattern's expected deviations from mu and their cross-products. */
function addCompleted(pattern: PatternSums, sigma: Float64Array, room: Room): void {
  const { observed, missing, n } = pattern;
  const { total, l, d, about, weights, expected, p } = room;
  const k = observed.length;
  for (let r = 0; r < k; r++) {
    total[observed[r]!] = total[observed[r]!]! + n * d[r]!;
    for (let c = 0; c <= r; c++) {
      const value = pattern.products[r * k + c]! + n * d[r]! * d[c]!;
      about[r * k + c] = about[c * k + r] = value;
      room.add(observed[r]!, observed[c]!, value);
    }
  }
  // What is missing is expected by regression on what is observed.
  for (let a = 0; a < missing.length; a++) {
    const j = missing[a]!;
    const w = weights[a]!;
    const t = expected[a]!;
    for (let r = 0; r < k; r++) w[r] = sigma[observed[r]! * p + j]!;
    choleskySolveInPlace(l, k, k, w);
    for (let r = 0; r < k; r++) {
      let sum = 0;
      for (let c = 0; c < k; c++) sum += about[r * k + c]! * w[c]!;
      t[r] = sum;
      room.add(observed[r]!, j, sum);
    }
    total[j] = total[j]! + n * inner(d, w, k);
    for (let b = 0; b <= a; b++) {
      const i = missing[b]!;
      let explained = 0;
      for (let r = 0; r < k; r++) explained += sigma[i * p + observed[r]!]! * w[r]!;
      room.add(i, j, inner(w, expected[b]!, k) + n * (sigma[i * p + j]! - explained));
    }
  }
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
    const own = n * inner(d, solved, k);
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

function inner(a: Float64Array, b: Float64Array, k: number): number {
  let sum = 0;
  for (let i = 0; i < k; i++) sum += a[i]! * b[i]!;
  return sum;
}
