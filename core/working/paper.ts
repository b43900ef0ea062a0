import { minus, pClause, percent, plain } from "../evidence";
import type { WorkingStep } from "./types";

/** A value as it stands within a formula: in brackets where it is negative. */
export const operand = (value: number): string => (value < 0 ? `(${plain(value)})` : plain(value));

/** With two decimals, however large. */
export const two = (value: number): string => minus(value.toFixed(2));

/** An estimate with its error, and what was read off both. */
export interface Tested {
  estimate: number;
  se: number;
  lower: number | null;
  upper: number | null;
  p: number | null;
}

/**
 * The test of an estimate and its interval as steps, from estimate and error.
 * @param name of the ratio: “z”, “t(96)”
 * @param level of the interval
 */
export function testSteps({ estimate, se, lower, upper, p }: Tested, name: string, level: number) {
  const steps: WorkingStep[] = [];
  if (!(se > 0)) return steps;
  if (lower !== null && upper !== null)
    steps.push({
      what: `${percent(level)} % interval`,
      formula: `estimate ± point of ${name.replace(/\(.*/, "")} × SE`,
      numbers: `${plain(estimate)} ± ${plain((upper - lower) / (2 * se))} × ${plain(se)} = [${plain(lower)}, ${plain(upper)}]`,
      source: null,
    });
  steps.push({
    what: "p",
    formula: `${name} = estimate / SE`,
    numbers: `${plain(estimate)} / ${plain(se)} = ${plain(estimate / se)}${p === null ? "" : `, two-tailed ${pClause(p)}`}`,
    source: null,
  });
  return steps;
}

/** A step without a source. */
export const step = (what: string, formula: string | null, numbers: string): WorkingStep => ({
  what,
  formula,
  numbers,
  source: null,
});

/** A step with its source. */
export const sourced = (
  what: string,
  formula: string | null,
  numbers: string,
  source: string,
): WorkingStep => ({ what, formula, numbers, source });
