import { codesOf } from "../../../ordered";
import type { ArrowModel } from "../arrows";
import type { FittedModel } from "../fitted-model";
import type { ReportPlan } from "../kernel";
import type { Estimator } from "../specification";
import type { TheoryModel } from "../theory-model";
import type { OrderedModel } from "./ordered-model";

/** Plain data from which a worker refits a model with ordered variables. */
export interface OrderedProblem {
  ordered: true;
  /** Rows of the sample. */
  n: number;
  /**
   * Observed variables on the rows of the sample: positions among the levels (-1 where missing), or
   * numbers about their centres (NaN where missing).
   */
  columns: (
    | { kind: "ordered"; codes: Int32Array; levels: number[] }
    | { kind: "numeric"; values: Float64Array }
  )[];
  model: ArrowModel;
  /** Ordered variables by place, in the order of their dependent variances. */
  dependents: number[];
  /** The estimates of the sample, without dependent variances; correlations to begin with, p x p. */
  start: Float64Array;
  correlations: Float64Array;
  estimator: Estimator;
  report: ReportPlan;
}

/** Ordered variables in the order of their dependent variances. */
export const dependentsOf = ({ slots, parameters }: ArrowModel, q: number): number[] =>
  parameters
    .slice(q)
    .map((_, at) => slots.find((s) => s.matrix === "S" && s.parameter === q + at)!.row);

/** What a worker needs to refit this model. */
export function orderedProblem(
  model: TheoryModel,
  { models, theta, sample, spec }: FittedModel,
  { staged, q }: OrderedModel,
  report: ReportPlan,
): OrderedProblem {
  const centres = sample.centres[0]!;
  return {
    ordered: true,
    n: model.grouping.of.length,
    columns: model.sample.groups[0]!.map((values, i) => {
      const column = staged.columns[i]!;
      return column.kind === "ordered"
        ? { kind: "ordered", codes: codesOf(values, column.levels), levels: column.levels }
        : { kind: "numeric", values: values.map((y) => y - centres[i]!) };
    }),
    model: models[0]!,
    dependents: dependentsOf(models[0]!, q),
    start: theta.slice(0, q),
    correlations: correlationsOf(staged),
    estimator: spec.estimator,
    report,
  };
}

/** Correlations of what stands behind the variables, p x p. */
export function correlationsOf({ columns, pairs }: OrderedModel["staged"]): Float64Array {
  const p = columns.length;
  const out = new Float64Array(p * p);
  for (let i = 0; i < p; i++) out[i * p + i] = 1;
  for (const { a, b, r } of pairs) out[a * p + b] = out[b * p + a] = r;
  return out;
}
