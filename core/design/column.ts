import { mean } from "../numerics/moments";

/** One column of a design matrix: a numeric variable, or one code column of a categorical one. */
export interface Column {
  /** `hours`, or `group.1` for the first code column of `group`. */
  key: string;
  variable: string;
  /** For people: `hours`, or `group: weekly against waiting list`. */
  label: string;
  /** Code columns only: what the coefficient compares. */
  contrast: string | null;
  values: Float64Array;
  sd: number;
  /** Products only: the columns multiplied, each about its centre. */
  components: Column[] | null;
}

/** Coding of a categorical variable as used. */
export interface UsedCoding {
  variable: string;
  coding: string;
  levels: string[];
  counts: number[];
  columns: { key: string; contrast: string; codes: number[] }[];
}

/** A binary column as it enters: which of its values is 1. */
export interface BinaryCoding {
  variable: string;
  /** Levels as people call them. */
  zero: string;
  one: string;
}

/** Where a column is centred within products: a number at its mean, a code column nowhere. */
export const centreOf = (column: Column): number =>
  column.contrast === null ? mean(column.values) : 0;
