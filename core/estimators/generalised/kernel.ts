import type { Kernel, Resample } from "../../model";
import { Estimation, type EstimationPlan } from "./estimation";

/** Plain data from which workers estimate resamples. */
export interface ResponseProblem {
  plan: EstimationPlan;
  size: number;
  /** Columns whose SDs follow, and where they begin. */
  spreads: Float64Array[];
  spreadsAt: number;
  /** Averages of products of columns about numbers, and where each stands. */
  averages: { columns: Float64Array[]; centres: number[]; to: number }[];
}

/**
 * Refits all responses under row weights, and takes the means that effects are made of over the
 * rows that were drawn.
 */
export class ResponseKernel implements Kernel {
  readonly n: number;
  readonly size: number;
  readonly columns = null;
  readonly firstFixed: number;
  private readonly estimation: Estimation;

  /** @param fine true: integrals as fine as those of the sample's estimates */
  constructor(
    private readonly problem: ResponseProblem,
    fine = false,
  ) {
    this.n = problem.plan.n;
    this.size = problem.size;
    this.firstFixed = problem.size;
    this.estimation = new Estimation(problem.plan, fine);
  }

  refit(
    { total, weights }: Pick<Resample, "total" | "weights">,
    out: Float64Array,
    at: number,
  ): boolean {
    const rows = weights();
    if (this.estimation.estimate(rows, total, out, at)?.all) return false;
    const { spreads, spreadsAt, averages } = this.problem;
    spreads.forEach((column, k) => (out[at + spreadsAt + k] = spread(column, rows, total)));
    for (const { columns, centres, to } of averages) {
      let sum = 0;
      for (let i = 0; i < rows.length; i++) {
        let product = rows[i]!;
        if (product === 0) continue;
        for (let j = 0; j < columns.length; j++) product *= columns[j]![i]! - centres[j]!;
        sum += product;
      }
      out[at + to] = sum / total;
    }
    return true;
  }
}

function spread(column: Float64Array, weights: Float64Array, total: number): number {
  let sum = 0;
  for (let i = 0; i < column.length; i++) sum += weights[i]! * column[i]!;
  const centre = sum / total;
  let squares = 0;
  for (let i = 0; i < column.length; i++) {
    const d = column[i]! - centre;
    squares += weights[i]! * d * d;
  }
  return Math.sqrt(squares / (total - 1));
}
