import { EigenvalueDecomposition, Matrix } from "ml-matrix";
import { RandomStream, streamIndex } from "../../numerics/random";
import type { ArrowModel } from "./arrows";
import type { NormalLikelihood } from "./normal-likelihood";
import type { StartMoments } from "./start-values";

/**
 * Eigenvalues of the information, scaled to unit diagonal, below this share of the largest are
 * zero.
 */
const ZERO = 1e-9;
/** Parameters this large in an eigenvector of a zero are what cannot be told apart. */
const INVOLVED = 0.05;
/** How far points lie from the start, in standardised units. */
const AWAY = 0.3;
const ANY_SEED = 1;

export interface Rank {
  rank: number;
  /** Labels of the parameters that the data cannot tell apart; empty at full rank. */
  involved: string[];
}

/**
 * How many parameters the data can tell apart: the largest rank of the expected information at the
 * start and at two points near it, since a latent variable with two items is known only through its
 * covariances, which begin at zero.
 */
export function informationRank(
  likelihood: NormalLikelihood,
  models: readonly ArrowModel[],
  moments: readonly StartMoments[],
  start: Float64Array,
): Rank {
  const labels = models[0]!.parameters;
  let best: Rank = { rank: -1, involved: [] };
  const units = parameterUnits(models, moments);
  const stream = new RandomStream(ANY_SEED, streamIndex("moments", 0));
  for (let point = 0; point < 3 && best.rank < labels.length; point++) {
    const direction = Float64Array.from(start, () => (point === 0 ? 0 : stream.normal()));
    for (let away = AWAY; away > 0.001; away /= 2) {
      const theta = start.map((x, a) => x + away * direction[a]! * units[a]!);
      if (likelihood.at(theta) === null) continue;
      const found = rankOf(likelihood.information, labels);
      if (found.rank > best.rank) best = found;
      break;
    }
  }
  return best;
}

/** SDs of what each parameter is measured in: path sd / sd, covariance half sd sd, intercept sd. */
function parameterUnits(
  models: readonly ArrowModel[],
  moments: readonly StartMoments[],
): Float64Array {
  const units = new Float64Array(models[0]!.parameters.length).fill(1);
  models.forEach(({ slots, observed: p }, g) => {
    const { covariance } = moments[g]!;
    const markers = new Map(
      slots.flatMap((s) =>
        s.matrix === "A" && s.row < p && s.parameter < 0 && s.value !== 0
          ? [[s.column, s.row] as const]
          : [],
      ),
    );
    const sd = (i: number): number => {
      const at = i < p ? i : markers.get(i);
      return at === undefined ? 1 : Math.sqrt(covariance[at * p + at]!);
    };
    for (const { matrix, row, column, parameter } of slots) {
      if (parameter < 0) continue;
      units[parameter] =
        matrix === "A"
          ? sd(row) / sd(column)
          : matrix === "S"
            ? 0.5 * sd(row) * sd(column) * (row === column ? 0.5 : 1)
            : sd(row);
    }
  });
  return units;
}

function rankOf(information: Float64Array, labels: readonly string[]): Rank {
  const q = labels.length;
  const scale = labels.map((_, a) => Math.sqrt(information[a * q + a]!) || 1);
  const scaled = new Matrix(q, q);
  for (let a = 0; a < q; a++)
    for (let b = 0; b < q; b++) scaled.set(a, b, information[a * q + b]! / (scale[a]! * scale[b]!));
  const { realEigenvalues, eigenvectorMatrix } = new EigenvalueDecomposition(scaled, {
    assumeSymmetric: true,
  });
  const largest = Math.max(...realEigenvalues);
  const zero = realEigenvalues.flatMap((value, k) => (value <= ZERO * largest ? [k] : []));
  return {
    rank: q - zero.length,
    involved: labels.filter((_, a) =>
      zero.some((k) => Math.abs(eigenvectorMatrix.get(a, k)) > INVOLVED),
    ),
  };
}

/**
 * A smallest eigenvalue of sample correlations below this: one variable is a function of the
 * others.
 */
const SINGULAR = 1e-10;

/**
 * Observed variables that never vary, or that are a linear function of one another; empty where all
 * is well.
 */
export function singularVariables(names: readonly string[], covariance: Float64Array): string[] {
  const p = names.length;
  const constant = names.filter((_, i) => !(covariance[i * p + i]! > 0));
  if (constant.length > 0) return constant;
  const correlations = new Matrix(p, p);
  for (let i = 0; i < p; i++)
    for (let j = 0; j < p; j++)
      correlations.set(
        i,
        j,
        covariance[i * p + j]! / Math.sqrt(covariance[i * p + i]! * covariance[j * p + j]!),
      );
  const { realEigenvalues, eigenvectorMatrix } = new EigenvalueDecomposition(correlations, {
    assumeSymmetric: true,
  });
  const zero = realEigenvalues.flatMap((value, k) => (value < SINGULAR ? [k] : []));
  return names.filter((_, i) => zero.some((k) => Math.abs(eigenvectorMatrix.get(i, k)) > INVOLVED));
}

/** The smallest eigenvalue of a symmetric matrix. */
export function smallestEigenvalue(matrix: Float64Array, k: number): number {
  const dense = new Matrix(k, k);
  for (let i = 0; i < k; i++) for (let j = 0; j < k; j++) dense.set(i, j, matrix[i * k + j]!);
  return Math.min(...new EigenvalueDecomposition(dense, { assumeSymmetric: true }).realEigenvalues);
}
