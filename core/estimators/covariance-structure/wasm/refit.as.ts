// A whole warm refit of one resample in AssemblyScript; `npm run wasm` compiles it to
// refit.wasm.ts. The same steps in the same order as quasi-newton.ts, with implied.ts and
// pattern.ts beneath it, for one group of complete cases without means.

// prettier-ignore
@inline function get(p: usize, i: i32): f64 { return load<f64>(p + (usize(i) << 3)); }
// prettier-ignore
@inline function put(p: usize, i: i32, x: f64): void { store<f64>(p + (usize(i) << 3), x); }
// prettier-ignore
@inline function int(p: usize, i: i32): i32 { return load<i32>(p + (usize(i) << 2)); }

const MOST_STEPS: i32 = 80;
const MOST_HALVINGS: i32 = 20;
const CONVERGED: f64 = 1e-12;
const FLAT: f64 = 1e-9;
const SINGULAR: f64 = 1e-12;

let v: i32 = 0, p: i32 = 0, q: i32 = 0;
let free: i32 = 0, paths: i32 = 0, covariances: i32 = 0, directions: i32 = 0;
// Integers: free arrows, paths in causal order, elements of S, directions, and what each variable
// leads to.
let parameterOf: usize = 0, placeOf: usize = 0, matrixOf: usize = 0;
let pathRows: usize = 0, pathColumns: usize = 0, sRows: usize = 0, sColumns: usize = 0;
let parameter: usize = 0, kind: usize = 0, row: usize = 0, column: usize = 0;
let reachStart: usize = 0, reach: usize = 0;
// Numbers.
let half: usize = 0, start: usize = 0, H0: usize = 0, R: usize = 0, theta: usize = 0;
let next: usize = 0, slope: usize = 0, step: usize = 0, score: usize = 0, H: usize = 0;
let A: usize = 0, S: usize = 0, B: usize = 0, E: usize = 0, SB: usize = 0;
let L: usize = 0, inverse: usize = 0, W: usize = 0, T: usize = 0, M: usize = 0;

/**
 * Sizes and places: 7 numbers, then 13 places of integers, then 20 of numbers, as 32-bit integers
 * from `at` on.
 */
export function setup(at: usize): void {
  v = int(at, 0); p = int(at, 1); q = int(at, 2);
  free = int(at, 3); paths = int(at, 4); covariances = int(at, 5); directions = int(at, 6);
  parameterOf = int(at, 7); placeOf = int(at, 8); matrixOf = int(at, 9);
  pathRows = int(at, 10); pathColumns = int(at, 11); sRows = int(at, 12); sColumns = int(at, 13);
  parameter = int(at, 14); kind = int(at, 15); row = int(at, 16); column = int(at, 17);
  reachStart = int(at, 18); reach = int(at, 19);
  half = int(at, 20); start = int(at, 21); H0 = int(at, 22); R = int(at, 23); theta = int(at, 24);
  next = int(at, 25); slope = int(at, 26); step = int(at, 27); score = int(at, 28); H = int(at, 29);
  A = int(at, 30); S = int(at, 31); B = int(at, 32); E = int(at, 33); SB = int(at, 34);
  L = int(at, 35); inverse = int(at, 36); W = int(at, 37); T = int(at, 38); M = int(at, 39);
}

