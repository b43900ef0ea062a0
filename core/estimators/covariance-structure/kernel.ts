import type { Kernel, KernelColumns, Resample } from "../../model";
import type { ArrowModel } from "./arrows";
import { CompiledRefit } from "./compiled-refit";
import { FilledLikelihood } from "./filled-likelihood";
import type { ImpliedMoments } from "./implied";
import { MomentObjective, momentVector } from "./moment-objective";
import { fourthMoments, fourthVariances, momentWeight } from "./moment-weights";
import { NormalLikelihood } from "./normal-likelihood";
import type { PatternMoments } from "./pattern";
import { centreProducts, recentreMoments, recentrePatterns, type ProductPlan } from "./products";
import { WarmRefit } from "./quasi-newton";
import { fisherScoring } from "./scoring";
import type { CasePattern } from "./sample-moments";
import { scaleAt, type Scale } from "./product-units";
import type { Estimator } from "./specification";

/** What is reported of a fit, as plain data. */
export interface ReportPlan {
  /**
   * Position of each reported coefficient among the model's parameters; -1 for what is fixed at
   * zero.
   */
  coefficients: number[];
  /** What a coefficient is multiplied by to be in the unit it is told in; null for most. */
  scales?: (Scale | null)[];
  /** Places of the variables whose implied SDs are reported. */
  sds: number[];
  /**
   * What is averaged over the sample: the product of two variables' deviations, a share of cases,
   * or nothing.
   */
  averages: AveragePlan[];
}

export type AveragePlan =
  | { kind: "zero" }
  | { kind: "share"; group: number }
  | { kind: "covariance"; a: number; b: number };

/** What is reported of implied moments. */
type Implied = Pick<ImpliedMoments, "E" | "S" | "v" | "p">;

/** Plain data from which a worker refits the model. */
export interface StructureProblem {
  n: number;
  p: number;
  /** Observed variables about their centres, row-major n x p; NaN where missing. */
  values: Float64Array;
  /** Per group: the rows (among all n) of each pattern. */
  groups: CasePattern[][];
  models: ArrowModel[];
  /** Where fitting begins: the estimates of the sample. */
  start: Float64Array;
  /** Inverse of the information of one case there, q x q; null where that is singular. */
  inverse: Float64Array | null;
  estimator: Estimator;
  means: boolean;
  wishart: boolean;
  plans: ProductPlan[];
  report: ReportPlan;
}

/**
 * Refits a model on resamples: from sums and cross-products alone where all cases are complete and
 * of one group, else from the weights of the rows.
 */
export class StructureKernel implements Kernel {
  readonly n: number;
  readonly size: number;
  readonly columns: KernelColumns | null;
  readonly firstFixed: number;
  private readonly moments: PatternMoments[][];
  /** Whose cases in a resample are all the same row. */
  private readonly single: boolean[][];
  private readonly likelihood: NormalLikelihood;
  /** What refits climb first: a likelihood made for values missing, where there are any. */
  private readonly climbed: FilledLikelihood | NormalLikelihood;
  private readonly warm: WarmRefit | null;
  /** The same whole in WebAssembly, where there is one group of complete cases without means. */
  private readonly compiled: CompiledRefit | null;

  /** @param scripted true: never WebAssembly, as in a test that compares the two */
  constructor(
    private readonly problem: StructureProblem,
    scripted = false,
  ) {
    const { n, p, values, groups, models, report, estimator } = problem;
    this.n = n;
    this.firstFixed = report.coefficients.length + report.sds.length;
    this.size = this.firstFixed + report.averages.length + 1;
    const plain =
      groups.length === 1 &&
      groups[0]!.length === 1 &&
      groups[0]![0]!.indices.length === p &&
      estimator === "ml";
    this.columns = plain ? { width: p, values, extra: new Float64Array(0) } : null;
    this.moments = groups.map((patterns) =>
      patterns.map(({ indices }) => ({
        n: 0,
        indices,
        means: new Float64Array(indices.length),
        covariance: new Float64Array(indices.length * indices.length),
      })),
    );
    this.single = groups.map((patterns) => patterns.map(() => false));
    this.likelihood = new NormalLikelihood(
      models,
      this.moments.map((patterns) => ({ patterns })),
    );
    const { start, inverse } = problem;
    const withoutMeans = models.every(({ slots }) => slots.every((s) => s.matrix !== "m"));
    this.compiled =
      plain && inverse && withoutMeans && !scripted
        ? CompiledRefit.of(models[0]!, start, inverse)
        : null;
    const incomplete = groups.some((patterns) => patterns.length > 1);
    this.climbed = incomplete
      ? new FilledLikelihood(
          models,
          this.moments.map((patterns, g) => ({ patterns, single: this.single[g]! })),
        )
      : this.likelihood;
    this.warm = inverse && new WarmRefit(this.climbed, start, inverse);
  }

