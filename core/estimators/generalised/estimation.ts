import type { Functional } from "./functional";
import { Functionals } from "./functionals";
import { pairOf, type Shape } from "./shape";
import { GeneralisedFit, sandwich, type Equation, type FitEnding } from "./generalised-fit";

/** Everything that is estimated, as plain data for workers. */
export interface EstimationPlan {
  n: number;
  equations: Equation[];
  functionals: Functional[];
  /** Pairs of linear equations whose errors may go together (mediators side by side). */
  related?: [number, number][];
  /**
   * Pairs of linear equations whose residual covariance is a parameter, because a mean depends on
   * it.
   */
  together?: [number, number][];
  /** Which functionals resamples need; all where it is not said. */
  wanted?: boolean[];
}

/** Estimates all equations under row weights, then the means that effects are made of. */
export class Estimation {
  readonly fits: GeneralisedFit[];
  readonly shape: Shape;
  /** Coefficients and residual variances. */
  readonly estimated: number;
  /** With the functionals. */
  readonly size: number;
  private readonly functionals: Functionals;
  private ones: Float64Array | null = null;

  constructor(
    readonly plan: EstimationPlan,
    fine: boolean,
  ) {
    this.fits = plan.equations.map((e) => new GeneralisedFit(e));
    this.shape = shapeOf(plan);
    this.estimated =
      plan.equations.reduce((sum, e) => sum + e.columns, 0) +
      plan.equations.filter((e) => e.family === "linear").length +
      (plan.together?.length ?? 0);
    this.size = this.estimated + plan.functionals.length;
    this.functionals = new Functionals(
      this.shape,
      plan.functionals,
      fine,
      fine ? null : (plan.wanted ?? null),
    );
    // Resamples begin where the sample ends.
    if (!fine) for (const fit of this.fits) fit.startFrom(new Float64Array(plan.n).fill(1));
  }

  /**
   * Writes the parameters to `out` from `at` on. An equation that cannot be fitted has none (NaN),
   * and the others keep theirs, so that no sentence changes another's numbers.
   * @returns how the first equation that failed ended, and whether none was left
   */
  estimate(
    weights: Float64Array,
    total: number,
    out: Float64Array,
    at: number,
  ): { ending: Exclude<FitEnding, "converged">; all: boolean } | null {
    const { fits, shape, functionals } = this;
    let first: Exclude<FitEnding, "converged"> | null = null;
    let failed = 0;
    for (let e = 0; e < fits.length; e++) {
      const fit = fits[e]!;
      const ending = fit.fit(weights);
      const place = shape.variance[e]!;
      if (ending !== "converged") {
        first ??= ending;
        failed += 1;
        const from = at + shape.start[e]!;
        out.fill(NaN, from, from + shape.columns[e]!);
        if (place >= 0) out[at + place] = NaN;
        continue;
      }
      out.set(fit.beta, at + shape.start[e]!);
      if (place >= 0) out[at + place] = fit.deviance / (total - fit.equation.columns);
    }
    for (const [j, k] of this.plan.together ?? [])
      out[at + shape.covariance.get(pairOf(j, k))!] =
        Number.isNaN(out[at + shape.start[j]!]!) || Number.isNaN(out[at + shape.start[k]!]!)
          ? NaN
          : this.covarianceOf(j, k, weights, total);
    functionals.values(out, at, weights, total, out, at + this.estimated);
    return first && { ending: first, all: failed === fits.length };
  }

  /** Σ w e_j e_k over sqrt((n - p_j)(n - p_k)). */
  private covarianceOf(j: number, k: number, weights: Float64Array, total: number): number {
    const [a, b] = [this.fits[j]!, this.fits[k]!];
    let sum = 0;
    for (let i = 0; i < weights.length; i++)
      if (weights[i] !== 0)
        sum += weights[i]! * (a.equation.y[i]! - a.mu[i]!) * (b.equation.y[i]! - b.mu[i]!);
    return sum / Math.sqrt((total - a.equation.columns) * (total - b.equation.columns));
  }

