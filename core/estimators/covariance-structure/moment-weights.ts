import { inverseOf } from "./scoring";
import { lowerTriangle } from "./moment-objective";

/** Which deviations of moments count how much. */
export type MomentEstimator = "gls" | "uls" | "adf" | "dwls";

/**
 * The normal-theory weight NT(M) = blockdiag(M^-1, 1/2 D'(M^-1 x M^-1) D) with D the duplication
 * matrix (Browne 1974).
 * @param M p x p, positive definite; @param means whether the moments begin with means
 * @returns m x m; null where M is singular
 */
export function normalTheoryWeight(
  M: Float64Array,
  p: number,
  means: boolean,
): Float64Array | null {
  const V = inverseOf(M, p);
  if (!V) return null;
  const { rows, columns } = lowerTriangle(p);
  const offset = means ? p : 0;
  const m = offset + rows.length;
  const weight = new Float64Array(m * m);
  if (means)
    for (let i = 0; i < p; i++) for (let j = 0; j < p; j++) weight[i * m + j] = V[i * p + j]!;
  rows.forEach((i, a) => {
    const j = columns[a]!;
    rows.forEach((k, b) => {
      const l = columns[b]!;
      const both = V[i * p + k]! * V[j * p + l]! + V[i * p + l]! * V[j * p + k]!;
      const share = (i === j ? 0.5 : 1) * (k === l ? 0.5 : 1);
      weight[(offset + a) * m + offset + b] = share * both;
    });
  });
  return weight;
}

/**
 * Covariance of the moments of a case, times n: the fourth (and third) moments of the sample,
 * divisor n.
 * @param data columns without gaps, of one group
 * @returns m x m
 */
export function fourthMoments(data: readonly Float64Array[], means: boolean): Float64Array {
  const p = data.length;
  const n = data[0]!.length;
  const { rows, columns } = lowerTriangle(p);
  const offset = means ? p : 0;
  const m = offset + rows.length;
  const centres = data.map((column) => column.reduce((sum, y) => sum + y, 0) / n);
  const z = new Float64Array(m);
  const sums = new Float64Array(m);
  const gamma = new Float64Array(m * m);
  const deviations = data.map((column, i) => column.map((y) => y - centres[i]!));
  const fill = (r: number): void => {
    if (means) for (let i = 0; i < p; i++) z[i] = deviations[i]![r]!;
    for (let a = 0; a < rows.length; a++)
      z[offset + a] = deviations[rows[a]!]![r]! * deviations[columns[a]!]![r]!;
  };
  for (let r = 0; r < n; r++) {
    fill(r);
    for (let a = 0; a < m; a++) sums[a] = sums[a]! + z[a]! / n;
  }
  for (let r = 0; r < n; r++) {
    fill(r);
    for (let a = 0; a < m; a++) z[a] = z[a]! - sums[a]!;
    for (let a = 0; a < m; a++) {
      const za = z[a]! / n;
      for (let b = 0; b <= a; b++) gamma[a * m + b] = gamma[a * m + b]! + za * z[b]!;
    }
  }
  for (let a = 0; a < m; a++) for (let b = 0; b < a; b++) gamma[b * m + a] = gamma[a * m + b]!;
  return gamma;
}

const momentsOf = (p: number, means: boolean): number => (p * (p + 1)) / 2 + (means ? p : 0);

const diagonalOf = (matrix: Float64Array): Float64Array => {
  const m = Math.round(Math.sqrt(matrix.length));
  return Float64Array.from({ length: m }, (_, a) => matrix[a * m + a]!);
};

/** The diagonal of `fourthMoments`: variances of the moments of a case. */
export function fourthVariances(data: readonly Float64Array[], means: boolean): Float64Array {
  const p = data.length;
  const n = data[0]!.length;
  const { rows, columns } = lowerTriangle(p);
  const centred = data.map((column) => {
    const centre = column.reduce((sum, y) => sum + y, 0) / n;
    return column.map((y) => y - centre);
  });
  const variance = (of: (row: number) => number): number => {
    let sum = 0;
    let squares = 0;
    for (let r = 0; r < n; r++) {
      const z = of(r);
      sum += z;
      squares += z * z;
    }
    return squares / n - (sum / n) * (sum / n);
  };
  const products = Float64Array.from(rows, (i, at) => {
    const [x, y] = [centred[i]!, centred[columns[at]!]!];
    return variance((r) => x[r]! * y[r]!);
  });
  if (!means) return products;
  return Float64Array.from([...centred.map((x) => variance((r) => x[r]!)), ...products]);
}

/**
 * The weight of an estimator.
 * @param covariance of the sample, p x p; @param gamma of `fourthMoments`, where the estimator
 *   needs it; for DWLS its diagonal is enough
 * @returns m x m, for DWLS its diagonal; null where a matrix cannot be inverted
 */
export function momentWeight(
  estimator: MomentEstimator,
  covariance: Float64Array,
  p: number,
  means: boolean,
  gamma: Float64Array | null,
): Float64Array | null {
  if (estimator === "gls") return normalTheoryWeight(covariance, p, means);
  if (estimator === "uls") {
    const unit = new Float64Array(p * p);
    for (let i = 0; i < p; i++) unit[i * p + i] = 1;
    return normalTheoryWeight(unit, p, means);
  }
  if (estimator === "dwls") {
    const variances = gamma!.length === momentsOf(p, means) ? gamma! : diagonalOf(gamma!);
    return variances.every((value) => value > 0) ? variances.map((value) => 1 / value) : null;
  }
  return inverseOf(gamma!, Math.round(Math.sqrt(gamma!.length)));
}