  refit(resample: Resample, out: Float64Array, at: number): boolean {
    const { problem, columns } = this;
    const found = columns ? this.fromSums(resample) : this.fromWeights(resample.weights());
    if (!found) return false;
    if (this.compiled) {
      const { compiled } = this;
      const own = this.moments[0]![0]!;
      compiled.covariance.set(own.covariance);
      if (compiled.fit(own.n)) {
        this.report({ implied: [compiled.implied] }, compiled.theta, out, at);
        return true;
      }
    } else if (problem.estimator === "ml" && this.warm?.fit()) {
      this.report(this.climbed, this.warm.theta, out, at);
      return true;
    }
    const objective =
      problem.estimator === "ml" ? this.likelihood : this.weightedObjective(resample.weights());
    if (!objective) return false;
    // What warm steps do not reach, Fisher scoring may.
    const { end, theta } = fisherScoring(objective, problem.start, { patient: false });
    if (end !== "converged") return false;
    objective.valueAt(theta);
    this.report(objective, theta, out, at);
    return true;
  }

  /** Of what `implied` holds: the last value was taken there, but for a step within rounding. */
  private report(
    { implied }: { implied: readonly Implied[] },
    theta: Float64Array,
    out: Float64Array,
    at: number,
  ): void {
    reportFit(implied, theta, this.problem.report, this.shares(), out, at);
  }

  /** Share of the cases of a resample in each group. */
  private shares(): number[] {
    const sizes = this.moments.map((patterns) => patterns.reduce((sum, m) => sum + m.n, 0));
    const total = sizes.reduce((a, b) => a + b, 0);
    return sizes.map((size) => size / total);
  }

  private fromSums({ total, sums, cross }: Resample): boolean {
    const { problem } = this;
    const { p, plans, wishart, means: modelled } = problem;
    const own = this.moments[0]![0]!;
    own.n = total;
    for (let i = 0; i < p; i++) {
      own.means[i] = sums[i]! / total;
      for (let j = i; j < p; j++) {
        const value = cross[i * p + j]! / total - (sums[i]! / total) * (sums[j]! / total);
        own.covariance[i * p + j] = own.covariance[j * p + i] = value;
      }
    }
    const fine = plans.length === 0 || recentreMoments(own.covariance, own.means, p, plans);
    if (plans.length > 0) zeroMeans(own.means, plans);
    if (!modelled) own.means.fill(0);
    if (wishart) own.n -= 1;
    return fine;
  }

  private fromWeights(weights: Float64Array): boolean {
    const { values, p, groups, plans, means: modelled } = this.problem;
    for (const [g, patterns] of groups.entries()) {
      const own = this.moments[g]!;
      patterns.forEach(({ indices, rows }, k) => {
        this.single[g]![k] = weightedMoments(values, p, indices, rows, weights, own[k]!) <= 1;
      });
      // Products are centred over all cases of a group that have them.
      if (plans.length > 0 && !recentrePatterns(own, plans)) return false;
      if (!modelled) for (const { means } of own) means.fill(0);
      // Without cases a pattern adds nothing, and a group has nothing to be fitted to.
      if (own.length === 1 && own[0]!.n === 0) return false;
    }
    return true;
  }

