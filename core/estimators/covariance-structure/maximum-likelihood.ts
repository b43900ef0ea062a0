import type { ArrowModel } from "./arrows";
import { fitMeasures, type FitMeasures } from "./fit-measures";
import { ImpliedMoments } from "./implied";
import { NormalLikelihood, type SampleMoments } from "./normal-likelihood";
import { baselineLogLikelihood, saturatedLogLikelihood } from "./sample-moments";
import { fisherScoring, inverseOf } from "./scoring";
import { startValues } from "./start-values";

/** A fitted model. */
export interface MaximumLikelihoodFit {
  theta: Float64Array;
  /** q x q, from the expected information; null where that is singular at the estimates. */
  covariance: Float64Array | null;
  implied: ImpliedMoments;
  measures: FitMeasures;
  iterations: number;
}

/**
 * Normal-theory maximum likelihood at complete data (Joreskog 1969; Bollen 1989), with the mean structure.
 * @param from where to begin; start values of the model's own where there is none
 * @returns null where no maximum was reached, whose numbers are no results
 */
export function maximumLikelihood(
  model: ArrowModel,
  sample: SampleMoments,
  from: Float64Array | null = null,
): MaximumLikelihoodFit | null {
  const implied = new ImpliedMoments(model);
  const likelihood = new NormalLikelihood(implied, sample);
  const { end, theta, iterations } = fisherScoring(likelihood, from ?? startValues(model, sample));
  if (end !== "converged") return null;
  likelihood.at(theta);
  return {
    theta,
    covariance: inverseOf(likelihood.information, implied.q),
    implied,
    iterations,
    measures: fitMeasures({
      sample,
      implied,
      parameters: implied.q,
      logLikelihood: likelihood.value * sample.n,
      saturated: saturatedLogLikelihood(sample),
      baseline: baselineLogLikelihood(sample),
    }),
  };
}
