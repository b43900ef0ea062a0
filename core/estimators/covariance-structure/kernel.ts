import type { Kernel, KernelColumns, Resample } from "../../model";
import type { ArrowModel } from "./arrows";
import { ImpliedMoments } from "./implied";
import { NormalLikelihood, type SampleMoments } from "./normal-likelihood";
import { fisherScoring } from "./scoring";

/** Plain data from which a worker refits the model. */
export interface StructureProblem {
  n: number;
  /** Observed variables about their means, in units of their SDs, row-major. */
  values: Float64Array;
  /** SDs of the observed variables (divisor n), in which covariances are turned back. */
  scales: Float64Array;
  model: ArrowModel;
  /** Where fitting begins: the estimates of the sample. */
  start: Float64Array;
  /** Which of the model's parameters each reported coefficient is. */
  coefficients: number[];
  /** Whose implied SDs are reported, after the coefficients: places among the variables. */
  sds: number[];
}

/**
 * Refits the covariances of a resample by maximum likelihood, from its sums and cross-products alone. Means are free for every
 * observed variable, so they change no path and are left out.
 */
export class StructureKernel implements Kernel {
  readonly n: number;
  readonly size: number;
  readonly columns: KernelColumns;
  readonly firstFixed: number;
  private readonly sample: SampleMoments;
  private readonly likelihood: NormalLikelihood;

  constructor(private readonly problem: StructureProblem) {
    const { n, values, model, coefficients, sds } = problem;
    const p = model.observed;
    this.n = n;
    this.size = coefficients.length + sds.length;
    this.firstFixed = this.size;
    this.columns = { width: p, values, extra: new Float64Array(0) };
    this.sample = { n, means: new Float64Array(p), covariance: new Float64Array(p * p) };
    this.likelihood = new NormalLikelihood(new ImpliedMoments(model), this.sample);
  }

  refit({ total, sums, cross }: Resample, out: Float64Array, at: number): boolean {
    const { sample, likelihood, problem } = this;
    const { coefficients, sds, scales, start } = problem;
    const p = scales.length;
    for (let i = 0; i < p; i++)
      for (let j = i; j < p; j++) {
        const value =
          (cross[i * p + j]! / total - (sums[i]! / total) * (sums[j]! / total)) *
          scales[i]! *
          scales[j]!;
        sample.covariance[i * p + j] = value;
        sample.covariance[j * p + i] = value;
      }
    sample.n = total;
    const { end, theta } = fisherScoring(likelihood, start);
    if (end !== "converged") return false;
    report(likelihood.implied.at(theta), theta, coefficients, sds, out, at);
    return true;
  }
}

/** Writes coefficients, then SDs. A negative implied variance has no SD, and then nothing that depends on it exists. */
export function report(
  implied: ImpliedMoments,
  theta: Float64Array,
  coefficients: readonly number[],
  sds: readonly number[],
  out: Float64Array,
  at = 0,
): void {
  coefficients.forEach((parameter, k) => (out[at + k] = theta[parameter]!));
  sds.forEach((variable, k) => {
    out[at + coefficients.length + k] = Math.sqrt(implied.E[variable * implied.v + variable]!);
  });
}
