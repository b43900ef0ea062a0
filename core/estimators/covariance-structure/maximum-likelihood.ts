import type { ArrowModel } from "./arrows";
import { fitMeasures, type FitMeasures } from "./fit-measures";
import { ImpliedMoments } from "./implied";
import { NormalLikelihood, type SampleMoments } from "./normal-likelihood";
import { baselineLogLikelihood, saturatedLogLikelihood } from "./sample-moments";
import { fisherScoring, inverseOf, type ScoringEnd } from "./scoring";
import { startValues } from "./start-values";

/** How fitting ended, with the fit where there is one: numbers that have not converged are no results. */
export type MaximumLikelihoodResult =
  | { end: "converged"; fit: MaximumLikelihoodFit }
  | { end: Exclude<ScoringEnd, "converged">; fit: null };

/** A fitted model. */
export interface MaximumLikelihoodFit {
  theta: Float64Array;
  /** q x q, from the expected information; null where that is singular at the estimates. */
  covariance: Float64Array | null;
  implied: ImpliedMoments;
  measures: FitMeasures;
  iterations: number;
}

/** The estimates that everything else rests on are found to the last digit. */
const AS_FAR_AS_IT_GOES = 1e-20;

/**
 * Normal-theory maximum likelihood at complete data (Joreskog 1969; Bollen 1989), with the mean structure.
 */
export function maximumLikelihood(
  model: ArrowModel,
  sample: SampleMoments,
): MaximumLikelihoodResult {
  const implied = new ImpliedMoments(model);
  const likelihood = new NormalLikelihood(implied, sample);
  const { end, theta, iterations } = fisherScoring(
    likelihood,
    startValues(model, sample),
    AS_FAR_AS_IT_GOES,
  );
  if (end !== "converged") return { end, fit: null };
  likelihood.at(theta);
  const fit: MaximumLikelihoodFit = {
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
  return { end, fit };
}
