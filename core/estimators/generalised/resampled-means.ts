import { Phi } from "../../numerics/distributions";
import { exp } from "../../numerics/elementary";
import type { Block } from "./block";
import { familyOf, isBinary, isCount, type FamilyId } from "./families";
import type { Functional } from "./functional";
import { tabledLogisticSum } from "./inner-means";
import { Predictors, type Predictor } from "./predictors";
import type { Shape } from "./shape";

/** The parts of a mean whose predictors are shared with those of other means. */
type Parts =
  | { kind: "response"; of: Predictor }
  | { kind: "controlled"; base: Predictor; slope: Predictor; at: number }
  | { kind: "nested"; base: Predictor; slope: Predictor; mediator: Predictor }
  | { kind: "block"; block: Block };

/** Another factor than this in an exponential is taken as it is. */
const FURTHEST = 300;

/**
 * Weighted sums of means over the rows, for resamples: the same numbers as row by row, to about
 * 1e-7, by what the means have in common. Where the mediator does the same in every row, a normal
 * mediator makes the predictor of the outcome normal with one variance, and a binary one makes two
 * predictors of it that differ by a number.
 */
export class ResampledMeans {
  private readonly predictors: Predictors;
  private readonly parts: (Parts | null)[];
  private readonly etas: Float64Array;
  private readonly shares: Float64Array;
  private readonly without: Float64Array;

  constructor(
    private readonly shape: Shape,
    list: readonly Functional[],
    blocks: readonly (Block | null)[],
  ) {
    this.predictors = new Predictors(shape);
    this.etas = new Float64Array(shape.n);
    this.shares = new Float64Array(shape.n);
    this.without = new Float64Array(shape.n);
    this.parts = list.map((f, k) => this.partsOf(f, blocks[k]!));
  }

  private partsOf(f: Functional, block: Block | null): Parts | null {
    const { predictors } = this;
    switch (f.kind) {
      case "response":
        return { kind: "response", of: predictors.add(f.equation, f.design) };
      case "controlled":
        return {
          kind: "controlled",
          base: predictors.add(f.equation, f.base),
          slope: predictors.add(f.equation, f.slope, true),
          at: f.at,
        };
      case "nested": {
        const slope = predictors.add(f.outcome, f.slope, true);
        // Counted mediators are summed over row by row.
        if (slope.common || isCount(this.shape.families[f.mediator]!)) return null;
        return {
          kind: "nested",
          base: predictors.add(f.outcome, f.base),
          slope,
          mediator: predictors.add(f.mediator, f.design),
        };
      }
      case "block":
        return this.shape.families[f.outcome] === "logistic"
          ? { kind: "block", block: block! }
          : null;
      case "crossed":
      case "marginal":
        return null;
    }
  }

  /** Other parameters or weights from here on. */
  begin(): void {
    this.predictors.begin();
  }

  /**
   * Σ w x the mean of functional k; null where it has to be found row by row.
   * @param theta parameters, from `at` on
   */
  sum(k: number, theta: Float64Array, at: number, weights: Float64Array): number | null {
    const parts = this.parts[k];
    switch (parts?.kind) {
      case undefined:
        return null;
      case "response": {
        const shift = this.predictors.shift(parts.of, theta, at);
        return this.sumOf(parts.of, shift, theta, at, weights);
      }
      case "controlled": {
        const { base, slope } = parts;
        const shift =
          this.predictors.shift(base, theta, at) +
          parts.at * this.predictors.shift(slope, theta, at);
        if (!slope.common) return this.sumOf(base, shift, theta, at, weights);
        this.combine(base, slope, parts.at, shift, theta, at);
        return weightedSum(this.etas, weights, familyOf(this.shape.families[base.equation]!).mean);
      }
      case "nested":
        return isBinary(this.shape.families[parts.mediator.equation]!)
          ? this.overBinary(parts, theta, at, weights)
          : this.overNormal(parts, theta, at, weights);
      case "block":
        return this.overBlock(parts.block, theta, at, weights);
    }
  }

  /** η of one design plus a multiple of that of another plus a number, in `etas`. */
  private combine(
    base: Predictor,
    other: Predictor,
    factor: number,
    shift: number,
    theta: Float64Array,
    at: number,
  ): void {
    const a = this.predictors.etas(base, theta, at);
    const b = this.predictors.etas(other, theta, at);
    const { etas } = this;
    for (let i = 0; i < etas.length; i++)
      etas[i] = (a ? a[i]! : 0) + (b ? factor * b[i]! : 0) + shift;
  }

