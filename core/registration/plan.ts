import type { DerivedVariable, RowFilter } from "../derive";
import type { StudyPlan } from "../planning/plan";
import type { Settings, StudyDefinition } from "../study";

/** A study's plan as it was laid down, to be held against what was done later. */
export interface Registration {
  /** ISO 8601, UTC. */
  when: string;
  question: string;
  unit: string;
  theory: string;
  settings: Settings;
  derived: DerivedVariable[];
  filters: RowFilter[];
  /** What was expected, and how many people were planned. */
  plan?: Partial<StudyPlan>;
}

/** The plan of a study as it stands. @param when the moment, ISO 8601: the core has no clock */
export const registrationOf = (
  { question, unit, theory, settings, derived, filters, plan }: StudyDefinition,
  when: string,
): Registration => ({
  when,
  question,
  unit,
  theory,
  settings,
  derived,
  filters,
  ...(plan ? { plan } : {}),
});
