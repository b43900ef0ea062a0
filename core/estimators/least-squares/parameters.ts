import { centreOf, type Design } from "./design";
import type { EquationFit } from "./fit";

/**
 * The labelled parameter vector: coefficients of every equation (intercept first), then the SD of every column, then the
 * averages over the sample of products of moderator columns about their centres, which make averages of moderated effects.
 */
export interface ParameterLayout {
  size: number;
  /** Coefficients come first; so many have a covariance. */
  coefficients: number;
  /** First coefficient of each equation. */
  starts: number[];
  labels: string[];
  index: Map<string, number>;
  /** Where the averages begin; the delta method holds them fixed. */
  firstAverage: number;
  /** The columns multiplied in each average, in the order of their parameters. */
  averages: string[][];
}

export const coefficientLabel = (outcome: string, column: string): string => `${outcome} ~ ${column}`;
export const sdLabel = (column: string): string => `SD(${column})`;
const averageLabel = (columns: readonly string[]): string => `average(${[...columns].sort().join(" * ")})`;

export function parameterLayout(design: Design): ParameterLayout {
  const labels: string[] = [];
  const starts: number[] = [];
  for (const equation of design.equations) {
    starts.push(labels.length);
    labels.push(coefficientLabel(equation.outcome, "intercept"));
    for (const column of equation.columns) labels.push(coefficientLabel(equation.outcome, column.key));
  }
  const coefficients = labels.length;
  const sds = new Set(design.equations.flatMap((e) => [...e.columns.map((c) => c.key), e.outcome]));
  for (const key of sds) labels.push(sdLabel(key));
  return {
    size: labels.length,
    coefficients,
    starts,
    labels,
    index: new Map(labels.map((label, i) => [label, i])),
    firstAverage: labels.length,
    averages: [],
  };
}

/**
 * The parameter holding the average of a product of columns; it joins the layout when it is first asked for, and the
 * averages of its factors with it.
 */
export function averageParameter(layout: ParameterLayout, columns: readonly string[]): number {
  const label = averageLabel(columns);
  const known = layout.index.get(label);
  if (known !== undefined) return known;
  for (let i = 0; i < columns.length && columns.length > 1; i++)
    averageParameter(
      layout,
      columns.filter((_, j) => j !== i),
    );
  layout.index.set(label, layout.size);
  layout.labels.push(label);
  layout.averages.push([...columns].sort());
  return layout.size++;
}

/** The parameter vector at the full sample. */
export function parameterVector(layout: ParameterLayout, design: Design, fits: EquationFit[]): Float64Array {
  const theta = new Float64Array(layout.size);
  fits.forEach((fit, g) => theta.set(fit.b, layout.starts[g]!));
  for (const equation of design.equations) {
    for (const column of equation.columns) theta[layout.index.get(sdLabel(column.key))!] = column.sd;
    theta[layout.index.get(sdLabel(equation.outcome))!] = equation.sdY;
  }
  const m = layout.averages.length;
  const rows = averageRows(layout, design);
  for (let k = 0; k < m; k++) {
    let sum = 0;
    for (let i = 0; i < design.n; i++) sum += rows[i * m + k]!;
    theta[layout.firstAverage + k] = sum / design.n;
  }
  return theta;
}

/** Row-major n x averages: the product of columns about their centres in every row, whose mean each average is. */
export function averageRows({ averages }: ParameterLayout, design: Design): Float64Array {
  const columns = new Map(design.equations.flatMap((e) => e.columns.map((c) => [c.key, c] as const)));
  const m = averages.length;
  const rows = new Float64Array(design.n * m).fill(1);
  averages.forEach((keys, k) => {
    for (const key of keys) {
      const column = columns.get(key)!;
      const centre = centreOf(column);
      for (let i = 0; i < design.n; i++) rows[i * m + k] = rows[i * m + k]! * (column.values[i]! - centre);
    }
  });
  return rows;
}