  /** Mean response of every row at its predictor plus a number. */
  private fill(
    predictor: Predictor,
    shift: number,
    theta: Float64Array,
    at: number,
    out: Float64Array,
  ): void {
    const family = this.shape.families[predictor.equation]!;
    const exponentials = this.factors(predictor, family, shift, theta, at);
    if (exponentials) {
      const factor = exp(-shift);
      for (let i = 0; i < out.length; i++) out[i] = 1 / (1 + factor * exponentials[i]!);
      return;
    }
    const etas = this.predictors.etas(predictor, theta, at);
    const { mean } = familyOf(family);
    for (let i = 0; i < out.length; i++) out[i] = mean((etas ? etas[i]! : 0) + shift);
  }

  /** Σ w mean response. */
  private sumOf(
    predictor: Predictor,
    shift: number,
    theta: Float64Array,
    at: number,
    weights: Float64Array,
  ): number {
    const family = this.shape.families[predictor.equation]!;
    const exponentials = this.factors(predictor, family, shift, theta, at);
    let sum = 0;
    if (exponentials) {
      const factor = exp(-shift);
      for (let i = 0; i < weights.length; i++) sum += weights[i]! / (1 + factor * exponentials[i]!);
      return sum;
    }
    const etas = this.predictors.etas(predictor, theta, at);
    const { mean } = familyOf(family);
    for (let i = 0; i < weights.length; i++) {
      const w = weights[i]!;
      if (w !== 0) sum += w * mean((etas ? etas[i]! : 0) + shift);
    }
    return sum;
  }

  /** exp(-η) of logistic responses, where a factor more stays within the range of numbers. */
  private factors(
    predictor: Predictor,
    family: FamilyId,
    shift: number,
    theta: Float64Array,
    at: number,
  ): Float64Array | null {
    return family === "logistic" && Math.abs(shift) < FURTHEST
      ? this.predictors.exponentials(predictor, theta, at)
      : null;
  }

  private overBinary(
    { base, slope, mediator }: Extract<Parts, { kind: "nested" }>,
    theta: Float64Array,
    at: number,
    weights: Float64Array,
  ): number {
    const { predictors, shares, without, etas: within } = this;
    const shift = predictors.shift(base, theta, at);
    this.fill(mediator, predictors.shift(mediator, theta, at), theta, at, shares);
    this.fill(base, shift, theta, at, without);
    this.fill(base, shift + predictors.shift(slope, theta, at), theta, at, within);
    let sum = 0;
    for (let i = 0; i < weights.length; i++)
      sum += weights[i]! * ((1 - shares[i]!) * without[i]! + shares[i]! * within[i]!);
    return sum;
  }

  private overNormal(
    { base, slope, mediator }: Extract<Parts, { kind: "nested" }>,
    theta: Float64Array,
    at: number,
    weights: Float64Array,
  ): number {
    const { predictors, etas, shape } = this;
    const b = predictors.shift(slope, theta, at);
    const shift = predictors.shift(base, theta, at) + b * predictors.shift(mediator, theta, at);
    this.combine(base, mediator, b, shift, theta, at);
    const variance = b * b * theta[at + shape.variance[mediator.equation]!]!;
    switch (shape.families[base.equation]!) {
      case "linear":
        return weightedSum(etas, weights, (eta) => eta);
      case "logistic":
        return tabledLogisticSum(etas, weights, Math.sqrt(variance));
      case "probit": {
        const q = Math.sqrt(1 + variance);
        return weightedSum(etas, weights, (eta) => Phi(eta / q));
      }
      default:
        return weightedSum(etas, weights, (eta) => exp(eta + variance / 2));
    }
  }

  /** Where the joint scatter of the mediators does the same in every row. */
  private overBlock(
    block: Block,
    theta: Float64Array,
    at: number,
    weights: Float64Array,
  ): number | null {
    const { etas } = this;
    let variance = 0;
    for (let i = 0; i < etas.length; i++) {
      block.moments(i, theta, at);
      if (i === 0) variance = block.variance;
      else if (block.variance !== variance) return null;
      etas[i] = block.centre;
    }
    return tabledLogisticSum(etas, weights, Math.sqrt(variance));
  }
}

function weightedSum(
  etas: Float64Array,
  weights: Float64Array,
  mean: (eta: number) => number,
): number {
  let sum = 0;
  for (let i = 0; i < etas.length; i++) {
    const w = weights[i]!;
    if (w !== 0) sum += w * mean(etas[i]!);
  }
  return sum;
}
