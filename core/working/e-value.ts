import { plain } from "../evidence";
import type { Working, WorkingStep } from "./types";

/** An effect as a ratio with its limits, and what would make it nothing. */
export interface EValueParts {
  effect: string;
  /** Of a difference, what the ratio was made of. */
  difference?: { estimate: number; se: number } | undefined;
  ratio: number;
  lower: number;
  upper: number;
  eValue: number;
  eValueOfLimit: number;
}

const above = (ratio: number): number => (ratio >= 1 ? ratio : 1 / ratio);

/** R + √(R (R − 1)) with its numbers; of a ratio below one, of its reciprocal. */
function written(ratio: number, eValue: number): string {
  const r = above(ratio);
  const turned = ratio < 1 ? `R = 1 / ${plain(ratio)} = ${plain(r)}: ` : "";
  return `${turned}${plain(r)} + √(${plain(r)} × ${plain(r - 1)}) = ${plain(eValue)}`;
}

/** Where E-values come from, effect by effect. */
export function eValueWorking(effects: readonly EValueParts[], title: string): Working {
  return {
    title,
    steps: effects.flatMap(({ effect, difference, ratio, lower, upper, ...e }): WorkingStep[] => {
      const limit = ratio >= 1 ? lower : upper;
      const reaches = lower <= 1 && upper >= 1;
      return [
        {
          what: effect,
          formula: "R + √(R (R − 1))",
          numbers: written(ratio, e.eValue),
          source: difference
            ? "R = exp(0.91 d), d the difference in SDs of the outcome (VanderWeele & Ding 2017, Ann Intern Med 167)"
            : "VanderWeele & Ding 2017, Ann Intern Med 167",
        },
        {
          what: `${effect}, its limit`,
          formula: null,
          numbers: reaches
            ? "The interval contains 1, so nothing has to be left out for it to do so: 1"
            : `The limit nearer to 1: ${written(limit, e.eValueOfLimit)}`,
          source: null,
        },
      ];
    }),
    rows: "Those of the effects.",
  };
}
