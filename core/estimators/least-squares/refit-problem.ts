import { columnsByKey, type Averages, type Design } from "../../design";
import { parameterAt, sdLabel, type Parameters } from "../../model";
import { mean } from "../../numerics/moments";
import {
  averageRules,
  restandardisations,
  type AverageRule,
  type Restandardisations,
} from "./restandardise";

/** What a refit needs, as plain arrays that can be posted to a worker. */
export interface RefitProblem {
  n: number;
  /** Number of distinct columns, outcomes included. */
  width: number;
  /** Row-major n x width: columns standardised by the full sample's means and SDs. */
  z: Float64Array;
  means: Float64Array;
  sds: Float64Array;
  /** Column positions of each equation's outcome and predictors, and where its coefficients go. */
  equations: { outcome: number; columns: number[]; start: number }[];
  /** Where the SD of each column goes in the parameter vector. */
  sdTargets: Int32Array;
  size: number;
  /**
   * Averages of products of moderators, the last parameters; `rules` where each resample has
   * z-scores of its own.
   */
  averages: { count: number; first: number; rows: Float64Array; rules: AverageRule[] | null };
  /** Only where the design is of z-scores: each resample then has z-scores of its own. */
  restandardise: Restandardisations | null;
}

/** @param averages that the theory asks for; their parameters are the last ones */
export function refitProblem(
  design: Design,
  parameters: Parameters,
  averages: Averages,
): RefitProblem {
  const values = new Map<string, Float64Array>();
  for (const equation of design.equations) {
    for (const column of equation.columns) values.set(column.key, column.values);
    values.set(equation.outcome, equation.y);
  }
  const keys = [...values.keys()];
  const width = keys.length;
  const n = design.n;
  const z = new Float64Array(n * width);
  const means = new Float64Array(width);
  const sds = new Float64Array(width);
  keys.forEach((key, j) => {
    const column = values.get(key)!;
    const centre = mean(column);
    let squares = 0;
    for (let i = 0; i < n; i++) squares += (column[i]! - centre) ** 2;
    const sd = Math.sqrt(squares / (n - 1));
    means[j] = centre;
    sds[j] = sd;
    for (let i = 0; i < n; i++) z[i * width + j] = (column[i]! - centre) / sd;
  });
  const position = (key: string): number => keys.indexOf(key);
  const columns = columnsByKey(design);
  const isScore = (key: string): boolean =>
    columns.get(key)?.contrast === null && !columns.get(key)!.components;
  const size = parameters.labels.length;
  return {
    n,
    width,
    z,
    means,
    sds,
    equations: design.equations.map((equation, g) => ({
      outcome: position(equation.outcome),
      columns: equation.columns.map((c) => position(c.key)),
      start: parameters.equations[g]!.start,
    })),
    sdTargets: Int32Array.from(keys, (key) => parameterAt(parameters, sdLabel(key))),
    size,
    averages: {
      count: averages.products.length,
      first: size - averages.products.length,
      rows: averages.rows(design),
      rules: design.standardised ? averageRules(averages.products, isScore, position) : null,
    },
    restandardise: restandardisations(design, position),
  };
}
