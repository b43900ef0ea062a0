/**
 * One line of a working: what is found, how, with which numbers, and where the method comes from.
 */
export interface WorkingStep {
  what: string;
  /** The formula by names; null where words say it. */
  formula: string | null;
  /** The formula with its numbers and what comes out, or the method in words. */
  numbers: string;
  source: string | null;
}

/** Where a number comes from. */
export interface Working {
  title: string;
  steps: WorkingStep[];
  /** The rows behind it. */
  rows: string;
}
