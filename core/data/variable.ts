/** Measurement level of a column. */
export type Level = "continuous" | "ordinal" | "binary" | "categorical" | "identifier";

/** How the k - 1 columns of a categorical predictor are made. */
export type Coding = "indicator" | "sequential" | "helmert" | "effect";

/** What the researcher says of a column; the raw cells stay as they are. */
export interface Variable {
  name: string;
  /** What the data call it, where that is another name. */
  column?: string;
  level: Level;
  label?: string;
  unit?: string;
  /** Cells that mean "no answer", as text ("-99"); an empty cell is always missing. */
  missing?: string[];
  /** Decimal mark of the numbers in this column. */
  decimal?: "." | ",";
  /** Levels of a binary, ordinal or categorical column in their order; default ascending. */
  levels?: string[];
  /** Binary only: the level that counts as 1; default the last in order. */
  one?: string;
  /**
   * Lowest and highest value that can occur; others are range errors, and reversing uses these
   * limits.
   */
  range?: [number, number];
  /** What the codes of the answers mean: "1" is "never". */
  labels?: Record<string, string>;
  coding?: Coding;
  /** Reference level of indicator and effect coding; default the first in order. */
  reference?: string;
}
