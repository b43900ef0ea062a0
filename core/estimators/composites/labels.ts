/** Names of parameters that belong to measurement. */
export const weightLabel = (construct: string, item: string): string =>
  `weight ${construct} ${item}`;
export const loadingLabel = (construct: string, item: string): string =>
  `loading ${construct} ${item}`;
export const turnedLabel = (construct: string): string => `turned ${construct}`;
export const htmtLabel = (a: string, b: string): string => `htmt ${a} ${b}`;
