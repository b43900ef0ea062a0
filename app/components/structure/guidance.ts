/**
 * Conventional thresholds of measurement, as guidance with their sources; nothing here is a
 * verdict.
 */
export const RELIABLE = 0.7;
export const REDUNDANT = 0.95;
export const AVE = 0.5;
export const HTMT = 0.85;

/** What is said of an aspect of measurement, wherever it is shown. */
export const GUIDANCE = {
  reliability:
    "Guidance, not rules: reliability of .70 and more (Nunnally & Bernstein 1994), beyond .95 items repeat one another; AVE of .50 and more, and its root above every correlation with another (Fornell & Larcker 1981).",
  htmt: "HTMT below .85 (strict) or .90 (Henseler, Ringle & Sarstedt 2015).",
};

/** What falls short in the measurement of constructs, by the measures and items that do. */
export interface Shortcomings {
  weakItems: string[];
  /** Below this the loading of an item is called weak. */
  loading: string;
  unreliable: string[];
  /** The coefficient that says so. */
  coefficient: string;
  narrow: string[];
  alike: string[];
  pairs: [string, string][];
}

const list = (names: readonly string[]): string => names.join(", ");
const one = (names: readonly unknown[]): boolean => names.length === 1;

/** What falls short, in sentences; none where nothing does. */
export function shortcomingWords(found: Shortcomings): string[] {
  const { weakItems, loading, unreliable, coefficient, narrow, alike, pairs } = found;
  return [
    ...(weakItems.length > 0
      ? [
          `${list(weakItems)} ${one(weakItems) ? "loads" : "load"} below ${loading} on what ${one(weakItems) ? "it is" : "they are"} meant to measure.`,
        ]
      : []),
    ...(unreliable.length > 0
      ? [`The reliability of ${list(unreliable)} is below .70 (${coefficient}).`]
      : []),
    ...(narrow.length > 0
      ? [
          `The items of ${list(narrow)} share less than half of their variance with what they measure (AVE).`,
        ]
      : []),
    ...(alike.length > 0
      ? [
          `${list(alike)} correlate${one(alike) ? "s" : ""} with another construct more than with ${one(alike) ? "its" : "their"} own items (Fornell-Larcker).`,
        ]
      : []),
    ...(pairs.length > 0
      ? [
          `${list(pairs.map(([a, b]) => `${a} and ${b}`))} are hard to tell apart (HTMT of .85 or more).`,
        ]
      : []),
  ];
}
