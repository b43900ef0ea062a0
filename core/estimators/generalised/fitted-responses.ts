import type { Column } from "../../design";
import type { Covariance } from "../../model";
import type { Settings } from "../../study";
import type { CompiledTheory } from "../../theory";
import type { Fit, ModelData } from "../engine";
import type { CausalModel } from "./causal-model";
import type { EffectPlan } from "./effect-plan";
import type { Estimation } from "./estimation";
import type { ResponseProblem } from "./kernel";
import type { EffectFormula } from "./natural-effects";
import type { ResponseOptions } from "./options";

type Shared = "parameters" | "covariances" | "coefficients" | "products" | "vector";

/**
 * What is known of responses once they are estimated: slopes, lines, effects, sections and warnings
 * are made of this, and the fit that offers them to the rest of the core is made of all of them.
 */
export interface FittedResponses extends Pick<Fit<ResponseProblem>, Shared> {
  readonly theory: CompiledTheory;
  readonly data: ModelData;
  readonly settings: Settings;
  readonly options: ResponseOptions;
  readonly model: CausalModel;
  readonly plan: EffectPlan;
  readonly estimation: Estimation;
  /** Robust, with the covariates of the sample held fixed where means are taken over them. */
  readonly held: Covariance;
  /** Every column of every equation that is no product, outcomes too. */
  readonly columns: ReadonlyMap<string, Column>;
  /** Of each triad. */
  readonly formulas: EffectFormula[][];
}
