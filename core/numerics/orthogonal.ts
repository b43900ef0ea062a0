/**
 * What is left of a column, as a share of its length, at or below which it counts as dependent on
 * earlier ones.
 */
export const DEPENDENT_LENGTH = 1e-7;

/**
 * Coefficients in a dependent column's expansion below this (unit-length scale) do not name a
 * partner.
 */
const PARTNER_COEFFICIENT = 1e-6;

/**
 * Columns of unit length about their means, factorised as Z = Q R; `weights` (row counts) may be
 * given.
 */
export interface OrthogonalFactor {
  /** n, number of rows (distinct rows when weighted). */
  rows: number;
  /** k, number of columns. */
  columns: number;
  means: Float64Array;
  /** Length of each centred column. */
  lengths: Float64Array;
  /** Orthonormal columns, one Float64Array of n each. */
  q: Float64Array[];
  /** Upper triangle R, row-major k x k. */
  r: Float64Array;
  /**
   * The first dependent column and its partners, when there is one; the factor is then incomplete.
   */
  dependent: { column: number; partners: number[] } | null;
}

/**
 * Centres every column, scales it to length one and orthogonalises in column order, twice
 * (modified Gram-Schmidt with one repetition: orthogonal to working precision, Giraud et al. 2005,
 * Numer Math 101). The same pass is the rank rule and the least-squares factorisation.
 * @param columns k columns of n finite numbers, none constant
 * @param limit what must be left of a column of length one when the earlier ones are taken out
 * @param known the factor of the first columns, which need not be factorised again
 */
export function orthogonalFactor(
  columns: ArrayLike<number>[],
  weights?: ArrayLike<number>,
  limit = DEPENDENT_LENGTH,
  known?: OrthogonalFactor,
): OrthogonalFactor {
  const k = columns.length;
  const n = k > 0 ? columns[0]!.length : 0;
  const means = new Float64Array(k);
  const lengths = new Float64Array(k);
  const q: Float64Array[] = [];
  const r = new Float64Array(k * k);
  const factor: OrthogonalFactor = { rows: n, columns: k, means, lengths, q, r, dependent: null };
  for (let j = 0; j < (known?.columns ?? 0); j++) {
    means[j] = known!.means[j]!;
    lengths[j] = known!.lengths[j]!;
    q.push(known!.q[j]!);
    for (let m = 0; m <= j; m++) r[m * k + j] = known!.r[m * known!.columns + j]!;
  }
  for (let j = q.length; j < k; j++) {
    const z = centredColumn(columns[j]!, weights);
    means[j] = z.mean;
    lengths[j] = z.length;
    const v = z.values;
    for (let pass = 0; pass < 2; pass++) {
      for (let m = 0; m < j; m++) {
        const projection = dot(q[m]!, v);
        r[m * k + j] = r[m * k + j]! + projection;
        axpy(-projection, q[m]!, v);
      }
    }
    const rest = Math.sqrt(dot(v, v));
    if (!(rest > limit)) {
      factor.dependent = { column: j, partners: partnersOf(r, k, j) };
      return factor;
    }
    r[j * k + j] = rest;
    for (let i = 0; i < n; i++) v[i] = v[i]! / rest;
    q.push(v);
  }
  return factor;
}

function centredColumn(x: ArrayLike<number>, weights?: ArrayLike<number>) {
  const n = x.length;
  let total = 0;
  let sum = 0;
  for (let i = 0; i < n; i++) {
    const w = weights ? weights[i]! : 1;
    total += w;
    sum += w * x[i]!;
  }
  const first = sum / total;
  let rest = 0;
  for (let i = 0; i < n; i++) rest += (weights ? weights[i]! : 1) * (x[i]! - first);
  const mean = first + rest / total;
  const values = new Float64Array(n);
  let squares = 0;
  for (let i = 0; i < n; i++) {
    const d = (x[i]! - mean) * (weights ? Math.sqrt(weights[i]!) : 1);
    values[i] = d;
    squares += d * d;
  }
  const length = Math.sqrt(squares);
  if (length > 0) for (let i = 0; i < n; i++) values[i] = values[i]! / length;
  return { mean, length, values };
}

/** Solves R a = r_j for the expansion of the dependent column j in the earlier ones. */
function partnersOf(r: Float64Array, k: number, j: number): number[] {
  const a = new Float64Array(j);
  for (let i = j - 1; i >= 0; i--) {
    let sum = r[i * k + j]!;
    for (let m = i + 1; m < j; m++) sum -= r[i * k + m]! * a[m]!;
    a[i] = sum / r[i * k + i]!;
  }
  const partners: number[] = [];
  a.forEach((value, i) => {
    if (Math.abs(value) > PARTNER_COEFFICIENT) partners.push(i);
  });
  return partners;
}

/** Solves R x = rhs for the k x k upper triangle of a factor. */
export function solveUpper(r: Float64Array, k: number, rhs: ArrayLike<number>): Float64Array {
  const x = new Float64Array(k);
  for (let i = k - 1; i >= 0; i--) {
    let sum = rhs[i]!;
    for (let j = i + 1; j < k; j++) sum -= r[i * k + j]! * x[j]!;
    x[i] = sum / r[i * k + i]!;
  }
  return x;
}

/** (R'R)^-1, row-major k x k. */
export function inverseGram(r: Float64Array, k: number): Float64Array {
  const inverse = new Float64Array(k * k);
  const unit = new Float64Array(k);
  for (let j = 0; j < k; j++) {
    unit.fill(0);
    unit[j] = 1;
    const column = solveUpper(r, k, unit);
    for (let i = 0; i < k; i++) inverse[i * k + j] = column[i]!;
  }
  const out = new Float64Array(k * k);
  for (let i = 0; i < k; i++) {
    for (let j = 0; j < k; j++) {
      let sum = 0;
      for (let m = Math.max(i, j); m < k; m++) sum += inverse[i * k + m]! * inverse[j * k + m]!;
      out[i * k + j] = sum;
    }
  }
  return out;
}

export function dot(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

function axpy(scale: number, x: Float64Array, y: Float64Array): void {
  for (let i = 0; i < x.length; i++) y[i] = y[i]! + scale * x[i]!;
}
