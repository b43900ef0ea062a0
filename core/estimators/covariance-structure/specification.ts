import type { Arrow } from "./arrows";
import type { ProductUnit } from "./product-units";

/** How a model is fitted: normal-theory maximum likelihood, or a weighted distance of moments. */
export const ESTIMATORS = ["ml", "gls", "uls", "adf", "dwls"] as const;
export type Estimator = (typeof ESTIMATORS)[number];

/** Arrows of one group, or of all cases. */
export interface GroupArrows {
  name: string;
  arrows: Arrow[];
}

/** A model to be fitted. */
export interface Specification {
  /** In the order of the data columns. */
  observed: string[];
  latent: string[];
  groups: GroupArrows[];
  /** Are means modelled (and counted)? */
  means: boolean;
  estimator: Estimator;
  /** Observed variables that are taken as ordered answers. */
  ordered?: readonly string[];
  /** Units of product factors; none where there are none. */
  units?: ProductUnit[];
  /** Divisor n and n F, or n - 1 and (n - 1) F. */
  convention: "normal" | "wishart";
}

/** The data of a model. */
export interface StructureSample {
  /** Per group its columns in the order of the observed variables, NaN where missing. */
  groups: Float64Array[][];
  /** Rows were made to have given moments: nothing that single cases would tell is known. */
  momentsOnly: boolean;
}
