import Papa from "papaparse";
import { FormatProblem } from "./problem";
import { guessHeaderRow, HEAD_ROWS, RowCollector, type ReadTable } from "./row-collector";

export const SEPARATORS = [",", ";", "\t", "|"] as const;
export type Separator = (typeof SEPARATORS)[number];

export interface DelimitedOptions {
  separator: Separator;
  /** Row that holds the names of the columns, from 1; 0 when the first row is data. */
  headerRow: number;
}

/** Progress is told after so many rows. */
const PROGRESS_ROWS = 2000;

const stripMark = (text: string): string => (text.charCodeAt(0) === 0xfeff ? text.slice(1) : text);

/** The separator that splits the first lines most evenly into the most columns. */
export function guessSeparator(text: string): Separator {
  const head = stripMark(text).slice(0, 20_000);
  let best: Separator = ",";
  let bestScore = 0;
  for (const separator of SEPARATORS) {
    const { data } = Papa.parse<string[]>(head, {
      delimiter: separator,
      preview: 20,
      skipEmptyLines: true,
    });
    const widths = data.slice(0, Math.max(1, data.length - 1)).map((row) => row.length);
    // Title lines above the table are narrower than it, so the most frequent width counts.
    const width = mostFrequent(widths);
    const even = widths.filter((w) => w === width).length / Math.max(1, widths.length);
    const score = width > 1 ? width * even ** 4 : 0;
    if (score > bestScore) {
      best = separator;
      bestScore = score;
    }
  }
  return best;
}

function mostFrequent(values: number[]): number {
  const counts = new Map<number, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0]?.[0] ?? 1;
}

/** The row that holds the names of the columns; 0 for none. */
export function guessHeader(text: string, separator: Separator): number {
  const { data } = Papa.parse<string[]>(stripMark(text).slice(0, 100_000), {
    delimiter: separator,
    preview: HEAD_ROWS,
  });
  return guessHeaderRow(data);
}

/**
 * Reads delimited text into a table of raw cells.
 * @param progress told the share that has been read
 * @throws FormatProblem naming row and column for an unclosed quote or a row with too many cells
 */
export function readDelimited(
  text: string,
  { separator, headerRow }: DelimitedOptions,
  progress?: (share: number) => void,
): ReadTable {
  const body = stripMark(text);
  if (body.trim() === "")
    throw new FormatProblem(
      "The file is empty. Choose a file with a row of column names and one row for each person.",
    );
  const collector = new RowCollector({ headerRow, beyond: "refuse" });
  let line = 0;
  let problem: unknown = null;
  Papa.parse<string[]>(body, {
    delimiter: separator,
    step: ({ data, errors, meta }, parser) => {
      line += 1;
      if (progress && line % PROGRESS_ROWS === 0) progress(meta.cursor / body.length);
      try {
        if (errors.some((e) => e.type === "Quotes")) {
          const at = data.findIndex((c) => c.includes("\n")) + 1 || data.length;
          throw new FormatProblem(
            `Row ${line}, column ${at}: a quotation mark is opened but not closed properly. Correct the quotes in that row and import again.`,
          );
        }
        collector.add(line, data);
      } catch (error) {
        problem = error;
        parser.abort();
      }
    },
  });
  if (problem) throw problem;
  return collector.finish();
}
