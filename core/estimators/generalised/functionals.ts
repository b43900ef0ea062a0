import { Block } from "./block";
import { CrossedBlock } from "./crossed-block";
import { familyOf } from "./families";
import type { Functional } from "./functional";
import { addGradient, offsetAt, predictorAt, type Shape } from "./shape";
import { innerMean, innerRule, type InnerRule } from "./inner-means";
import { ResampledMeans } from "./resampled-means";

/** Evaluates functionals, alone for resamples, or with the gradient and what each row adds. */
export class Functionals {
  private readonly rules: (InnerRule | null)[];
  private readonly inner = innerMean();
  private readonly blocks: (Block | null)[];
  private readonly crossed: (CrossedBlock | null)[];
  /** For resamples. */
  private readonly quick: ResampledMeans | null;

  constructor(
    private readonly shape: Shape,
    readonly list: readonly Functional[],
    fine: boolean,
    /** Which of them are wanted; all where null. */
    private readonly wanted: readonly boolean[] | null = null,
  ) {
    this.rules = list.map((f) =>
      f.kind === "nested"
        ? innerRule(shape.families[f.mediator]!, shape.families[f.outcome]!, fine)
        : f.kind === "block"
          ? innerRule("linear", shape.families[f.outcome]!, fine)
          : null,
    );
    this.blocks = list.map((f) => (f.kind === "block" ? new Block(shape, f.outcome, f) : null));
    this.crossed = list.map((f) =>
      f.kind === "crossed" ? new CrossedBlock(shape, f.outcome, f) : null,
    );
    this.quick = fine ? null : new ResampledMeans(shape, list, this.blocks);
  }

  /**
   * Writes the weighted mean of every functional to `out` at `to`.
   * @param theta parameters, from `at` on
   */
  values(
    theta: Float64Array,
    at: number,
    weights: Float64Array,
    total: number,
    out: Float64Array,
    to: number,
  ): void {
    this.quick?.begin();
    this.list.forEach((f, k) => {
      if (this.wanted && !this.wanted[k]) {
        out[to + k] = NaN;
        return;
      }
      const quick = this.quick?.sum(k, theta, at, weights) ?? null;
      if (quick !== null) {
        out[to + k] = quick / total;
        return;
      }
      let sum = 0;
      for (let i = 0; i < this.shape.n; i++) {
        const w = weights[i]!;
        if (w !== 0) sum += w * this.row(f, k, i, theta, at, null);
      }
      out[to + k] = sum / total;
    });
  }

  /**
   * The value of one row; its gradient in the parameters is added to `gradient` where that is
   * wanted.
   */
  row(
    f: Functional,
    k: number,
    i: number,
    theta: Float64Array,
    at: number,
    gradient: Float64Array | null,
  ): number {
    const { families } = this.shape;
    switch (f.kind) {
      case "response": {
        const family = familyOf(families[f.equation]!);
        const eta =
          offsetAt(this.shape, f.equation, i) +
          predictorAt(this.shape, f.equation, f.design, i, theta, at);
        if (gradient) addGradient(this.shape, gradient, f.equation, f.design, i, family.slope(eta));
        return family.mean(eta);
      }
      case "controlled": {
        const family = familyOf(families[f.equation]!);
        const eta =
          offsetAt(this.shape, f.equation, i) +
          predictorAt(this.shape, f.equation, f.base, i, theta, at) +
          f.at * predictorAt(this.shape, f.equation, f.slope, i, theta, at);
        if (gradient) {
          const d = family.slope(eta);
          addGradient(this.shape, gradient, f.equation, f.base, i, d);
          addGradient(this.shape, gradient, f.equation, f.slope, i, d * f.at);
        }
        return family.mean(eta);
      }
      case "marginal": {
        const family = familyOf(families[f.equation]!);
        const eta =
          offsetAt(this.shape, f.equation, i) +
          predictorAt(this.shape, f.equation, f.design, i, theta, at);
        const change = predictorAt(this.shape, f.equation, f.change, i, theta, at);
        if (gradient) {
          addGradient(
            this.shape,
            gradient,
            f.equation,
            f.design,
            i,
            family.curvature(eta) * change,
          );
          addGradient(this.shape, gradient, f.equation, f.change, i, family.slope(eta));
        }
        return family.slope(eta) * change;
      }
      case "nested":
        return this.nested(f, k, i, theta, at, gradient);
      case "crossed":
        return this.crossed[k]!.row(i, theta, at, gradient);
      case "block":
        return this.blocks[k]!.row(i, theta, at, this.rules[k]!, this.inner, gradient);
    }
  }

  private nested(
    f: Extract<Functional, { kind: "nested" }>,
    k: number,
    i: number,
    theta: Float64Array,
    at: number,
    gradient: Float64Array | null,
  ): number {
    const { inner } = this;
    const { variance } = this.shape;
    const a =
      offsetAt(this.shape, f.outcome, i) + predictorAt(this.shape, f.outcome, f.base, i, theta, at);
    const b = predictorAt(this.shape, f.outcome, f.slope, i, theta, at);
    const l =
      offsetAt(this.shape, f.mediator, i) +
      predictorAt(this.shape, f.mediator, f.design, i, theta, at);
    const place = variance[f.mediator]!;
    this.rules[k]!(a, b, l, place < 0 ? 0 : theta[at + place]!, inner);
    if (gradient) {
      addGradient(this.shape, gradient, f.outcome, f.base, i, inner.da);
      addGradient(this.shape, gradient, f.outcome, f.slope, i, inner.db);
      addGradient(this.shape, gradient, f.mediator, f.design, i, inner.dl);
      if (place >= 0) gradient[place] = gradient[place]! + inner.ds;
    }
    return inner.value;
  }
}
