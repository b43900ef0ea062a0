import type { CovarianceRule, Kernel, KernelColumns, Resample } from "../../model";
import { choleskyInPlace, choleskySolveInPlace } from "../../numerics/cholesky";
import { dot, orthogonalFactor, solveUpper } from "../../numerics/orthogonal";
import type { RefitProblem } from "./refit-problem";
import { ResampledCovariance } from "./resampled-covariance";
import { restandardise } from "./restandardise";

/**
 * Below this share of unexplained variance a pivot is no longer trusted and the rows themselves are
 * factorised.
 */
const SMALL_PIVOT = 1e-8;

/**
 * Refits every equation from sums and cross-products of the standardised columns, without
 * allocating: each equation is a small Cholesky solve. Where a pivot is small the rows are
 * factorised instead.
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

  /**
   * Averages of products of moderators in the resample, in its own z-scores where the design is of
   * z-scores.
   */
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

  /**
   * The careful way for the rare near-singular replicate: orthogonalise the counted rows; false
   * when the rank rule fails.
   */
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