/** Implied moments at these parameters. */
function implied(at: usize): void {
  for (let k = 0; k < free; k++)
    put(int(matrixOf, k) == 0 ? A : S, int(placeOf, k), get(at, int(parameterOf, k)));
  memory.fill(B, 0, usize(v * v) << 3);
  for (let i = 0; i < v; i++) put(B, i * v + i, 1);
  for (let k = 0; k < paths; k++) {
    const i = int(pathRows, k) * v, c = int(pathColumns, k), j = c * v;
    const a = get(A, i + c);
    for (let m = 0; m < v; m++) put(B, i + m, get(B, i + m) + a * get(B, j + m));
  }
  memory.fill(SB, 0, usize(v * v) << 3);
  for (let k = 0; k < covariances; k++) {
    const j = int(sRows, k), c = int(sColumns, k);
    const s = get(S, j * v + c);
    for (let i = 0; i < v; i++) put(SB, c * v + i, get(SB, c * v + i) + get(B, i * v + j) * s);
  }
  memory.fill(E, 0, usize(v * v) << 3);
  for (let i = 0; i < v; i++) {
    for (let j = 0; j < v; j++) {
      const b = get(B, i * v + j);
      if (b == 0) continue;
      for (let k = 0; k <= i; k++) put(E, i * v + k, get(E, i * v + k) + b * get(SB, j * v + k));
    }
    for (let k = 0; k < i; k++) put(E, k * v + i, get(E, i * v + k));
  }
}

/** Lower Cholesky factor of Sigma. @returns whether it is a covariance matrix */
function factor(): bool {
  for (let i = 0; i < p; i++)
    for (let j = 0; j <= i; j++) {
      let sum = get(E, i * v + j);
      for (let m = 0; m < j; m++) sum -= get(L, i * p + m) * get(L, j * p + m);
      if (i == j) {
        if (!(sum > SINGULAR * get(E, i * v + i))) return false;
        put(L, i * p + i, Math.sqrt(sum));
      } else put(L, i * p + j, sum / get(L, j * p + j));
    }
  return true;
}

/** Minus half of log |Sigma| + tr(Sigma^-1 R); minus infinity outside the domain. */
function value(at: usize): f64 {
  implied(at);
  if (!factor()) return -Infinity;
  let logDeterminant: f64 = 0;
  for (let i = 0; i < p; i++) logDeterminant += 2 * Math.log(get(L, i * p + i));
  for (let j = 0; j < p; j++)
    for (let i = j; i < p; i++) {
      let sum: f64 = i == j ? 1 : 0;
      for (let m = j; m < i; m++) sum -= get(L, i * p + m) * get(inverse, m * p + j);
      put(inverse, i * p + j, sum / get(L, i * p + i));
    }
  let trace: f64 = 0;
  for (let i = 0; i < p; i++)
    for (let j = 0; j <= i; j++) {
      let sum: f64 = 0;
      for (let m = i; m < p; m++) sum += get(inverse, m * p + i) * get(inverse, m * p + j);
      put(W, i * p + j, sum);
      put(W, j * p + i, sum);
      trace += (i == j ? 1 : 2) * sum * get(R, i * p + j);
    }
  return -0.5 * (logDeterminant + trace);
}

/** out_ij = a_i b_j for the rows of two matrices, two rows of each at a time. */
function rowProducts(a: usize, b: usize, out: usize, mirrored: bool): void {
  for (let i = 0; i < p; i += 2) {
    const i0 = i * p, two = i + 1 < p, i1 = two ? i0 + p : i0;
    const until = mirrored ? min(p, i + 2) : p;
    for (let j = 0; j < until; j += 2) {
      const j0 = j * p, other = j + 1 < p, j1 = other ? j0 + p : j0;
      let s00: f64 = 0, s01: f64 = 0, s10: f64 = 0, s11: f64 = 0;
      for (let m = 0; m < p; m++) {
        const x = get(a, i0 + m), y = get(a, i1 + m), z = get(b, j0 + m), w = get(b, j1 + m);
        s00 += x * z;
        s01 += x * w;
        s10 += y * z;
        s11 += y * w;
      }
      put(out, i0 + j, s00);
      if (other) put(out, i0 + j + 1, s01);
      if (two) put(out, i1 + j, s10);
      if (two && other) put(out, i1 + j + 1, s11);
    }
  }
  if (mirrored)
    for (let i = 0; i < p; i++) for (let j = 0; j < i; j++) put(out, j * p + i, get(out, i * p + j));
}

