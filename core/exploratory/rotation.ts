import { inverse, Matrix, QrDecomposition } from "ml-matrix";
import { exp, ln } from "../numerics/elementary";
import { RandomStream } from "../numerics/random";

/** Oblique (oblimin, geomin) and orthogonal (varimax) rotations. */
export type Rotation = "oblimin" | "geomin" | "varimax";

export interface Rotated {
  /** Items by factors: the pattern, for factors that correlate. */
  loadings: number[][];
  /** Of the factors; the identity for an orthogonal rotation. */
  correlations: number[][];
  /** Of the criterion at the loadings (of length one where rows are normalised): lower is simpler. */
  criterion: number;
  /** Of the starts, how many came within 1e-6 of the best. */
  agreeing: number;
  starts: number;
}

/** Starts beside the loadings as they were extracted. */
const RANDOM_STARTS = 100;
const MAX_STEPS = 1000;
const GRADIENT = 1e-7;
/** Added to squared loadings by geomin (Browne 2001). */
const EPSILON = 0.01;

/**
 * Rotates loadings towards simple structure by projected gradients (Jennrich 2001, 2002), from the
 * extracted loadings and 100 random orthogonal starts, since criteria have several minima; the
 * lowest counts. Oblimin is direct quartimin (gamma 0, Jennrich & Sampson 1966), geomin that of
 * Browne (2001), varimax Kaiser's (1958). Rows have length one meanwhile for oblimin and varimax
 * (Kaiser's normalisation).
 */
export function rotate(extracted: number[][], by: Rotation, seed: number): Rotated {
  const factors = extracted[0]!.length;
  if (factors < 2)
    return { loadings: extracted, correlations: [[1]], criterion: 0, agreeing: 1, starts: 1 };
  const lengths = extracted.map((row) =>
    by === "geomin" ? 1 : Math.sqrt(row.reduce((sum, x) => sum + x * x, 0)) || 1,
  );
  const a = new Matrix(extracted.map((row, i) => row.map((x) => x / lengths[i]!)));
  const found = [Matrix.eye(factors), ...randomStarts(factors, seed)].map((start) =>
    descend(a, start, by),
  );
  const best = found.reduce((lowest, one) => (one.value < lowest.value - 1e-12 ? one : lowest));
  return {
    loadings: best.loadings.to2DArray().map((row, i) => row.map((x) => x * lengths[i]!)),
    correlations: best.turn.transpose().mmul(best.turn).to2DArray(),
    criterion: best.value,
    agreeing: found.filter((one) => one.value < best.value + 1e-6).length,
    starts: found.length,
  };
}

/** Orthogonal matrices, uniformly: Q of a normal matrix with the signs of R (Stewart 1980). */
function randomStarts(factors: number, seed: number): Matrix[] {
  return Array.from({ length: RANDOM_STARTS }, (_, s) => {
    const stream = new RandomStream(seed, s);
    const normal = Array.from({ length: factors }, () =>
      Array.from({ length: factors }, () => stream.normal()),
    );
    const qr = new QrDecomposition(new Matrix(normal));
    const { orthogonalMatrix: q, upperTriangularMatrix: r } = qr;
    for (let j = 0; j < factors; j++) if (r.get(j, j) < 0) q.mulColumn(j, -1);
    return q;
  });
}

interface Turned {
  turn: Matrix;
  loadings: Matrix;
  value: number;
}

/**
 * Projected gradient descent. Oblique: loadings A T^-T, columns of T of length one; orthogonal:
 * loadings A T, T orthogonal.
 */
function descend(a: Matrix, start: Matrix, by: Rotation): Turned {
  const oblique = by !== "varimax";
  const loadingsOf = (turn: Matrix): Matrix =>
    oblique ? a.mmul(inverse(turn).transpose()) : a.mmul(turn);
  let turn = start;
  let loadings = loadingsOf(turn);
  let { value, slope } = criterion(loadings, by);
  let step = 1;
  for (let at = 0; at < MAX_STEPS; at++) {
    const gradient = oblique
      ? loadings.transpose().mmul(slope).mmul(inverse(turn)).transpose().mul(-1)
      : a.transpose().mmul(slope);
    const along = oblique ? awayFromLengths(turn, gradient) : awayFromTurning(turn, gradient);
    const s = along.norm();
    if (s < GRADIENT) break;
    step *= 2;
    let taken = false;
    for (let i = 0; i < 30 && !taken; i++, step /= taken ? 1 : 2) {
      const moved = Matrix.sub(turn, Matrix.mul(along, step));
      const next = oblique ? ofLengthOne(moved) : nearestOrthogonal(moved);
      if (!next) continue;
      const nextLoadings = loadingsOf(next);
      const found = criterion(nextLoadings, by);
      if (found.value >= value - 0.5 * s * s * step) continue;
      [turn, loadings, taken] = [next, nextLoadings, true];
      ({ value, slope } = found);
    }
    if (!taken) break;
  }
  return { turn, loadings, value };
}

