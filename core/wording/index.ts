import { COMPOSITE_PROBLEMS } from "./composite-problems";
import { DATA_PROBLEMS } from "./data-problems";
import { FORMULA_PROBLEMS } from "./formula-problems";
import { MEASURE_PROBLEMS } from "./measure-problems";
import { PLANNING_PROBLEMS } from "./planning-problems";
import { RESPONSE_PROBLEMS } from "./response-problems";
import { SETTINGS_PROBLEMS } from "./settings-problems";
import { STRUCTURE_PROBLEMS } from "./structure-problems";
import { THEORY_PROBLEMS } from "./theory-problems";

/** Every condition that stops an analysis, with its words: the one place where they are said. */
export const PROBLEMS = {
  ...COMPOSITE_PROBLEMS,
  ...DATA_PROBLEMS,
  ...FORMULA_PROBLEMS,
  ...MEASURE_PROBLEMS,
  ...PLANNING_PROBLEMS,
  ...RESPONSE_PROBLEMS,
  ...SETTINGS_PROBLEMS,
  ...STRUCTURE_PROBLEMS,
  ...THEORY_PROBLEMS,
};

export type Condition = keyof typeof PROBLEMS;
/** What has to be known of a condition to say it. */
export type ConditionData<C extends Condition> = Parameters<(typeof PROBLEMS)[C]["say"]>[0];

export { heldWords, listed, quoted } from "./condition";
export type { FormulaFault } from "./formula-problems";
export { warning, warningsIn } from "./warnings";
export type { WarningWords } from "./warnings";
export { WITHHELD } from "./withheld";
