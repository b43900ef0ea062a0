import { choleskyInPlace, choleskySolveInPlace } from "../../numerics/cholesky";
import { WeightedSums } from "../../numerics/weighted-sums";
import { expit } from "../../model";
import { exp } from "../../numerics/elementary";
import type { FamilyId } from "./families";

/** More rounds than steps that shorten fourfold each time need. */
const MOST_ROUNDS = 12;
/** A step that is no shorter than this share of the one before is left to slower ways. */
const CONTRACTING = 0.25;
/** After a step shorter than this the next would be about its square: quadratic convergence. */
const LAST_STEP = 1e-6;

/** Models whose reweighted least squares are Newton's steps, and whose weights are their variance. */
export const hasNewton = (family: FamilyId): boolean =>
  family === "logistic" || family === "poisson";

/**
 * Newton's method for resamples of a logistic or Poisson model, from estimates that are near
 * (McCullagh & Nelder 1989, 2.5). It goes on only while steps shorten fast, so that the deviance
 * need not be watched, and leaves whatever does not to iterations that watch it. A row is looked at
 * once a round; cross-products come from `WeightedSums`.
 */
export class Newton {
  private readonly n: number;
  private readonly sums: WeightedSums;
  private readonly working: Float64Array;
  private readonly gradient: Float64Array;
  private readonly information: Float64Array;
  private readonly mean: (eta: number) => number;
  private readonly logistic: boolean;

  /**
   * @param z row-major n x p, columns centred and scaled, the first of ones
   * @param offset added to the linear predictor; none where null
   */
  constructor(
    family: FamilyId,
    private readonly z: Float64Array,
    private readonly p: number,
    private readonly y: Float64Array,
    private readonly offset: Float64Array | null,
  ) {
    this.n = y.length;
    this.logistic = family === "logistic";
    this.mean = this.logistic ? expit : exp;
    this.working = new Float64Array(this.n);
    this.gradient = new Float64Array(p);
    this.information = new Float64Array(p * p);
    this.sums = new WeightedSums({
      rows: this.n,
      width: p,
      values: z,
      extra: new Float64Array(0),
      members: null,
    });
  }

  /**
   * Moves `gamma` to the estimates under row weights.
   * @returns false where steps do not shorten fast enough; `gamma` is then of no use
   */
  solve(weights: Float64Array, gamma: Float64Array): boolean {
    const { information, gradient, sums, p } = this;
    let before = Infinity;
    for (let round = 0; round < MOST_ROUNDS; round++) {
      this.weigh(weights, gamma);
      sums.find(this.working);
      // The upper triangle, row by row, is the lower one, column by column.
      for (let j = 0; j < p; j++)
        for (let k = 0; k <= j; k++) information[j * p + k] = sums.cross[k * p + j]!;
      if (!(choleskyInPlace(information, p, p) > NEAR_SINGULAR)) return false;
      choleskySolveInPlace(information, p, p, gradient);
      let moved = 0;
      let largest = 0;
      for (let k = 0; k < p; k++) {
        gamma[k] = gamma[k]! + gradient[k]!;
        moved = Math.max(moved, Math.abs(gradient[k]!));
        largest = Math.max(largest, Math.abs(gamma[k]!));
      }
      moved /= 1 + largest;
      if (!(moved < Infinity) || (round > 0 && moved > CONTRACTING * before)) return false;
      if (moved < LAST_STEP) return true;
      before = moved;
    }
    return false;
  }

  /** The working weight of every row, and the gradient. */
  private weigh(weights: Float64Array, gamma: Float64Array): void {
    const { n, p, z, y, offset, working, gradient, mean, logistic } = this;
    gradient.fill(0);
    for (let i = 0, row = 0; i < n; i++, row += p) {
      const f = weights[i]!;
      if (f === 0) {
        working[i] = 0;
        continue;
      }
      let eta = offset ? offset[i]! : 0;
      for (let k = 0; k < p; k++) eta += z[row + k]! * gamma[k]!;
      const mu = mean(eta);
      working[i] = f * mu * (logistic ? 1 - mu : 1);
      const u = f * (y[i]! - mu);
      for (let k = 0; k < p; k++) gradient[k] = gradient[k]! + u * z[row + k]!;
    }
  }
}

/**
 * Share of a column that others do not explain: well above what counts as singular, since slower
 * ways decide there.
 */
const NEAR_SINGULAR = 1e-12;
