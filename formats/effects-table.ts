import Papa from "papaparse";
import {
  cautionsTold,
  intervalName,
  leftOutTold,
  provisionalTold,
  percent,
  referenceName,
  type Evidence,
} from "../core";

/**
 * A cell that a spreadsheet would run as a formula is made plain text by a leading apostrophe;
 * numbers stay numbers.
 */
export function neutralise(value: string): string {
  const isNumber = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(value);
  return !isNumber && /^[=+\-@\t\r]/.test(value) ? `'${value}` : value;
}

/**
 * The effects table as CSV, numbers at full precision; what must not be reported has its reason
 * instead of numbers.
 */
export function effectsCsv(evidence: Evidence): string {
  const level = percent(evidence.settings.level);
  const header = [
    "effect",
    "kind",
    "estimate",
    "SE",
    `${level} % CI lower`,
    `${level} % CI upper`,
    "p",
    "interval method",
    "p rests on",
    "resamples used",
    "note",
  ];
  const used = evidence.bootstrap ? evidence.bootstrap.done - evidence.bootstrap.failed : "";
  const number = (value: number | null | undefined): string => (value == null ? "" : String(value));
  const rows = evidence.effects.map(({ id, label, kind, estimate, shown, withheld }) => [
    label,
    kind.replaceAll("_", " "),
    shown ? number(estimate) : "",
    number(shown?.se),
    number(shown?.lower),
    number(shown?.upper),
    number(shown?.p),
    shown ? intervalName(shown) : "",
    shown ? referenceName(shown) : "",
    shown?.reference === "bootstrap" ? String(used) : "",
    [
      ...leftOutTold(evidence),
      ...provisionalTold(evidence),
      withheld ?? cautionsAbout(evidence, id),
    ]
      .join(" ")
      .trim(),
  ]);
  const told = [...leftOutTold(evidence), ...provisionalTold(evidence)];
  if (rows.length === 0 && told.length > 0)
    rows.push(header.map((_, j) => (j === header.length - 1 ? told.join(" ") : "")));
  return `${Papa.unparse([header, ...rows].map((row) => row.map(neutralise)))}\r\n`;
}

/** What has to be known of the hypotheses that claim this effect. */
const cautionsAbout = ({ hypotheses }: Evidence, id: string): string =>
  cautionsTold(hypotheses.filter(({ effects }) => effects.includes(id))).join(" ");
