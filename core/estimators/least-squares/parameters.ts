import type { Design } from "./design";
import type { EquationFit } from "./fit";

/**
 * The labelled parameter vector of a least-squares path model: every coefficient of every equation (intercept
 * first), then the SD of every design column and outcome. Effects are functions of this vector alone.
 */
export interface ParameterLayout {
  /** Length of the vector. */
  size: number;
  /** Number of coefficients, which come first; the covariance matrices are of these. */
  coefficients: number;
  /** First coefficient of each equation. */
  starts: number[];
  labels: string[];
  index: Map<string, number>;
}

export const coefficientLabel = (outcome: string, column: string): string => `${outcome} ~ ${column}`;
export const sdLabel = (column: string): string => `SD(${column})`;

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
  return { size: labels.length, coefficients, starts, labels, index: new Map(labels.map((label, i) => [label, i])) };
}

/** The parameter vector at the full sample. */
export function parameterVector(layout: ParameterLayout, design: Design, fits: EquationFit[]): Float64Array {
  const theta = new Float64Array(layout.size);
  fits.forEach((fit, g) => theta.set(fit.b, layout.starts[g]!));
  for (const equation of design.equations) {
    for (const column of equation.columns) theta[layout.index.get(sdLabel(column.key))!] = column.sd;
    theta[layout.index.get(sdLabel(equation.outcome))!] = equation.sdY;
  }
  return theta;
}
