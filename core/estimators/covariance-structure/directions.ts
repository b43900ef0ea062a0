import type { ArrowModel } from "./arrows";

/**
 * A free arrow as derivatives see it. Sigma changes by half (b o' + o b'), mu by `mean` times b, with b a column of B and o a
 * column of B (a covariance) or of E (a path).
 */
export interface Direction {
  parameter: number;
  kind: "A" | "S" | "m";
  row: number;
  column: number;
  /** Where b and o stand among the columns in use; o is -1 where Sigma does not change. */
  b: number;
  o: number;
  half: number;
}

/** The derivatives of a model, and the columns of B and E that they need. */
export interface Directions {
  list: Direction[];
  /** Variables whose column of B is in use, then those whose column of E is. */
  ofB: Int32Array;
  ofE: Int32Array;
  /** Where a variable's column stands among those in use; -1 where it is not. */
  placeOfB: Int32Array;
  placeOfE: Int32Array;
}

/** @param model whose free arrows are listed in the order of its slots */
export function directionsOf({ slots, variables }: ArrowModel): Directions {
  const free = slots.filter((s) => s.parameter >= 0);
  const sorted = (list: number[]): Int32Array =>
    Int32Array.from([...new Set(list)].sort((a, b) => a - b));
  const ofB = sorted(free.flatMap((s) => (s.matrix === "S" ? [s.row, s.column] : [s.row])));
  const ofE = sorted(free.flatMap((s) => (s.matrix === "A" ? [s.column] : [])));
  const placeOfB = new Int32Array(variables.length).fill(-1);
  const placeOfE = new Int32Array(variables.length).fill(-1);
  ofB.forEach((variable, at) => (placeOfB[variable] = at));
  ofE.forEach((variable, at) => (placeOfE[variable] = ofB.length + at));
  const list = free.map(({ matrix, row, column, parameter }): Direction => ({
    parameter,
    kind: matrix,
    row,
    column,
    b: placeOfB[row]!,
    o: matrix === "m" ? -1 : matrix === "S" ? placeOfB[column]! : placeOfE[column]!,
    half: matrix === "S" && row === column ? 0.5 : 1,
  }));
  return { list, ofB, ofE, placeOfB, placeOfE };
}