/** The score at the point of the last value. */
function derive(n: f64): void {
  rowProducts(W, R, T, false);
  rowProducts(T, W, M, true);
  for (let i = 0; i < p * p; i++) put(M, i, get(M, i) - get(W, i));
  memory.fill(score, 0, usize(q) << 3);
  for (let s = 0; s < directions; s++) {
    const path = int(kind, s) == 0;
    const source = path ? E : B;
    const o = int(column, s), b = int(row, s);
    const from = int(reachStart, b), to = int(reachStart, b + 1);
    const first = path ? 0 : int(reachStart, o), last = path ? p : int(reachStart, o + 1);
    let through: f64 = 0;
    for (let r = from; r < to; r++) {
      const i = int(reach, r);
      let bent: f64 = 0;
      for (let j = first; j < last; j++) {
        const place = path ? j : int(reach, j);
        bent += get(M, i * p + place) * get(source, place * v + o);
      }
      through += get(B, i * v + b) * bent;
    }
    const at = int(parameter, s);
    put(score, at, get(score, at) + n * get(half, s) * through);
  }
}

/** H x, two rows at a time. */
function times(x: usize, out: usize): void {
  for (let a = 0; a < q; a += 2) {
    const first = a * q, two = a + 1 < q, second = two ? first + q : first;
    let s: f64 = 0, t: f64 = 0;
    for (let b = 0; b < q; b++) {
      const y = get(x, b);
      s += get(H, first + b) * y;
      t += get(H, second + b) * y;
    }
    put(out, a, s);
    if (two) put(out, a + 1, t);
  }
}

function update(share: f64): void {
  let sy: f64 = 0;
  for (let a = 0; a < q; a++) {
    put(step, a, share * get(step, a));
    // The slope falls along a step up; what it turned by takes the place of the old one for a
    // moment.
    put(slope, a, get(slope, a) - get(score, a));
    sy += get(step, a) * get(slope, a);
  }
  if (sy > 0) {
    times(slope, next);
    let yHy: f64 = 0;
    for (let a = 0; a < q; a++) yHy += get(next, a) * get(slope, a);
    const first = (1 + yHy / sy) / sy;
    for (let a = 0; a < q; a++) {
      const sa = first * get(step, a) - get(next, a) / sy, ta = get(step, a) / sy;
      for (let b = 0; b < q; b++)
        put(H, a * q + b, get(H, a * q + b) + sa * get(step, b) - ta * get(next, b));
    }
  }
  for (let a = 0; a < q; a++) {
    put(theta, a, get(theta, a) + get(step, a));
    put(slope, a, get(score, a));
  }
}

/**
 * Refits to the covariances in R.
 * @returns 1 where it converged; then theta, S and E hold the estimates
 */
export function fit(n: f64): i32 {
  for (let k = 0; k < q * q; k++) put(H, k, get(H0, k) / n);
  for (let a = 0; a < q; a++) put(theta, a, get(start, a));
  let reached = n * value(theta);
  if (reached == -Infinity) return 0;
  derive(n);
  for (let a = 0; a < q; a++) put(slope, a, get(score, a));
  for (let taken = 0; taken < MOST_STEPS; taken++) {
    times(slope, step);
    let gain: f64 = 0;
    for (let a = 0; a < q; a++) gain += get(step, a) * get(slope, a);
    const criterion = gain / n;
    if (criterion < CONVERGED) {
      for (let a = 0; a < q; a++) put(theta, a, get(theta, a) + get(step, a));
      implied(theta);
      return factor() ? 1 : 0;
    }
    if (!(criterion > 0)) return 0;
    let share: f64 = 1, there: f64 = -Infinity;
    for (let halving = 0; halving < MOST_HALVINGS; halving++) {
      for (let a = 0; a < q; a++) put(next, a, get(theta, a) + share * get(step, a));
      there = n * value(next);
      if (there > reached || (criterion < FLAT && there > -Infinity)) break;
      share /= 2;
    }
    if (there == -Infinity || (there <= reached && criterion >= FLAT)) return 0;
    reached = there;
    derive(n);
    update(share);
  }
  return 0;
}
