import { choleskyInPlace, choleskySolveInPlace } from "../../numerics/cholesky";
import { dot, orthogonalFactor, solveUpper } from "../../numerics/orthogonal";
import { mean } from "../../numerics/moments";
import { columnsByKey, type Averages, type Design } from "../../design";
import {
  parameterAt,
  sdLabel,
  type CovarianceRule,
  type Kernel,
  type KernelColumns,
  type Parameters,
  type Resample,
} from "../../model";
import { ResampledCovariance } from "./resampled-covariance";
import {
  averageRules,
  restandardisations,
  restandardise,
  type AverageRule,
  type Restandardisations,
} from "./restandardise";

/** Below this share of unexplained variance a pivot is no longer trusted and the rows themselves are factorised. */
const SMALL_PIVOT = 1e-8;

/** What a refit needs, as plain arrays that can be posted to a worker. */
export interface RefitProblem {
  n: number;
  /** Number of distinct columns, outcomes included. */
  width: number;
  /** Row-major n x width: columns standardised by the full sample's means and SDs. */
  z: Float64Array;
  means: Float64Array;
  sds: Float64Array;
  /** Column positions of each equation's outcome and predictors, and where its coefficients go. */
  equations: { outcome: number; columns: number[]; start: number }[];
  /** Where the SD of each column goes in the parameter vector. */
  sdTargets: Int32Array;
  size: number;
  /** Averages of products of moderators, the last parameters; `rules` where each resample has z-scores of its own. */
  averages: { count: number; first: number; rows: Float64Array; rules: AverageRule[] | null };
  /** Only where the design is of z-scores: each resample then has z-scores of its own. */
  restandardise: Restandardisations | null;
}

/** @param averages that the theory asks for; their parameters are the last ones */
export function refitProblem(
  design: Design,
  parameters: Parameters,
  averages: Averages,
): RefitProblem {
  const values = new Map<string, Float64Array>();
  for (const equation of design.equations) {
    for (const column of equation.columns) values.set(column.key, column.values);
    values.set(equation.outcome, equation.y);
  }
  const keys = [...values.keys()];
  const width = keys.length;
  const n = design.n;
  const z = new Float64Array(n * width);
  const means = new Float64Array(width);
  const sds = new Float64Array(width);
  keys.forEach((key, j) => {
    const column = values.get(key)!;
    const centre = mean(column);
    let squares = 0;
    for (let i = 0; i < n; i++) squares += (column[i]! - centre) ** 2;
    const sd = Math.sqrt(squares / (n - 1));
    means[j] = centre;
    sds[j] = sd;
    for (let i = 0; i < n; i++) z[i * width + j] = (column[i]! - centre) / sd;
  });
  const position = (key: string): number => keys.indexOf(key);
  const columns = columnsByKey(design);
  const isScore = (key: string): boolean =>
    columns.get(key)?.contrast === null && !columns.get(key)!.components;
  const size = parameters.labels.length;
  return {
    n,
    width,
    z,
    means,
    sds,
    equations: design.equations.map((equation, g) => ({
      outcome: position(equation.outcome),
      columns: equation.columns.map((c) => position(c.key)),
      start: parameters.equations[g]!.start,
    })),
    sdTargets: Int32Array.from(keys, (key) => parameterAt(parameters, sdLabel(key))),
    size,
    averages: {
      count: averages.products.length,
      first: size - averages.products.length,
      rows: averages.rows(design),
      rules: design.standardised ? averageRules(averages.products, isScore, position) : null,
    },
    restandardise: restandardisations(design, position),
  };
}

/**
 * Refits every equation from sums and cross-products of the standardised columns, without allocating: each equation is a
 * small Cholesky solve. Where a pivot is small the rows are factorised instead.
 */
export class LeastSquaresKernel implements Kernel {
  readonly n: number;
  readonly size: number;
  readonly columns: KernelColumns;
  readonly firstFixed: number;
  private readonly matrix: Float64Array;
  private readonly rhs: Float64Array;
  /** Means and SDs of the columns in the resample at hand. */
  private readonly means: Float64Array;
  private readonly deviations: Float64Array;
  private readonly scratch: Float64Array;

  constructor(private readonly problem: RefitProblem) {
    const { n, width, size, z, averages } = problem;
    this.n = n;
    this.size = size;
    this.columns = { width, values: z, extra: averages.rows };
    this.firstFixed = averages.first;
    this.matrix = new Float64Array(width * width);
    this.rhs = new Float64Array(width);
    this.means = new Float64Array(width);
    this.deviations = new Float64Array(width);
    this.scratch = new Float64Array(width + 1);
  }

  covariance = (rule: CovarianceRule): ResampledCovariance =>
    new ResampledCovariance(this.problem, rule);

