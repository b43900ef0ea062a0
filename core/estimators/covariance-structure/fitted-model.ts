import type { ErrorMatrices } from "./error-matrices";
import type { Estimated } from "./estimated";
import type { ModelFit } from "./model-fit";

/** A fitted model with everything that is said of it without resampling. */
export interface FittedModel extends Estimated {
  errors: ErrorMatrices;
  fit: ModelFit;
}
