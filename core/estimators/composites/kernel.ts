import type { Kernel, KernelColumns, Resample } from "../../model";
import { CompositeEstimator, type EstimationPlan, type SampleMoments } from "./estimator";
import { htmtOf, type HtmtPlan } from "./htmt";
import { ReportWriter, type ReportPlan } from "./report";
import { BY_CORRELATION } from "./layout";

/** One group of rows, estimated by itself. */
export interface GroupPlan {
  plan: EstimationPlan;
  /** Places of its rows among those of the sample; null where they are all of them. */
  rows: Int32Array | null;
  report: ReportPlan;
  measurement: MeasurementPlan;
}

/**
 * Where measurement figures of a group stand in the vector, and what its scores in the sample are
 * compared with.
 */
export interface MeasurementPlan {
  at: number;
  htmt: HtmtPlan;
  reference: { weights: Float64Array; r: Float64Array };
}

/** Plain data from which a worker estimates resamples. */
export interface CompositeProblem {
  n: number;
  size: number;
  firstFixed: number;
  groups: GroupPlan[];
  /** Turn constructs back that a resample turned round. */
  align: boolean;
}

/**
 * Estimates a composite model on resamples from sums and cross-products; with groups, from the
 * weights of their rows.
 */
export class CompositeKernel implements Kernel {
  readonly n: number;
  readonly size: number;
  readonly columns: KernelColumns | null;
  readonly firstFixed: number;
  private readonly groups: {
    estimator: CompositeEstimator;
    writer: ReportWriter;
    moments: GroupMoments;
    measurement: MeasurementPlan;
  }[];

  /** @param lenient true: estimates that have not settled are taken as they are */
  constructor(
    private readonly problem: CompositeProblem,
    private readonly lenient = false,
  ) {
    this.n = problem.n;
    this.size = problem.size;
    this.firstFixed = problem.firstFixed;
    const [first] = problem.groups;
    this.columns =
      problem.groups.length === 1
        ? {
            width: first!.plan.layout.indicators,
            values: first!.plan.values,
            extra: new Float64Array(0),
          }
        : null;
    this.groups = problem.groups.map(({ plan, rows, report, measurement }) => {
      const estimator = new CompositeEstimator(plan);
      return {
        estimator,
        writer: new ReportWriter(report, estimator),
        moments: new GroupMoments(plan, rows),
        measurement,
      };
    });
  }

  refit(resample: Resample, out: Float64Array, at: number): boolean {
    for (const { estimator, writer, moments, measurement } of this.groups) {
      if (this.columns) moments.fromSums(resample);
      else moments.fromWeights(resample.weights());
      if (!(moments.total > 2)) return false;
      const failure = estimator.measure(moments);
      if (failure && !(this.lenient && failure === "not_converged")) return false;
      compareSigns(estimator.algorithm, measurement, this.problem.align, out, at);
      if (estimator.structure(moments)) return false;
      writer.write(moments, out, at);
      writeMeasurement(estimator, measurement, out, at);
    }
    return true;
  }
}

/**
 * Says which constructs run against the sample's scores, on the sample's data; turns them back
 * where that is wanted.
 */
function compareSigns(
  algorithm: CompositeEstimator["algorithm"],
  { at: from, reference }: MeasurementPlan,
  align: boolean,
  out: Float64Array,
  at: number,
): void {
  const { weights, r } = reference;
  const { start, constructs, indicators: p } = algorithm.layout;
  const flags = at + from + 2 * p;
  for (let j = 0; j < constructs; j++) {
    let agreement = 0;
    for (let k = start[j]!; k < start[j + 1]!; k++)
      for (let m = start[j]!; m < start[j + 1]!; m++)
        agreement += algorithm.weights[k]! * r[k * p + m]! * weights[m]!;
    out[flags + j] = agreement < 0 ? 1 : 0;
    if (agreement < 0 && align) algorithm.turn(j);
  }
}

/** Weights, loadings, and how far constructs can be told apart. */
function writeMeasurement(
  { algorithm, r, plan, rho }: CompositeEstimator,
  { at: from, htmt }: MeasurementPlan,
  out: Float64Array,
  at: number,
): void {
  const { indicators: p, constructs: c, start, modes } = plan.layout;
  let next = at + from;
  for (let k = 0; k < p; k++) out[next++] = algorithm.weights[k]!;
  for (let j = 0; j < c; j++) {
    const [first, last] = [start[j]!, start[j + 1]!];
    let squares = 0;
    for (let k = first; k < last; k++) squares += algorithm.weights[k]! ** 2;
    const factor =
      plan.consistent && plan.corrected[j] && modes[j] === BY_CORRELATION
        ? Math.sqrt(rho[j]!) / squares
        : NaN;
    for (let k = first; k < last; k++)
      out[next++] = Number.isNaN(factor)
        ? algorithm.loadings[k * c + j]!
        : algorithm.weights[k]! * factor;
  }
  // Flags of turned constructs stand here already.
  next += c;
  htmtOf(r, p, htmt, out, next);
}

/** Means and covariances of the rows of a group under weights. */
class GroupMoments implements SampleMoments {
  total = 0;
  readonly means: Float64Array;
  readonly covariances: Float64Array;
  private weights: Float64Array = new Float64Array(0);
  private resample: Resample | null = null;
  private readonly own: Float64Array | null;

  constructor(
    private readonly plan: EstimationPlan,
    private readonly rows: Int32Array | null,
  ) {
    const { indicators: p } = plan.layout;
    this.means = new Float64Array(p);
    this.covariances = new Float64Array(p * p);
    this.own = rows && new Float64Array(rows.length);
  }

  rowWeights(): Float64Array {
    return this.resample ? this.resample.weights() : this.weights;
  }

  fromSums(resample: Resample): void {
    const { means, covariances: s } = this;
    const { total, sums, cross } = resample;
    const p = means.length;
    this.resample = resample;
    this.total = total;
    for (let k = 0; k < p; k++) means[k] = sums[k]! / total;
    for (let k = 0; k < p; k++)
      for (let m = k; m < p; m++) {
        const value = (cross[k * p + m]! - sums[k]! * means[m]!) / (total - 1);
        s[k * p + m] = value;
        s[m * p + k] = value;
      }
  }

  fromWeights(all: Float64Array): void {
    const { means, covariances: s, plan, rows, own } = this;
    const p = means.length;
    this.resample = null;
    if (rows && own) {
      for (let i = 0; i < rows.length; i++) own[i] = all[rows[i]!]!;
      this.weights = own;
    } else this.weights = all;
    const { weights } = this;
    this.total = 0;
    means.fill(0);
    s.fill(0);
    for (let i = 0; i < weights.length; i++) {
      const f = weights[i]!;
      if (f === 0) continue;
      this.total += f;
      for (let k = 0; k < p; k++) {
        const fx = f * plan.values[i * p + k]!;
        means[k] = means[k]! + fx;
        for (let m = k; m < p; m++) s[k * p + m] = s[k * p + m]! + fx * plan.values[i * p + m]!;
      }
    }
    const { total } = this;
    for (let k = 0; k < p; k++) means[k] = means[k]! / total;
    for (let k = 0; k < p; k++)
      for (let m = k; m < p; m++) {
        const value = (s[k * p + m]! - total * means[k]! * means[m]!) / (total - 1);
        s[k * p + m] = value;
        s[m * p + k] = value;
      }
  }
}
