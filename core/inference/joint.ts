import { choleskyInPlace } from "../numerics/cholesky";
import { chiSquaredP } from "../numerics/distributions";
import { bilinearForm, squaredDistance, type Covariance } from "../model";

/** A test that several quantities are all zero. */
export interface JointTest {
  /**
   * `F`: Wald test of coefficients of one equation; `chi2`: Wald test across equations;
   * `bootstrap`: squared distance against the resamples.
   */
  reference: "F" | "chi2" | "bootstrap";
  statistic: number;
  df1: number;
  /** Null where the reference has none. */
  df2: number | null;
  p: number;
  /** Monte Carlo error of p; 0 where nothing is simulated. */
  mcse: number;
  /** The name of its errors where they are others than the classical ones. */
  errors?: string;
}

/**
 * The symmetric covariance of replicates, row-major q x q; rows with a missing value are left out.
 */
function covarianceOf(columns: Float64Array[], rows: number[]): Float64Array {
  const q = columns.length;
  const means = columns.map((column) => rows.reduce((sum, r) => sum + column[r]!, 0) / rows.length);
  const out = new Float64Array(q * q);
  for (let a = 0; a < q; a++) {
    for (let c = a; c < q; c++) {
      let sum = 0;
      for (const r of rows) sum += (columns[a]![r]! - means[a]!) * (columns[c]![r]! - means[c]!);
      out[a * q + c] = out[c * q + a] = sum / (rows.length - 1);
    }
  }
  return out;
}

/**
 * Joint bootstrap test: T = theta' V^-1 theta with V the covariance of the replicates, against the
 * squared distances of the replicates from the estimate; p = (1 + #{T_b >= T}) / (B + 1). Any
 * invertible linear map of the quantities, such as another coding of the same factor, leaves T and
 * p as they are.
 * @param columns replicates of each quantity, in the same order; NaN where one is missing
 * @returns null where the covariance is singular
 */
export function jointBootstrapTest(estimates: number[], columns: Float64Array[]): JointTest | null {
  const q = estimates.length;
  const rows = Array.from(columns[0]!, (_, r) => r).filter((r) =>
    columns.every((column) => Number.isFinite(column[r]!)),
  );
  const B = rows.length;
  if (B <= q + 1) return null;
  const v = covarianceOf(columns, rows);
  const distance = distanceIn(v, q);
  if (!distance) return null;
  const statistic = distance(estimates);
  const shifted = new Float64Array(q);
  let beyond = 0;
  for (const r of rows) {
    for (let j = 0; j < q; j++) shifted[j] = columns[j]![r]! - estimates[j]!;
    if (distance(shifted) >= statistic) beyond += 1;
  }
  const p = (1 + beyond) / (B + 1);
  return {
    reference: "bootstrap",
    statistic,
    df1: q,
    df2: null,
    p,
    mcse: Math.sqrt((p * (1 - p)) / B),
  };
}

/** A pivot of the covariance below this share of its diagonal leaves no digits for a distance. */
const SINGULAR = 1e-13;

/** x' V^-1 x by the Cholesky factor of V, made once; null where V is singular. */
function distanceIn(v: Float64Array, q: number): ((x: ArrayLike<number>) => number) | null {
  const l = v.slice();
  if (!(choleskyInPlace(l, q, q) > SINGULAR)) return null;
  const y = new Float64Array(q);
  return (x) => {
    let total = 0;
    for (let i = 0; i < q; i++) {
      let sum = x[i]!;
      for (let m = 0; m < i; m++) sum -= l[i * q + m]! * y[m]!;
      y[i] = sum / l[i * q + i]!;
      total += y[i]! * y[i]!;
    }
    return total;
  };
}

/**
 * Wald test of functions across equations by the delta method: chi-squared on q degrees of freedom.
 * @param gradients of each function, over the coefficients first
 */
export function jointDeltaTest(
  estimates: number[],
  gradients: Float64Array[],
  v: Covariance,
): JointTest | null {
  const q = estimates.length;
  const covariance = gradients.flatMap((a) => gradients.map((b) => bilinearForm(a, b, v)));
  const statistic = squaredDistance(estimates, covariance);
  return statistic === null
    ? null
    : { reference: "chi2", statistic, df1: q, df2: null, p: chiSquaredP(statistic, q), mcse: 0 };
}

/**
 * Holm's (1979, Scand J Stat 6) adjusted p values, in the order given; null entries are left out of
 * the family.
 */
export function holmAdjusted(ps: (number | null)[]): (number | null)[] {
  const order = ps.flatMap((p, i) => (p === null ? [] : [{ p, i }])).sort((a, b) => a.p - b.p);
  const out: (number | null)[] = ps.map(() => null);
  let largest = 0;
  order.forEach(({ p, i }, rank) => {
    largest = Math.max(largest, Math.min(1, (order.length - rank) * p));
    out[i] = largest;
  });
  return out;
}
