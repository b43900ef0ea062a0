import type { CovarianceRule, ResampleCovariance } from "../../model";
import { WeightedSums } from "../../numerics/weighted-sums";
import { choleskyInPlace, choleskySolveInPlace } from "../../numerics/cholesky";
import type { CovarianceKind } from "../../study";
import { LEVERAGE_ONE, residualMultiplier } from "./covariance";
import type { RefitProblem } from "./refit-problem";
import { restandardise } from "./restandardise";

/** A pivot below this share leaves too few digits for a standard error. */
const SMALL_PIVOT = 1e-10;

/**
 * The joint covariance of all coefficients in a resample, by the formulas that hold in the sample:
 * a row drawn c times counts as c rows. With A = (X'X)^-1 of each equation, the block of equations
 * g and h is A_g M A_h, M being the sum of x_g x_h' weighted by residuals (HC) or the residual
 * covariance times X_g'X_h (classical). Everything is found in scores of the sample and turned into
 * the units of the coefficients at the end. Nothing is allocated per resample.
 */
export class ResampledCovariance implements ResampleCovariance {
  /** Coefficients of all equations. */
  readonly size: number;
  /** Row-major size x size, of the resample given last. */
  readonly values: Float64Array;
  private readonly fits: ScoreFit[];
  private readonly products: WeightedSums;
  private readonly weights: Float64Array;
  /**
   * Sums and cross-products of the columns, over the rows drawn; of the classical blocks and of
   * (X'X)^-1.
   */
  private readonly drawn: Sums;
  /** The same weighted by residuals. */
  private readonly weighted: Sums;
  /** M of all equations. */
  private readonly middle: Float64Array;
  /** From M to the covariance: A, then the units of the coefficients; blocks on the diagonal. */
  private readonly map: Float64Array;
  private readonly half: Float64Array;
  private readonly scratch: Float64Array;
  private readonly means: Float64Array;
  private readonly deviations: Float64Array;

  constructor(
    private readonly problem: RefitProblem,
    private readonly rule: CovarianceRule,
  ) {
    const { equations, width, n, z } = problem;
    this.fits = equations.map((_, g) => new ScoreFit(problem, g));
    this.products = new WeightedSums({
      rows: n,
      width,
      values: z,
      extra: new Float64Array(0),
      members: null,
    });
    this.weights = new Float64Array(n);
    const size = this.fits.reduce((sum, fit) => sum + fit.p, 0);
    const square = (): Float64Array => new Float64Array(size * size);
    const sums = (): Sums => ({
      count: 0,
      sums: new Float64Array(width),
      cross: new Float64Array(width * width),
      width,
    });
    this.size = size;
    this.values = square();
    this.middle = square();
    this.map = square();
    this.half = square();
    this.scratch = new Float64Array(size);
    this.drawn = sums();
    this.weighted = sums();
    this.means = new Float64Array(width);
    this.deviations = new Float64Array(width);
  }

  /**
   * @param counts how often each row was drawn
   * @returns false where the resample has no covariance (too collinear; a leverage of one under HC2
   *   to HC4)
   */
  find(counts: Float64Array): boolean {
    const { fits, drawn } = this;
    this.addUp(counts, drawn);
    for (const fit of fits) {
      if (
        drawn.count <= fit.p ||
        !fit.solve(drawn, counts) ||
        !fit.weigh(this.rule.kind, counts, drawn.count)
      )
        return false;
    }
    for (const g of fits) for (const h of fits) if (h.start <= g.start) this.block(g, h, counts);
    if (this.problem.restandardise) this.findMoments();
    for (const fit of fits) this.mapOf(fit);
    timesTransposed(this.map, this.middle, this.half, this.size);
    timesTransposed(this.half, this.map, this.values, this.size);
    return true;
  }

