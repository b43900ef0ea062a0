/**
 * Names of parameters that belong to measurement; of every group but the first they bear its name.
 */
export const weightLabel = (construct: string, item: string): string =>
  `weight ${construct} ${item}`;
export const loadingLabel = (construct: string, item: string): string =>
  `loading ${construct} ${item}`;
export const turnedLabel = (construct: string): string => `turned ${construct}`;
export const htmtLabel = (a: string, b: string): string => `htmt ${a} ${b}`;

/** @param group name of a group other than the first; null for the first, and where there is one */
export const labelIn = (group: string | null, label: string): string =>
  group === null ? label : `${label} [${group}]`;
