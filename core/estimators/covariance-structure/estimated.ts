import type { ArrowModel } from "./arrows";
import type { ImpliedMoments } from "./implied";
import type { MomentObjective, WeightedMoments } from "./moment-objective";
import type { NormalLikelihood } from "./normal-likelihood";
import type { PreparedSample } from "./prepared-sample";
import type { OrderedModel } from "./ordered/ordered-model";
import type { Specification } from "./specification";

/**
 * A model with its estimates. Parameters are those of the centred data; `reportedIntercepts` turns
 * them back.
 */
export interface Estimated {
  spec: Specification;
  models: ArrowModel[];
  sample: PreparedSample;
  /** Cases of all groups. */
  n: number;
  moments: number;
  /** Free parameters that count. */
  parameters: number;
  theta: Float64Array;
  implied: ImpliedMoments[];
  /** The likelihood at the estimates; null for estimators that have none. */
  likelihood: NormalLikelihood | null;
  weighted: WeightedModel | null;
  iterations: number;
  /** Where some variables are ordered answers. */
  ordered?: OrderedModel;
}

/** What the estimators that weight moments need besides. */
export interface WeightedModel {
  objective: MomentObjective;
  groups: (WeightedMoments & { gamma: Float64Array | null })[];
}
