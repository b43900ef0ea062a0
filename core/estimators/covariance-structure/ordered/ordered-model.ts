import type { StagedStatistics } from "../../../ordered";
import type { DependentObjective } from "./dependent-objective";
import type { StagedMoments } from "./weights";

/** What a model with ordered variables knows besides. */
export interface OrderedModel {
  names: ReadonlySet<string>;
  staged: StagedStatistics;
  group: StagedMoments;
  objective: DependentObjective;
  /** Parameters that are no dependent variances. */
  q: number;
}
