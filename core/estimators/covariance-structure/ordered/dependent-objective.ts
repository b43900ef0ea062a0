import type { ArrowModel } from "../arrows";
import { MomentObjective, type WeightedMoments } from "../moment-objective";

/**
 * Weighted moments of a model in which residual variances of ordered variables are no parameters of
 * their own: what stands behind such a variable has a variance of one, so what is not explained
 * follows from all other parameters (Muthen 1984). Derivatives are total ones. One group.
 */
export class DependentObjective extends MomentObjective {
  private readonly total: number;
  /** Ordered variables that have a residual variance, in causal order, with its parameter. */
  private readonly places: { variable: number; parameter: number }[];
  private readonly full: Float64Array;
  /** d(dependent variance) / d(parameter), dependents x q; null rows of zeros included. */
  private readonly turned: Float64Array;

  /**
   * @param model its last parameters are the dependent variances
   * @param dependents ordered variables by place, in the order of those parameters
   */
  constructor(model: ArrowModel, group: WeightedMoments, dependents: readonly number[]) {
    const total = model.parameters.length;
    super([model], [group], true, total - dependents.length);
    this.total = total;
    const first = total - dependents.length;
    this.places = model.order.flatMap((variable) => {
      const at = dependents.indexOf(variable);
      return at < 0 ? [] : [{ variable, parameter: first + at }];
    });
    this.full = new Float64Array(total);
    this.turned = new Float64Array(this.places.length * this.q);
  }

  override valueAt(theta: ArrayLike<number>): number {
    return super.valueAt(this.completed(theta));
  }

  /** All parameters: those given, then the variances that follow. */
  completed(theta: ArrayLike<number>): Float64Array {
    const { full, q, places } = this;
    const implied = this.implied[0]!;
    const { v, B, E } = implied;
    for (let a = 0; a < q; a++) full[a] = theta[a]!;
    full.fill(0, q);
    implied.at(full);
    // Var(y*) is linear in the residual variances; causes come first.
    for (let k = 0; k < places.length; k++) {
      const { variable, parameter } = places[k]!;
      let rest = 1 - E[variable * v + variable]!;
      for (let j = 0; j < k; j++) {
        const effect = B[variable * v + places[j]!.variable]!;
        rest -= effect * effect * full[places[j]!.parameter]!;
      }
      full[parameter] = rest;
    }
    return full;
  }

  override jacobian(g: number): (Float64Array | null)[] {
    const all = super.jacobian(g);
    const { q, places, turned } = this;
    const { p } = this.implied[g]!;
    const size = p + (p * (p + 1)) / 2;
    turned.fill(0);
    const diagonal = (i: number): number => p + i * p - (i * (i - 1)) / 2;
    return all.slice(0, q).map((own, a) => {
      // What nothing depends on stays as it is.
      const column = own ?? new Float64Array(size);
      let any = own !== null;
      for (let k = 0; k < places.length; k++) {
        const { variable } = places[k]!;
        // What the parameter and the variances before this one have moved Var(y*) by is taken back.
        const change = -column[diagonal(variable)]!;
        turned[k * q + a] = change;
        const along = all[places[k]!.parameter];
        if (change === 0 || !along) continue;
        any = true;
        for (let m = 0; m < size; m++) column[m] = column[m]! + change * along[m]!;
      }
      return any ? column : null;
    });
  }

  /** A covariance of the parameters as one of all, the dependent variances included. */
  spread(covariance: Float64Array): Float64Array {
    const { q, total, places, turned } = this;
    this.jacobian(0);
    const rows = new Float64Array(total * q);
    for (let a = 0; a < q; a++) rows[a * q + a] = 1;
    places.forEach(({ parameter }, k) => {
      for (let a = 0; a < q; a++) rows[parameter * q + a] = turned[k * q + a]!;
    });
    const out = new Float64Array(total * total);
    const half = new Float64Array(q);
    for (let i = 0; i < total; i++) {
      half.fill(0);
      for (let a = 0; a < q; a++) {
        const weight = rows[i * q + a]!;
        if (weight !== 0)
          for (let b = 0; b < q; b++) half[b] = half[b]! + weight * covariance[a * q + b]!;
      }
      for (let j = 0; j <= i; j++) {
        let sum = 0;
        for (let b = 0; b < q; b++) sum += half[b]! * rows[j * q + b]!;
        out[i * total + j] = out[j * total + i] = sum;
      }
    }
    return out;
  }
}