  private addUp(weights: Float64Array, into: Sums): void {
    let count = 0;
    for (let i = 0; i < weights.length; i++) count += weights[i]!;
    this.products.find(weights);
    into.count = count;
    into.sums.set(this.products.sums);
    into.cross.set(this.products.cross);
  }

  /** M of two equations, and its mirror. */
  private block(g: ScoreFit, h: ScoreFit, counts: Float64Array): void {
    const { size, middle, weighted, drawn, weights } = this;
    const { kind, crossEquations } = this.rule;
    const wanted = g === h || crossEquations === "joint";
    let factor = 1;
    if (wanted && kind === "classical") factor = residualCovariance(g, h, counts, drawn.count);
    else if (wanted) {
      for (let i = 0; i < counts.length; i++)
        weights[i] = counts[i] === 0 ? 0 : counts[i]! * g.scores[i]! * h.scores[i]!;
      this.addUp(weights, weighted);
    }
    const from = kind === "classical" ? drawn : weighted;
    for (let a = 0; a < g.p; a++) {
      for (let c = 0; c < h.p; c++) {
        const value = wanted ? factor * product(from, g.columns[a]!, h.columns[c]!) : 0;
        middle[(g.start + a) * size + h.start + c] = value;
        middle[(h.start + c) * size + g.start + a] = value;
      }
    }
  }

  /** The map of one equation, column by column: what a unit of X'y adds to each coefficient. */
  private mapOf(fit: ScoreFit): void {
    const { size, map, scratch } = this;
    const plan = this.problem.restandardise?.equations[fit.g];
    for (let c = 0; c < fit.p; c++) {
      fit.inUnits(c, scratch);
      if (plan) restandardise(plan, this.means, this.deviations, this.half, scratch, 0, 0);
      for (let a = 0; a < fit.p; a++) map[(fit.start + a) * size + fit.start + c] = scratch[a]!;
    }
  }

  /** Means and SDs of the columns in the resample. */
  private findMoments(): void {
    const { width, means, sds } = this.problem;
    const { sums, cross, count } = this.drawn;
    for (let j = 0; j < width; j++) {
      const centre = sums[j]! / count;
      this.means[j] = means[j]! + sds[j]! * centre;
      this.deviations[j] =
        sds[j]! * Math.sqrt((cross[j * width + j]! - count * centre * centre) / (count - 1));
    }
  }
}

/** Weighted sums of scores and of their products (upper triangle), and the sum of the weights. */
interface Sums {
  count: number;
  sums: Float64Array;
  cross: Float64Array;
  width: number;
}

/** The column of ones. */
const ONES = -1;

/** Sum of the products of two columns. */
function product({ count, sums, cross, width }: Sums, j: number, k: number): number {
  if (j === ONES) return k === ONES ? count : sums[k]!;
  if (k === ONES) return sums[j]!;
  return j <= k ? cross[j * width + k]! : cross[k * width + j]!;
}

/** out = A B' for square matrices: twice gives T V T' of a symmetric V. */
function timesTransposed(a: Float64Array, b: Float64Array, out: Float64Array, size: number): void {
  for (let i = 0; i < size; i++) {
    for (let j = 0; j < size; j++) {
      let sum = 0;
      for (let k = 0; k < size; k++) sum += a[i * size + k]! * b[j * size + k]!;
      out[i * size + j] = sum;
    }
  }
}

/** e_g'e_h / sqrt(df_g df_h), in scores of the outcomes. */
function residualCovariance(g: ScoreFit, h: ScoreFit, counts: Float64Array, count: number): number {
  let sum = 0;
  for (let i = 0; i < counts.length; i++) sum += counts[i]! * g.scores[i]! * h.scores[i]!;
  return sum / Math.sqrt((count - g.p) * (count - h.p));
}