  refit(resample: Resample, out: Float64Array, offset: number): boolean {
    const { width, sds, sdTargets, equations, restandardise: plans } = this.problem;
    const { means, deviations } = this;
    const { total, sums, cross } = resample;
    for (let j = 0; j < width; j++) {
      for (let k = j; k < width; k++) {
        const value = cross[j * width + k]! - (sums[j]! * sums[k]!) / total;
        cross[j * width + k] = value;
        cross[k * width + j] = value;
      }
      means[j] = this.problem.means[j]! + (sds[j]! * sums[j]!) / total;
      deviations[j] = sds[j]! * Math.sqrt(Math.max(0, cross[j * width + j]!) / (total - 1));
      out[offset + sdTargets[j]!] = deviations[j]!;
    }
    for (let g = 0; g < equations.length; g++) {
      if (!this.solveEquation(equations[g]!, resample, out, offset)) return false;
      if (plans)
        restandardise(
          plans.equations[g]!,
          means,
          deviations,
          this.scratch,
          out,
          offset + equations[g]!.start,
        );
    }
    this.writeAverages(resample, out, offset);
    if (plans)
      for (let k = 0; k < plans.scores.length; k++) out[offset + sdTargets[plans.scores[k]!]!] = 1;
    return true;
  }

  /** Averages of products of moderators in the resample, in its own z-scores where the design is of z-scores. */
  private writeAverages(
    { total, extra: averages }: Resample,
    out: Float64Array,
    offset: number,
  ): void {
    const { means, deviations } = this;
    const { first, rules } = this.problem.averages;
    for (let k = 0; k < averages.length; k++) {
      if (!rules) {
        out[offset + first + k] = averages[k]! / total;
        continue;
      }
      const { terms, scales } = rules[k]!;
      let value = 0;
      for (const { source, means: rest } of terms) {
        let term = source < 0 ? 1 : averages[source]! / total;
        for (let j = 0; j < rest.length; j++) term *= -means[rest[j]!]!;
        value += term;
      }
      for (let j = 0; j < scales.length; j++) value /= deviations[scales[j]!]!;
      out[offset + first + k] = value;
    }
  }

  private solveEquation(
    { outcome, columns, start }: RefitProblem["equations"][number],
    resample: Resample,
    out: Float64Array,
    offset: number,
  ): boolean {
    const { width, sds } = this.problem;
    const { matrix, rhs, means } = this;
    const { total, cross } = resample;
    const k = columns.length;
    if (total <= k + 1) return false;
    let trusted = true;
    for (let a = 0; a < k; a++) {
      const row = columns[a]! * width;
      for (let c = 0; c <= a; c++) matrix[a * width + c] = cross[row + columns[c]!]!;
      if (!(cross[row + columns[a]!]! > SMALL_PIVOT * total)) trusted = false;
      rhs[a] = cross[row + outcome]!;
    }
    if (trusted && choleskyInPlace(matrix, k, width) > SMALL_PIVOT)
      choleskySolveInPlace(matrix, k, width, rhs);
    else if (!this.solveByRows(outcome, columns, resample.weights())) return false;
    const sdY = sds[outcome]!;
    let intercept = means[outcome]!;
    for (let a = 0; a < k; a++) {
      const j = columns[a]!;
      const slope = (rhs[a]! * sdY) / sds[j]!;
      out[offset + start + 1 + a] = slope;
      intercept -= slope * means[j]!;
    }
    out[offset + start] = intercept;
    return true;
  }

  /** The careful way for the rare near-singular replicate: orthogonalise the counted rows; false when the rank rule fails. */
  private solveByRows(outcome: number, columns: number[], counts: Float64Array): boolean {
    const { n, width, z } = this.problem;
    const rows: number[] = [];
    for (let i = 0; i < n; i++) if (counts[i]! > 0) rows.push(i);
    const weights = rows.map((i) => counts[i]!);
    const picked = columns.map((j) => Float64Array.from(rows, (i) => z[i * width + j]!));
    if (picked.some((column) => column.every((value) => value === column[0]))) return false;
    const factor = orthogonalFactor(picked, weights);
    if (factor.dependent) return false;
    const total = weights.reduce((sum, w) => sum + w, 0);
    const centre =
      rows.reduce((sum, i, at) => sum + weights[at]! * z[i * width + outcome]!, 0) / total;
    const y = Float64Array.from(
      rows,
      (i, at) => Math.sqrt(weights[at]!) * (z[i * width + outcome]! - centre),
    );
    const unit = solveUpper(
      factor.r,
      columns.length,
      factor.q.map((q) => dot(q, y)),
    );
    for (let a = 0; a < columns.length; a++) this.rhs[a] = unit[a]! / factor.lengths[a]!;
    return true;
  }
}
