import {
  numericColumn,
  orderedColumn,
  PerfectAssociation,
  stagedStatistics,
  type StagedColumn,
  type StagedStatistics,
} from "../../../ordered";
import type { Kernel, Resample } from "../../../model";
import { ModelFault } from "../arrows";
import { reportFit } from "../kernel";
import { fisherScoring } from "../scoring";
import { DependentObjective } from "./dependent-objective";
import type { OrderedProblem } from "./problem";
import { replicateMoments } from "./weights";

/** Slope per case at which a correlation of a resample is found well enough. */
const CLOSE = 1e-9;

/**
 * Refits a model with ordered variables on resamples: both stages and the weights anew, from how
 * often each row is drawn; the model from the estimates of the sample. A level that nobody has in a
 * resample is merged with its neighbour there.
 */
export class OrderedKernel implements Kernel {
  readonly n: number;
  readonly size: number;
  readonly columns = null;
  readonly firstFixed: number;

  constructor(private readonly problem: OrderedProblem) {
    const { n, report } = problem;
    this.n = n;
    this.firstFixed = report.coefficients.length + report.sds.length;
    this.size = this.firstFixed + report.averages.length + 1;
  }

  refit(resample: Resample, out: Float64Array, at: number): boolean {
    const { model, dependents, start, estimator, report } = this.problem;
    const weights = resample.weights();
    const staged = this.stages(weights);
    const group = staged && momentsOf(staged, estimator);
    if (!group) return false;
    const objective = new DependentObjective(model, group, dependents);
    const { end, theta } = fisherScoring(objective, start, { patient: false });
    if (end !== "converged") return false;
    const full = objective.completed(theta);
    objective.implied[0]!.at(full);
    reportFit(objective.implied, full, report, [1], out, at);
    return true;
  }

  /** @returns null where a resample has no estimate: one answer alone, or pairs without exception */
  private stages(weights: Float64Array): StagedStatistics | null {
    const columns: StagedColumn[] = [];
    for (const column of this.problem.columns) {
      const staged =
        column.kind === "ordered"
          ? orderedColumn(column.codes, column.levels, weights)
          : numericColumn(column.values, weights);
      if (staged.kind === "ordered" ? staged.levels.length < 2 : !(staged.variance > 0))
        return null;
      columns.push(staged);
    }
    try {
      return stagedStatistics(columns, weights, this.problem.correlations, CLOSE);
    } catch (error) {
      if (error instanceof PerfectAssociation) return null;
      throw error;
    }
  }
}

function momentsOf(
  staged: StagedStatistics,
  estimator: OrderedProblem["estimator"],
): ReturnType<typeof replicateMoments> | null {
  try {
    return replicateMoments(staged, estimator);
  } catch (error) {
    if (error instanceof ModelFault) return null;
    throw error;
  }
}