  private weightedObjective(weights: Float64Array): MomentObjective | null {
    const { values, p, groups, models, estimator, means, plans } = this.problem;
    const made = groups.map((patterns, g) => {
      const rows = [...patterns[0]!.rows].flatMap((row) =>
        Array.from({ length: weights[row]! }, () => row),
      );
      const columns = Array.from({ length: p }, (_, i) =>
        Float64Array.from(rows, (row) => values[row * p + i]!),
      );
      if (plans.length > 0) centreProducts(columns, plans);
      const own = this.moments[g]![0]!;
      const gamma =
        estimator === "adf"
          ? fourthMoments(columns, means)
          : estimator === "dwls"
            ? fourthVariances(columns, means)
            : null;
      const weight = momentWeight(
        estimator as Exclude<Estimator, "ml">,
        own.covariance,
        p,
        means,
        gamma,
      );
      return (
        weight && {
          n: own.n,
          weight,
          moments: momentVector(means ? own.means : null, own.covariance, p),
        }
      );
    });
    if (made.some((m) => m === null)) return null;
    return new MomentObjective(
      models,
      made.map((m) => m!),
      means,
    );
  }
}

/** Products and what they are made of are centred anew in every resample. */
function zeroMeans(means: Float64Array, plans: readonly ProductPlan[]): void {
  for (const { items } of plans)
    for (const { x, w, at } of items) means[x] = means[w] = means[at] = 0;
}

/** @returns how many of the rows there are */
function weightedMoments(
  values: Float64Array,
  p: number,
  indices: Int32Array,
  rows: Int32Array,
  weights: Float64Array,
  out: PatternMoments,
): number {
  const k = indices.length;
  const { means, covariance } = out;
  means.fill(0);
  covariance.fill(0);
  let n = 0;
  let there = 0;
  for (let r = 0; r < rows.length; r++) {
    const row = rows[r]!;
    const weight = weights[row]!;
    if (weight === 0) continue;
    n += weight;
    there += 1;
    for (let i = 0; i < k; i++) {
      const x = weight * values[row * p + indices[i]!]!;
      means[i] = means[i]! + x;
      for (let j = 0; j <= i; j++)
        covariance[i * k + j] = covariance[i * k + j]! + x * values[row * p + indices[j]!]!;
    }
  }
  out.n = n;
  if (n === 0) return 0;
  for (let i = 0; i < k; i++) means[i] = means[i]! / n;
  for (let i = 0; i < k; i++)
    for (let j = 0; j <= i; j++) {
      const value = covariance[i * k + j]! / n - means[i]! * means[j]!;
      covariance[i * k + j] = covariance[j * k + i] = value;
    }
  return there;
}

/**
 * Writes coefficients, SDs pooled over groups, whether the solution is improper (1) or not (0), and
 * averages.
 */
export function reportFit(
  implied: readonly Implied[],
  theta: ArrayLike<number>,
  { coefficients, scales, sds, averages }: ReportPlan,
  shares: readonly number[],
  out: Float64Array,
  start = 0,
): void {
  let at = start;
  for (let i = 0; i < coefficients.length; i++) {
    const parameter = coefficients[i]!;
    const scale = scales?.[i];
    out[at++] = parameter < 0 ? 0 : theta[parameter]! * (scale ? scaleAt(scale, theta) : 1);
  }
  for (const variable of sds) out[at++] = Math.sqrt(pooled(implied, shares, variable, variable));
  out[at++] = implied.some(isImproper) ? 1 : 0;
  for (const plan of averages)
    out[at++] =
      plan.kind === "zero"
        ? 0
        : plan.kind === "share"
          ? shares[plan.group]!
          : pooled(implied, shares, plan.a, plan.b);
}

/**
 * An implied covariance, averaged over groups by their size; a negative variance has no SD, and
 * nothing that needs it exists.
 */
export function pooled(
  implied: readonly Implied[],
  shares: readonly number[],
  a: number,
  b: number,
): number {
  let sum = 0;
  implied.forEach(({ E, v }, g) => (sum += shares[g]! * E[a * v + b]!));
  return sum;
}

/** A negative variance, or a correlation of latent variables beyond one. */
function isImproper({ S, E, v, p }: Implied): boolean {
  for (let i = 0; i < v; i++) if (S[i * v + i]! < 0) return true;
  for (let i = p; i < v; i++)
    for (let j = p; j < i; j++) if (E[i * v + j]! ** 2 > E[i * v + i]! * E[j * v + j]!) return true;
  return false;
}
