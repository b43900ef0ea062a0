import type { FamilyId } from "./families";

/** What is known of the equations when means are taken. */
export interface Shape {
  n: number;
  families: FamilyId[];
  /** Columns of each design, and where its coefficients begin in the parameter vector. */
  columns: number[];
  start: number[];
  offsets: (Float64Array | null)[];
  /** Where the residual variance of each linear equation stands; -1 for others. */
  variance: number[];
  /**
   * Where the residual covariance of two equations stands, by their places; none where they are
   * independent.
   */
  covariance: ReadonlyMap<string, number>;
}

/** The name of a pair of equations in either order. */
export const pairOf = (a: number, b: number): string => `${Math.min(a, b)} ${Math.max(a, b)}`;

/** What is added to the linear predictor of row i. */
export const offsetAt = ({ offsets }: Shape, equation: number, i: number): number =>
  offsets[equation]?.[i] ?? 0;

/**
 * Row i of a design as wide as its equation, times the coefficients of that equation.
 * @param theta parameters, from `at` on
 */
export function predictorAt(
  { columns, start }: Shape,
  equation: number,
  design: Float64Array,
  i: number,
  theta: Float64Array,
  at: number,
): number {
  const p = columns[equation]!;
  const from = at + start[equation]!;
  const row = i * p;
  let sum = 0;
  for (let k = 0; k < p; k++) sum += design[row + k]! * theta[from + k]!;
  return sum;
}

/** Adds a multiple of row i of a design to the gradient in the coefficients of its equation. */
export function addGradient(
  { columns, start }: Shape,
  gradient: Float64Array,
  equation: number,
  design: Float64Array,
  i: number,
  factor: number,
): void {
  if (factor === 0) return;
  const p = columns[equation]!;
  const from = start[equation]!;
  for (let k = 0; k < p; k++)
    gradient[from + k] = gradient[from + k]! + factor * design[i * p + k]!;
}