/** The gradient without what would change the lengths of the columns. */
function awayFromLengths(turn: Matrix, gradient: Matrix): Matrix {
  const along = gradient.clone();
  for (let j = 0; j < turn.columns; j++) {
    let inner = 0;
    for (let i = 0; i < turn.rows; i++) inner += turn.get(i, j) * gradient.get(i, j);
    for (let i = 0; i < turn.rows; i++)
      along.set(i, j, gradient.get(i, j) - turn.get(i, j) * inner);
  }
  return along;
}

/** The gradient in the directions of rotations: G - T sym(T'G). */
function awayFromTurning(turn: Matrix, gradient: Matrix): Matrix {
  const m = turn.transpose().mmul(gradient);
  const symmetric = Matrix.add(m, m.transpose()).mul(0.5);
  return Matrix.sub(gradient, turn.mmul(symmetric));
}

function ofLengthOne(moved: Matrix): Matrix | null {
  for (let j = 0; j < moved.columns; j++) {
    const column = moved.getColumn(j);
    const length = Math.sqrt(column.reduce((sum, x) => sum + x * x, 0));
    if (!(length > 0)) return null;
    moved.mulColumn(j, 1 / length);
  }
  return moved;
}

/** By orthogonal triangles instead of singular values: any retraction descends as well. */
function nearestOrthogonal(moved: Matrix): Matrix | null {
  const qr = new QrDecomposition(moved);
  if (!qr.isFullRank()) return null;
  const { orthogonalMatrix: q, upperTriangularMatrix: r } = qr;
  for (let j = 0; j < q.columns; j++) if (r.get(j, j) < 0) q.mulColumn(j, -1);
  return q;
}

/** Value and slope in the loadings. */
function criterion(loadings: Matrix, by: Rotation): { value: number; slope: Matrix } {
  if (by === "oblimin") return quartimin(loadings);
  return by === "geomin" ? geomin(loadings) : varimax(loadings);
}

function quartimin(loadings: Matrix): { value: number; slope: Matrix } {
  let value = 0;
  const slope = loadings.clone();
  for (let i = 0; i < loadings.rows; i++) {
    let all = 0;
    for (let j = 0; j < loadings.columns; j++) all += loadings.get(i, j) ** 2;
    for (let j = 0; j < loadings.columns; j++) {
      const x = loadings.get(i, j);
      const others = all - x * x;
      value += (x * x * others) / 4;
      slope.set(i, j, x * others);
    }
  }
  return { value, slope };
}

function geomin(loadings: Matrix): { value: number; slope: Matrix } {
  const m = loadings.columns;
  let value = 0;
  const slope = loadings.clone();
  for (let i = 0; i < loadings.rows; i++) {
    let logs = 0;
    for (let j = 0; j < m; j++) logs += ln(loadings.get(i, j) ** 2 + EPSILON);
    const mean = exp(logs / m);
    value += mean;
    for (let j = 0; j < m; j++) {
      const x = loadings.get(i, j);
      slope.set(i, j, ((2 / m) * x * mean) / (x * x + EPSILON));
    }
  }
  return { value, slope };
}

function varimax(loadings: Matrix): { value: number; slope: Matrix } {
  let value = 0;
  const slope = loadings.clone();
  for (let j = 0; j < loadings.columns; j++) {
    const squares = loadings.getColumn(j).map((x) => x * x);
    const mean = squares.reduce((sum, x) => sum + x, 0) / squares.length;
    squares.forEach((square, i) => {
      value -= (square - mean) ** 2 / 4;
      slope.set(i, j, -loadings.get(i, j) * (square - mean));
    });
  }
  return { value, slope };
}
