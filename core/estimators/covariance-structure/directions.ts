import type { ArrowModel } from "./arrows";

/**
 * The derivatives of a model, arrow by arrow. Sigma changes by half (b o' + o b') and mu by a
 * multiple of b, with b a column of B and o a column of B (of a covariance) or of E (of a path):
 * flat arrays, since every pattern of every resample reads them.
 */
export interface Directions {
  count: number;
  parameter: Int32Array;
  /** 0 a path, 1 a covariance, 2 an intercept. */
  kind: Uint8Array;
  row: Int32Array;
  column: Int32Array;
  /** Where b and o stand among the columns in use; for an intercept o is b. */
  b: Int32Array;
  o: Int32Array;
  /** 1, for a variance 1/2, for an intercept 0. */
  half: Float64Array;
  /**
   * Directions in the order of their o: those of column x stand from startO[x] to startO[x + 1].
   */
  byO: Int32Array;
  startO: Int32Array;
  /**
   * Which observed variables a variable leads to, itself included: where its column of B may differ
   * from zero.
   */
  reach: Int32Array[];
  /** Variables whose column of B is in use, then those whose column of E is. */
  ofB: Int32Array;
  ofE: Int32Array;
}

export const PATH = 0;
export const COVARIANCE = 1;
export const INTERCEPT = 2;

/** @param model whose free arrows are listed in the order of its slots */
export function directionsOf({ slots, variables, observed, order }: ArrowModel): Directions {
  const free = slots.filter((s) => s.parameter >= 0);
  const sorted = (list: number[]): Int32Array =>
    Int32Array.from([...new Set(list)].sort((a, b) => a - b));
  const ofB = sorted(free.flatMap((s) => (s.matrix === "S" ? [s.row, s.column] : [s.row])));
  const ofE = sorted(free.flatMap((s) => (s.matrix === "A" ? [s.column] : [])));
  const placeOfB = new Int32Array(variables.length).fill(-1);
  const placeOfE = new Int32Array(variables.length).fill(-1);
  ofB.forEach((variable, at) => (placeOfB[variable] = at));
  ofE.forEach((variable, at) => (placeOfE[variable] = ofB.length + at));
  const ints = (of: (s: (typeof free)[number]) => number): Int32Array => Int32Array.from(free, of);
  // Effects before causes: what a variable leads to is itself and what its effects lead to.
  const leads = variables.map((_, i) => new Set(i < observed ? [i] : []));
  for (const i of [...order].reverse())
    for (const s of slots)
      if (s.matrix === "A" && s.column === i) for (const k of leads[s.row]!) leads[i]!.add(k);
  const o = ints(({ matrix, row, column }) =>
    matrix === "m" ? placeOfB[row]! : matrix === "S" ? placeOfB[column]! : placeOfE[column]!,
  );
  const byO = Int32Array.from(free, (_, s) => s).sort((x, y) => o[x]! - o[y]! || x - y);
  const columns = ofB.length + ofE.length;
  const startO = Int32Array.from({ length: columns + 1 }, (_, x) =>
    byO.reduce((before, s) => before + (o[s]! < x ? 1 : 0), 0),
  );
  return {
    count: free.length,
    parameter: ints((s) => s.parameter),
    kind: Uint8Array.from(free, ({ matrix }) =>
      matrix === "A" ? PATH : matrix === "S" ? COVARIANCE : INTERCEPT,
    ),
    row: ints((s) => s.row),
    column: ints((s) => s.column),
    b: ints((s) => placeOfB[s.row]!),
    o,
    byO,
    startO,
    half: Float64Array.from(free, ({ matrix, row, column }) =>
      matrix === "m" ? 0 : matrix === "S" && row === column ? 0.5 : 1,
    ),
    reach: leads.map((set) => Int32Array.from(set).sort()),
    ofB,
    ofE,
  };
}
