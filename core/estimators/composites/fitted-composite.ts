import type { Settings } from "../../study";
import type { CompiledTheory } from "../../theory";
import type { Fit, ModelData } from "../engine";
import type { Grouping } from "../grouping";
import type { CompositeSection } from "./types";
import type { EstimatedGroup, EstimatedTheory } from "./estimated-groups";
import type { CompositeProblem } from "./kernel";
import type { CompositeOptions } from "./options";
import type { TheoryComposite } from "./theory-model";

/** What re-estimates a model many times besides the bootstrap. */
export interface FurtherStudies extends Pick<CompositeSection, "comparisons"> {
  /** Of the only group; nothing where there are several. */
  whole: Pick<CompositeSection, "exactFit" | "prediction">;
  /** Of each group where there are several; else empty. */
  byGroup: Pick<CompositeSection, "exactFit" | "prediction">[];
}

type Shared = "parameters" | "coefficients" | "products" | "vector";

/**
 * What is known of composites once they are estimated: sections, words and warnings are made of
 * this, and the fit that offers them to the rest of the core is made of all of them.
 */
export interface FittedComposite extends Pick<Fit<CompositeProblem>, Shared> {
  readonly theory: CompiledTheory;
  readonly data: ModelData;
  readonly settings: Settings;
  readonly options: CompositeOptions;
  readonly composite: TheoryComposite;
  readonly grouping: Grouping;
  readonly groups: EstimatedGroup[];
  readonly unreliable: EstimatedTheory["unreliable"];
  /** Made once, however often the evidence is put together. */
  furtherStudies(): FurtherStudies;
}
