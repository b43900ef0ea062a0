import { multiply, number, parameter, type Expression } from "../model/expression";
import {
  addParameter,
  averageLabel,
  coefficientLabel,
  makeParameters,
  parameterAt,
  sdLabel,
  type Parameters,
} from "../model/parameters";
import { without, type Polynomial } from "../model/polynomial";
import { centreOf, type Column } from "./column";
import type { Design } from "./design";

/** Every column of a design that is no outcome alone, by its key. */
export const columnsByKey = (design: Design): Map<string, Column> =>
  new Map(design.equations.flatMap((e) => e.columns.map((c) => [c.key, c] as const)));

/**
 * The parameters of regressions on the columns of a design: coefficients, intercept first, and the
 * SD of every column and outcome.
 */
export const regressionParameters = (design: Design): Parameters =>
  makeParameters(
    design.equations.map((e) => ({
      outcome: e.outcome,
      columns: ["intercept", ...e.columns.map((c) => c.key)],
    })),
    new Set(design.equations.flatMap((e) => [...e.columns.map((c) => c.key), e.outcome])),
  );

/**
 * The slope of a column in an equation: its coefficient, and each product that contains it times
 * the other components. A square contributes twice its coefficient times the column itself, as
 * every derivative does.
 */
export function regressionSlope(
  design: Design,
  parameters: Parameters,
  outcome: string,
  key: string,
): Polynomial {
  const equation = design.equations.find((e) => e.outcome === outcome)!;
  const coefficient = (column: string): Expression =>
    parameter(parameterAt(parameters, coefficientLabel(outcome, column)));
  const products = equation.columns.flatMap((c) =>
    c.components ? [{ key: c.key, parts: c.components.map((part) => part.key) }] : [],
  );
  return [
    { moderators: [], expression: coefficient(key) },
    ...products
      .filter(({ parts }) => parts.includes(key))
      .map(({ key: column, parts }) => {
        const power = parts.filter((part) => part === key).length;
        const moderators = without(parts, key).sort();
        return {
          moderators,
          expression:
            power === 1 ? coefficient(column) : multiply(number(power), coefficient(column)),
        };
      }),
  ];
}

/**
 * Averages over the sample of products of columns about their centres, each a parameter from when
 * it is first asked for.
 */
export class Averages {
  /** The columns multiplied in each average, in the order of their parameters. */
  readonly products: string[][] = [];

  constructor(private readonly parameters: Parameters) {}

  /** Where the average of a product stands; the averages of its factors join with it. */
  at(columns: readonly string[]): number {
    const known = this.parameters.index.get(averageLabel(columns));
    if (known !== undefined) return known;
    for (let i = 0; i < columns.length && columns.length > 1; i++)
      this.at(columns.filter((_, j) => j !== i));
    this.products.push([...columns].sort());
    return addParameter(this.parameters, averageLabel(columns), "average");
  }

  /**
   * Row-major n x averages: the product of columns about their centres in every row, whose mean
   * each average is.
   */
  rows(design: Design): Float64Array {
    const columns = columnsByKey(design);
    const m = this.products.length;
    const rows = new Float64Array(design.n * m).fill(1);
    this.products.forEach((keys, k) => {
      for (const key of keys) {
        const column = columns.get(key)!;
        const centre = centreOf(column);
        for (let i = 0; i < design.n; i++)
          rows[i * m + k] = rows[i * m + k]! * (column.values[i]! - centre);
      }
    });
    return rows;
  }
}

/** The parameter vector of the sample, from the coefficients of each equation. */
export function regressionVector(
  design: Design,
  parameters: Parameters,
  averages: Averages,
  coefficients: readonly ArrayLike<number>[],
): Float64Array {
  const theta = new Float64Array(parameters.labels.length);
  coefficients.forEach((b, g) => theta.set(b, parameters.equations[g]!.start));
  for (const equation of design.equations) {
    for (const column of equation.columns)
      theta[parameterAt(parameters, sdLabel(column.key))] = column.sd;
    theta[parameterAt(parameters, sdLabel(equation.outcome))] = equation.sdY;
  }
  const m = averages.products.length;
  const rows = averages.rows(design);
  for (let k = 0; k < m; k++) {
    let sum = 0;
    for (let i = 0; i < design.n; i++) sum += rows[i * m + k]!;
    theta[theta.length - m + k] = sum / design.n;
  }
  return theta;
}
