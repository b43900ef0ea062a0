import type { Level } from "../../core";

/** Measurement levels with what each means for an analysis. */
export const LEVELS: [Level, string][] = [
  ["continuous", "numbers with equal steps"],
  ["ordinal", "ordered answers, used as numbers"],
  ["binary", "two values, used as 0 and 1"],
  ["categorical", "groups, compared by code columns"],
  ["identifier", "names a row; never in an equation"],
];
