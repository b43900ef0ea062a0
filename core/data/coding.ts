import { StudyProblem } from "../problems";
import type { Coding } from "./variable";

/** One column of a categorical predictor's coding. */
export interface CodeColumn {
  /** 1-based position among the k - 1 columns. */
  index: number;
  /** Code of each level, in the order of the levels. */
  codes: number[];
  /**
   * What its coefficient compares, with no other term in the equation: "weekly against waiting
   * list".
   */
  contrast: string;
}

/**
 * The k - 1 code columns of a categorical variable with levels l_1..l_k. Sources: indicator and
 * effect coding (Cohen et al. 2003, ch. 8), sequential and Helmert coding (ibid.).
 * @param levels the k observed levels in their order
 * @param reference level left out by indicator and effect coding; default the first
 */
export function codeColumns(
  variable: string,
  levels: string[],
  coding: Coding,
  reference?: string,
): CodeColumn[] {
  const k = levels.length;
  if (k < 2) {
    throw new StudyProblem("one_level", { name: variable, levels }, { variables: [variable] });
  }
  const base = reference === undefined ? 0 : levels.indexOf(reference);
  if (base < 0) {
    throw new StudyProblem(
      "no_such_reference",
      { name: variable, reference: reference!, levels },
      { variables: [variable] },
    );
  }
  const others = levels.map((_, i) => i).filter((i) => i !== base);
  return Array.from({ length: k - 1 }, (_, at) => {
    const j = at + 1;
    switch (coding) {
      case "indicator":
        return column(
          j,
          (i) => (i === others[at] ? 1 : 0),
          `${levels[others[at]!]} against ${levels[base]}`,
        );
      case "effect":
        return column(
          j,
          (i) => (i === others[at] ? 1 : i === base ? -1 : 0),
          `${levels[others[at]!]} against the mean of all levels`,
        );
      case "sequential":
        return column(j, (i) => (i >= j ? 1 : 0), `${levels[j]} against ${levels[j - 1]}`);
      case "helmert":
        return column(
          j,
          (i) => (i < j - 1 ? 0 : i === j - 1 ? -(k - j) / (k - j + 1) : 1 / (k - j + 1)),
          `later levels against ${levels[j - 1]}`,
        );
    }
  });

  function column(index: number, code: (level: number) => number, contrast: string): CodeColumn {
    return { index, codes: levels.map((_, i) => code(i)), contrast };
  }
}
