import { isMissing, parseNumber } from "./typed-column";
import type { TextColumn } from "./table";
import type { Level, Variable } from "./variable";

/** Codes that spreadsheets of questionnaires use for "no answer". */
const USUAL_MISSING = [
  "NA",
  "N/A",
  "n/a",
  "na",
  "NaN",
  "nan",
  ".",
  "-99",
  "-999",
  "-9999",
  "99999",
  "#N/A",
  "#DIV/0!",
  "#VALUE!",
  "#REF!",
  "#NAME?",
  "#NUM!",
  "NULL",
  "null",
];

/** At most this many whole-number values look like a rating scale. */
const ORDINAL_VALUES = 7;

/**
 * First reading of a column: its level, decimal mark and missing codes, all open to change.
 * A whole-number code such as -99 counts as missing only where every other value is at least zero.
 */
export function guessVariable(column: TextColumn): Variable {
  const texts = someOf(column.dictionary)
    .map((t) => t.trim())
    .filter((t) => t !== "");
  const decimal = guessDecimal(texts);
  const words = texts.filter((t) => USUAL_MISSING.includes(t) && Number.isNaN(parseNumber(t)));
  const rest = texts.filter((t) => !words.includes(t));
  const codes = rest.filter((t) => USUAL_MISSING.includes(t) && t.startsWith("-"));
  const others = rest.filter((t) => !codes.includes(t));
  const negatives = others.some((t) => parseNumber(t, decimal) < 0);
  const missing = [...words, ...(negatives || others.length === 0 ? [] : codes)];
  const variable: Variable = { name: column.name, level: "continuous" };
  if (missing.length > 0) variable.missing = missing;
  if (decimal === ",") variable.decimal = ",";
  variable.level = guessLevel(column, variable);
  return variable;
}

/**
 * At most this many distinct cells are read for a guess: enough to tell, and a large file stays
 * quick.
 */
const ENOUGH = 3000;

/**
 * All distinct cells of a column, or an even choice of them together with every usual missing code.
 */
function someOf(dictionary: string[]): string[] {
  if (dictionary.length <= ENOUGH) return dictionary;
  const step = dictionary.length / ENOUGH;
  const chosen = Array.from({ length: ENOUGH }, (_, i) => dictionary[Math.floor(i * step)]!);
  // The first letter rules nearly every cell out before a look-up has to read the rest.
  const first = new Set(USUAL_MISSING.map((t) => t.charCodeAt(0)));
  const codes = new Set(USUAL_MISSING);
  return [
    ...new Set([
      ...chosen,
      ...dictionary.filter((t) => first.has(t.charCodeAt(0)) && t.length < 7 && codes.has(t)),
    ]),
  ];
}

/** A comma is the decimal mark when some number needs it and none uses a decimal point. */
export function guessDecimal(texts: readonly string[]): "." | "," {
  let commas = 0;
  for (const t of texts) {
    if (/^[+-]?\d+\.\d+$/.test(t) && !/^[+-]?\d{1,3}\.\d{3}$/.test(t)) return ".";
    if (/^[+-]?(\d{1,3}(\.\d{3})+|\d+),\d+$/.test(t) && Number.isNaN(parseNumber(t, ".")))
      commas += 1;
    else if (/^[+-]?\d+,\d{3}$/.test(t)) commas += 0;
    else if (/^[+-]?\d+,\d+$/.test(t)) commas += 1;
  }
  return commas > 0 ? "," : ".";
}

/** Heads of columns that number the rows, in the languages that spreadsheets come in. */
const COUNTED = /^(#|nr|no|num|number|nummer|lfd|lfd\.? ?nr|index|row|zeile|n°|nº)\.?$/i;

/** Are these 1, 2, … to the number of rows, or the like from another beginning, each once? */
function countsRows({ dictionary, codes }: TextColumn): boolean {
  const numbers = new Set(dictionary.map((text) => parseNumber(text.trim())));
  if (numbers.size < codes.length) return false;
  let [first, last] = [Infinity, -Infinity];
  for (const value of numbers) [first, last] = [Math.min(first, value), Math.max(last, value)];
  return last - first === numbers.size - 1;
}

/**
 * The level that the cells of a column suggest, once those are passed over that the variable calls
 * missing.
 * @example answers 1 to 7 and a 99: continuous; the same with 99 called missing: ordinal
 */
export function guessLevel(column: TextColumn, variable: Variable): Level {
  const present = [...new Set(someOf(column.dictionary).map((t) => t.trim()))].filter(
    (t) => !isMissing(t, variable),
  );
  const numbers = present.map((t) => parseNumber(t, variable.decimal));
  const allNumeric = numbers.every((v) => !Number.isNaN(v));
  const rows = column.codes.length;
  if (present.length === 2) return "binary";
  if (
    /^(id|case|code|participant|respondent|person)([_ .-]?(id|no|nr|number))?$/i.test(
      column.name.trim(),
    )
  ) {
    if (column.dictionary.length > 0.9 * rows) return "identifier";
  }
  if (!allNumeric) {
    // A long list of texts is a name or a comment; a few stray words among numbers are typing
    // errors to be shown.
    const share = numbers.filter((v) => !Number.isNaN(v)).length / numbers.length;
    if (share > 0.8) return "continuous";
    return present.length > 30 && column.dictionary.length > 0.5 * rows
      ? "identifier"
      : "categorical";
  }
  const whole = numbers.every((v) => Number.isInteger(v));
  if (whole && COUNTED.test(column.name.trim()) && countsRows(column)) return "identifier";
  return whole && present.length <= ORDINAL_VALUES ? "ordinal" : "continuous";
}