  /** Writes the means that follow from coefficients and variances, over the rows of the sample. */
  follow(theta: Float64Array): void {
    const { n } = this.plan;
    this.ones ??= new Float64Array(n).fill(1);
    this.functionals.values(theta, 0, this.ones, n, theta, this.estimated);
  }

  /**
   * Covariances of all parameters at a fit with weights of one: by the models, each equation's
   * information and Var(s²) = 2 s⁴/(n - p), with covariates held fixed; and robust, from the
   * influence of every row on everything (Huber 1967; White 1980). `held` has the robust errors of
   * the coefficients with the rows of the sample held fixed where means are taken over them.
   */
  covariances(theta: Float64Array): Record<"classical" | "robust" | "held", Float64Array> {
    const { size, estimated, shape, plan } = this;
    const { n } = plan;
    const inverse = this.fits.map((fit) => fit.outward(fit.innerInverse()));
    const v = new Float64Array(estimated * estimated);
    const influence = new Float64Array(n * size);
    this.fits.forEach((fit, e) => {
      const from = shape.start[e]!;
      const p = shape.columns[e]!;
      const place = shape.variance[e]!;
      const s2 = place >= 0 ? theta[place]! : 1;
      for (let j = 0; j < p; j++)
        for (let k = 0; k < p; k++)
          v[(from + j) * estimated + from + k] = s2 * inverse[e]![j * p + k]!;
      const own = fit.influence(inverse[e]!);
      for (let i = 0; i < n; i++)
        for (let j = 0; j < p; j++) influence[i * size + from + j] = own[i * p + j]!;
      if (place < 0) return;
      v[place * estimated + place] = (2 * s2 * s2) / (n - p);
      for (let i = 0; i < n; i++) {
        const residual = fit.equation.y[i]! - fit.mu[i]!;
        influence[i * size + place] = (residual * residual * n) / (n - p) - s2;
      }
    });
    this.relate(v, inverse);
    this.scatterTogether(theta, v, influence);
    const gradients = this.gradients(theta, influence);
    const jacobian = new Float64Array(size * estimated);
    for (let j = 0; j < estimated; j++) jacobian[j * estimated + j] = 1;
    jacobian.set(gradients, estimated * estimated);
    const robust = crossed(influence, n, size);
    const own = Float64Array.from(
      { length: estimated * estimated },
      (_, at) => robust[Math.floor(at / estimated) * size + (at % estimated)]!,
    );
    return {
      classical: sandwich(jacobian, v, size, estimated),
      robust,
      held: sandwich(jacobian, own, size, estimated),
    };
  }

  /**
   * Coefficients of mediators side by side go together as their residuals do (Zellner 1962): s_jk
   * (Zj'Zj)⁻¹ Zj'Zk (Zk'Zk)⁻¹, with s_jk = e_j'e_k / sqrt((n - p_j)(n - p_k)).
   */
  private relate(v: Float64Array, inverse: readonly Float64Array[]): void {
    const { plan, shape, estimated, fits } = this;
    const { n } = plan;
    for (const [j, k] of plan.related ?? []) {
      if (shape.variance[j]! < 0 || shape.variance[k]! < 0) continue;
      const [pj, pk] = [shape.columns[j]!, shape.columns[k]!];
      const [a, b] = [fits[j]!, fits[k]!];
      let together = 0;
      const cross = new Float64Array(pj * pk);
      for (let i = 0; i < n; i++) {
        together += (a.equation.y[i]! - a.mu[i]!) * (b.equation.y[i]! - b.mu[i]!);
        for (let r = 0; r < pj; r++)
          for (let c = 0; c < pk; c++)
            cross[r * pk + c] =
              cross[r * pk + c]! + a.equation.design[i * pj + r]! * b.equation.design[i * pk + c]!;
      }
      const s = together / Math.sqrt((n - pj) * (n - pk));
      for (let r = 0; r < pj; r++)
        for (let c = 0; c < pk; c++) {
          let sum = 0;
          for (let m = 0; m < pj; m++)
            for (let q = 0; q < pk; q++)
              sum += inverse[j]![r * pj + m]! * cross[m * pk + q]! * inverse[k]![q * pk + c]!;
          const [row, column] = [shape.start[j]! + r, shape.start[k]! + c];
          v[row * estimated + column] = s * sum;
          v[column * estimated + row] = s * sum;
        }
    }
  }

