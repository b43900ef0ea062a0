import { EigenvalueDecomposition, Matrix } from "ml-matrix";

/** Roots in descending order with their vectors: `vectors[i][m]` is element i of vector m. */
export interface Roots {
  values: number[];
  vectors: number[][];
}

/** Of a symmetric matrix. */
export function rootsOf(symmetric: number[][]): Roots {
  const found = new EigenvalueDecomposition(new Matrix(symmetric), { assumeSymmetric: true });
  const order = found.realEigenvalues
    .map((_, m) => m)
    .sort((a, b) => found.realEigenvalues[b]! - found.realEigenvalues[a]!);
  return {
    values: order.map((m) => found.realEigenvalues[m]!),
    vectors: symmetric.map((_, i) => order.map((m) => found.eigenvectorMatrix.get(i, m))),
  };
}
