import Papa from "papaparse";
import { INTERVAL_WORDS, percent, type Evidence } from "../core";

/**
 * A cell that a spreadsheet would run as a formula is made plain text by a leading apostrophe; numbers stay numbers.
 */
export function neutralise(value: string): string {
  const isNumber = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(value);
  return !isNumber && /^[=+\-@\t\r]/.test(value) ? `'${value}` : value;
}

/** The effects table as CSV, numbers at full precision. */
export function effectsCsv(evidence: Evidence): string {
  const level = percent(evidence.effects[0]?.shown.level ?? evidence.settings.level);
  const header = [
    "effect",
    "kind",
    "estimate",
    "SE",
    `${level} % CI lower`,
    `${level} % CI upper`,
    "p",
    "interval method",
    "resamples used",
  ];
  const used = evidence.bootstrap ? evidence.bootstrap.done - evidence.bootstrap.failed : "";
  const number = (value: number | null): string => (value === null ? "" : String(value));
  const rows = evidence.effects.map(({ label, kind, estimate, shown }) => [
    label,
    kind.replaceAll("_", " "),
    number(estimate),
    number(shown.se),
    number(shown.lower),
    number(shown.upper),
    number(shown.p),
    INTERVAL_WORDS[shown.method] ?? shown.method,
    String(used),
  ]);
  return `${Papa.unparse([header, ...rows].map((row) => row.map(neutralise)))}\r\n`;
}