  /**
   * Residual covariances that are parameters: their covariance where errors are normal, and the
   * influence of every row.
   */
  private scatterTogether(theta: Float64Array, v: Float64Array, influence: Float64Array): void {
    const { plan, shape, estimated, size, fits } = this;
    const { n } = plan;
    for (const [j, k] of plan.together ?? []) {
      const [a, b] = [fits[j]!, fits[k]!];
      const df = Math.sqrt((n - a.equation.columns) * (n - b.equation.columns));
      const [pj, pk, own] = [
        shape.variance[j]!,
        shape.variance[k]!,
        shape.covariance.get(pairOf(j, k))!,
      ];
      const [sj, sk, s] = [theta[pj]!, theta[pk]!, theta[own]!];
      const put = (r: number, c: number, value: number): void => {
        v[r * estimated + c] = value / df;
        v[c * estimated + r] = value / df;
      };
      put(own, own, sj * sk + s * s);
      put(own, pj, 2 * sj * s);
      put(own, pk, 2 * sk * s);
      put(pj, pk, 2 * s * s);
      for (let i = 0; i < n; i++)
        influence[i * size + own] =
          ((a.equation.y[i]! - a.mu[i]!) * (b.equation.y[i]! - b.mu[i]!) * n) / df - s;
    }
  }

  /**
   * Gradients of the functionals in what is estimated; their influence joins that of the
   * coefficients.
   */
  private gradients(theta: Float64Array, influence: Float64Array): Float64Array {
    const { size, estimated, functionals, plan } = this;
    const { n } = plan;
    const out = new Float64Array(plan.functionals.length * estimated);
    plan.functionals.forEach((f, k) => {
      const gradient = new Float64Array(estimated);
      const rows = new Float64Array(n);
      for (let i = 0; i < n; i++) rows[i] = functionals.row(f, k, i, theta, 0, gradient);
      for (let j = 0; j < estimated; j++) gradient[j] = gradient[j]! / n;
      out.set(gradient, k * estimated);
      const mean = theta[estimated + k]!;
      for (let i = 0; i < n; i++) {
        let sum = rows[i]! - mean;
        for (let j = 0; j < estimated; j++) sum += gradient[j]! * influence[i * size + j]!;
        influence[i * size + estimated + k] = sum;
      }
    });
    return out;
  }
}

/** Σ of products of influence values, over n². */
function crossed(influence: Float64Array, n: number, size: number): Float64Array {
  const out = new Float64Array(size * size);
  for (let i = 0; i < n; i++)
    for (let j = 0; j < size; j++) {
      const own = influence[i * size + j]!;
      if (own === 0) continue;
      for (let k = 0; k <= j; k++)
        out[j * size + k] = out[j * size + k]! + own * influence[i * size + k]!;
    }
  for (let j = 0; j < size; j++)
    for (let k = 0; k <= j; k++) {
      const value = out[j * size + k]! / (n * n);
      out[j * size + k] = value;
      out[k * size + j] = value;
    }
  return out;
}

function shapeOf({ n, equations, together }: EstimationPlan): Shape {
  const start: number[] = [];
  let next = 0;
  for (const e of equations) {
    start.push(next);
    next += e.columns;
  }
  const variance = equations.map((e) => (e.family === "linear" ? next++ : -1));
  return {
    n,
    families: equations.map((e) => e.family),
    columns: equations.map((e) => e.columns),
    start,
    offsets: equations.map((e) => e.offset),
    variance,
    covariance: new Map((together ?? []).map(([j, k]) => [pairOf(j, k), next++])),
  };
}