/** One equation in a resample, all columns being scores of the sample. */
class ScoreFit {
  readonly p: number;
  /** First of its coefficients. */
  readonly start: number;
  /** Positions of its columns, the ones first. */
  readonly columns: number[];
  /** Residuals of the rows drawn, weighted as the kind of error asks. */
  readonly scores: Float64Array;
  /** Row-major n x p. */
  private readonly design: Float64Array;
  private readonly gram: Float64Array;
  private readonly inverse: Float64Array;
  private readonly b: Float64Array;

  constructor(
    private readonly problem: RefitProblem,
    readonly g: number,
  ) {
    const { n, width, z } = problem;
    const { columns, start } = problem.equations[g]!;
    const p = columns.length + 1;
    this.p = p;
    this.start = start;
    this.columns = [ONES, ...columns];
    this.scores = new Float64Array(n);
    this.design = new Float64Array(n * p).fill(1);
    for (let i = 0; i < n; i++)
      columns.forEach((j, a) => (this.design[i * p + a + 1] = z[i * width + j]!));
    this.gram = new Float64Array(p * p);
    this.inverse = new Float64Array(p * p);
    this.b = new Float64Array(p);
  }

  /**
   * Coefficients, (X'X)^-1 and residuals under the counts; false where the columns are too
   * collinear.
   */
  solve(drawn: Sums, counts: Float64Array): boolean {
    const { p, design, columns, gram, b, inverse, scores } = this;
    const { z, width } = this.problem;
    const { outcome } = this.problem.equations[this.g]!;
    for (let a = 0; a < p; a++) {
      b[a] = product(drawn, columns[a]!, outcome);
      for (let c = 0; c <= a; c++) gram[a * p + c] = product(drawn, columns[a]!, columns[c]!);
    }
    if (!(choleskyInPlace(gram, p, p) > SMALL_PIVOT)) return false;
    choleskySolveInPlace(gram, p, p, b);
    inverse.fill(0);
    for (let a = 0; a < p; a++) {
      inverse[a * p + a] = 1;
      choleskySolveInPlace(gram, p, p, inverse.subarray(a * p, a * p + p));
    }
    for (let i = 0; i < counts.length; i++) {
      if (counts[i] === 0) continue;
      let fitted = 0;
      for (let a = 0; a < p; a++) fitted += b[a]! * design[i * p + a]!;
      scores[i] = z[i * width + outcome]! - fitted;
    }
    return true;
  }

  /**
   * Weights the residuals; false where a row has a leverage of one and the kind cannot do with
   * that.
   */
  weigh(kind: CovarianceKind, counts: Float64Array, count: number): boolean {
    const { p, scores } = this;
    if (kind === "classical") return true;
    const needsLeverage = kind === "HC2" || kind === "HC3" || kind === "HC4";
    for (let i = 0; i < counts.length; i++) {
      if (counts[i] === 0) continue;
      const leverage = needsLeverage ? this.leverage(i) : 0;
      if (leverage > LEVERAGE_ONE) return false;
      scores[i] = scores[i]! * residualMultiplier(kind, leverage, count, p);
    }
    return true;
  }

  private leverage(i: number): number {
    const { p, design, inverse } = this;
    const at = i * p;
    let leverage = 0;
    for (let a = 0; a < p; a++) {
      let sum = 0;
      for (let c = 0; c < p; c++) sum += inverse[a * p + c]! * design[at + c]!;
      leverage += design[at + a]! * sum;
    }
    return leverage;
  }

  /** Column c of (X'X)^-1, from scores to the units of the columns. */
  inUnits(c: number, out: Float64Array): void {
    const { p, inverse } = this;
    const { means, sds } = this.problem;
    const { outcome, columns } = this.problem.equations[this.g]!;
    let intercept = sds[outcome]! * inverse[c * p]!;
    for (let a = 1; a < p; a++) {
      const j = columns[a - 1]!;
      out[a] = (sds[outcome]! * inverse[c * p + a]!) / sds[j]!;
      intercept -= out[a]! * means[j]!;
    }
    out[0] = intercept;
  }
}
