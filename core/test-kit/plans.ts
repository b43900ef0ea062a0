import type { Level, Variable } from "../data";
import { DEFAULT_SETTINGS, newDefinition, type Settings, type StudyDefinition } from "../study";

/** Declared variables, sizes and studies, as the tests of planning write them. */
export const variable = (name: string, level: Level = "continuous", more = {}): Variable => ({
  name,
  level,
  ...more,
});
export const items = (letter: string, k: number): Variable[] =>
  Array.from({ length: k }, (_, i) => variable(`${letter}${i + 1}`, "ordinal", { range: [1, 5] }));
export const size = (from: string, to: string, value: number) => ({
  from: from.split(" x "),
  to,
  size: value,
});

export function study(
  variables: Variable[],
  theory: string,
  settings: Partial<Settings> = {},
): StudyDefinition {
  return {
    ...newDefinition("plan", variables),
    theory,
    settings: { ...DEFAULT_SETTINGS, interval: "percentile", ...settings },
  };
}
