import type { Registration, StudyDefinition } from "../study";

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
