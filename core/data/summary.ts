import { extent, mean, standardDeviation } from "../numerics/moments";
import { minus } from "../wording/numbers";
import { isMissing, parseNumber } from "./typed-column";
import type { TextColumn } from "./table";
import type { Variable } from "./variable";

/** What a column card shows: counts, moments and the shape of the distribution. */
export interface ColumnSummary {
  name: string;
  rows: number;
  missing: number;
  distinct: number;
  /**
   * Cells of a numeric column that are neither missing nor numbers (first example and its 1-based
   * row).
   */
  notNumeric: { count: number; example: string; row: number } | null;
  mean: number | null;
  sd: number | null;
  min: number | null;
  max: number | null;
  /** Counts by level, or of equal-width bins for numbers with many values. */
  bars: { label: string; count: number }[];
  constant: boolean;
}

const MAX_BARS = 14;

/** Summarises a column under its definition; every number describes the present cells. */
export function summarise(column: TextColumn, variable: Variable): ColumnSummary {
  const counts = new Float64Array(column.dictionary.length);
  for (let i = 0; i < column.codes.length; i++)
    counts[column.codes[i]!] = counts[column.codes[i]!]! + 1;
  const present = column.dictionary
    .map((text, i) => ({ text: text.trim(), count: counts[i]! }))
    .filter((e) => e.count > 0 && !isMissing(e.text, variable));
  const used = present.reduce((sum, e) => sum + e.count, 0);
  const distinct = new Set(present.map((e) => e.text)).size;
  const summary: ColumnSummary = {
    name: column.name,
    rows: column.codes.length,
    missing: column.codes.length - used,
    distinct,
    notNumeric: null,
    mean: null,
    sd: null,
    min: null,
    max: null,
    bars: [],
    constant: distinct === 1,
  };
  if (variable.level === "identifier") return summary;
  const isCategory = variable.level === "categorical" || variable.level === "binary";
  const numbers = present.map((e) => parseNumber(e.text, variable.decimal));
  if (isCategory && numbers.some((v) => Number.isNaN(v))) {
    summary.bars = levelBars(present);
    return summary;
  }
  const bad = present.filter((_, i) => Number.isNaN(numbers[i]!));
  if (bad.length > 0) {
    const example = bad[0]!.text;
    const code = column.dictionary.findIndex((t) => t.trim() === example);
    const count = bad.reduce((sum, e) => sum + e.count, 0);
    summary.notNumeric = { count, example, row: column.codes.indexOf(code) + 1 };
  }
  const values = expand(present, numbers);
  if (values.length > 0) {
    const [min, max] = extent(values);
    Object.assign(summary, { mean: mean(values), min, max });
    summary.sd = values.length > 1 ? standardDeviation(values) : null;
    const few = present.length - bad.length <= MAX_BARS;
    summary.bars = few
      ? present
          .map((e, i) => ({ label: e.text, count: e.count, at: numbers[i]! }))
          .filter((e) => !Number.isNaN(e.at))
          .sort((a, b) => a.at - b.at)
          .map(({ label, count }) => ({ label, count }))
      : equalWidthBars(values, min, max);
  }
  return summary;
}

function expand(present: { count: number }[], numbers: number[]): Float64Array {
  const total = present.reduce((sum, e, i) => sum + (Number.isNaN(numbers[i]!) ? 0 : e.count), 0);
  const values = new Float64Array(total);
  let at = 0;
  present.forEach((e, i) => {
    if (Number.isNaN(numbers[i]!)) return;
    values.fill(numbers[i]!, at, at + e.count);
    at += e.count;
  });
  return values;
}

function levelBars(present: { text: string; count: number }[]) {
  const sorted = [...present].sort((a, b) => a.text.localeCompare(b.text, "en"));
  const shown = sorted.slice(0, MAX_BARS).map((e) => ({ label: e.text, count: e.count }));
  const rest = sorted.slice(MAX_BARS);
  if (rest.length > 0)
    shown.push({ label: `${rest.length} more`, count: rest.reduce((s, e) => s + e.count, 0) });
  return shown;
}

/** Counts in equal-width bins from min to max. */
export function equalWidthBars(
  values: ArrayLike<number>,
  min: number,
  max: number,
  bins = MAX_BARS,
) {
  // Halves, so that the distance between the ends of the range of numbers is one too.
  const width = (max / 2 - min / 2) / (bins / 2);
  const counts = new Array<number>(bins).fill(0);
  for (let i = 0; i < values.length; i++) {
    const at = Math.min(bins - 1, Math.floor((values[i]! / 2 - min / 2) / (width / 2)));
    counts[at] = counts[at]! + 1;
  }
  return counts.map((count, i) => ({
    label: `${tidy(min + i * width)} to ${tidy(min + (i + 1) * width)}`,
    count,
  }));
}

const tidy = (value: number): string => minus(String(Number(value.toPrecision(3))));
