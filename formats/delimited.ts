import Papa from "papaparse";
import { TableBuilder, type Table } from "../core";
import { FormatProblem } from "./problem";

export const SEPARATORS = [",", ";", "\t", "|"] as const;
export type Separator = (typeof SEPARATORS)[number];

export interface DelimitedOptions {
  separator: Separator;
  /** Whether the first row holds the names of the columns. */
  header: boolean;
}

export interface DelimitedTable {
  table: Table;
  /** What was mended on the way: renamed columns, short rows, rows left out because they are empty. */
  notes: string[];
}

const stripMark = (text: string): string => (text.charCodeAt(0) === 0xfeff ? text.slice(1) : text);

/** The separator that splits the first lines most evenly into the most columns. */
export function guessSeparator(text: string): Separator {
  const head = stripMark(text).slice(0, 20_000);
  let best: Separator = ",";
  let bestScore = 0;
  for (const separator of SEPARATORS) {
    const { data } = Papa.parse<string[]>(head, { delimiter: separator, preview: 20, skipEmptyLines: true });
    const widths = data.slice(0, Math.max(1, data.length - 1)).map((row) => row.length);
    const width = widths[0] ?? 1;
    const even = widths.filter((w) => w === width).length / Math.max(1, widths.length);
    const score = width > 1 ? width * even ** 4 : 0;
    if (score > bestScore) {
      best = separator;
      bestScore = score;
    }
  }
  return best;
}

/** Names in the first row: mostly words, no empty cells to speak of. */
export function guessHeader(text: string, separator: Separator): boolean {
  const { data } = Papa.parse<string[]>(stripMark(text).slice(0, 20_000), { delimiter: separator, preview: 1 });
  const cells = (data[0] ?? []).map((c) => c.trim()).filter((c) => c !== "");
  const words = cells.filter((c) => !/^[+-]?[\d.,]+$/.test(c));
  return cells.length > 0 && words.length >= cells.length / 2;
}

/**
 * Reads delimited text into a table of raw cells.
 * @throws FormatProblem naming row and column for an unclosed quote or a row with too many cells
 */
export function readDelimited(text: string, options: DelimitedOptions): DelimitedTable {
  const body = stripMark(text);
  if (body.trim() === "")
    throw new FormatProblem("The file is empty. Choose a file with a row of column names and one row for each person.");
  const notes: string[] = [];
  let names: string[] | null = null;
  let builder: TableBuilder | null = null;
  let line = 0;
  let empty = 0;
  let blank = 0;
  let short = 0;
  let problem: FormatProblem | null = null;
  Papa.parse<string[]>(body, {
    delimiter: options.separator,
    step: ({ data, errors }, parser) => {
      line += 1;
      const cells = data;
      const fail = (message: string): void => {
        problem = new FormatProblem(message);
        parser.abort();
      };
      const quote = errors.find((e) => e.type === "Quotes");
      if (quote) {
        const at = cells.findIndex((c) => c.includes("\n")) + 1 || cells.length;
        fail(
          `Row ${line}, column ${at}: a quotation mark is opened but not closed properly. Correct the quotes in that row and import again.`,
        );
        return;
      }
      if (cells.every((c) => c.trim() === "")) {
        blank += 1;
        return;
      }
      // Blank lines at the end are no rows; in a file of one column those before are missing cells.
      if (names?.length === 1) for (; blank > 0; blank--) builder!.add([""]);
      empty += blank;
      blank = 0;
      if (names === null) {
        names = options.header ? uniqueNames(cells, notes) : cells.map((_, i) => `column_${i + 1}`);
        builder = new TableBuilder(names);
        if (options.header) return;
      }
      const extra = cells.findIndex((c, i) => i >= names!.length && c.trim() !== "");
      if (extra >= 0) {
        fail(
          `Row ${line} has ${cells.length} cells but there are ${names.length} columns; the first too many is “${cells[extra]}” in column ${extra + 1}. Is the separator right, or does a text with a separator lack its quotes?`,
        );
        return;
      }
      if (cells.length < names.length) short += 1;
      builder!.add(cells);
    },
  });
  if (problem) throw problem;
  if (!builder) throw new FormatProblem("The file holds no cells. Choose another file.");
  const table = withoutEmptyTail((builder as TableBuilder).build(), notes);
  if (table.rows === 0) throw new FormatProblem("The file has column names but no rows beneath them. Is the first row really a header?");
  if (empty > 0) notes.push(`${empty} empty ${empty === 1 ? "row was" : "rows were"} left out.`);
  if (short > 0)
    notes.push(`${short} ${short === 1 ? "row has" : "rows have"} fewer cells than columns; the rest of those rows counts as missing.`);
  return { table, notes };
}

/** Spreadsheets write separators past the last column: those columns have neither a name nor a cell. */
function withoutEmptyTail(table: Table, notes: string[]): Table {
  const columns = [...table.columns];
  while (columns.length > 1) {
    const last = columns.at(-1)!;
    const note = notes.findIndex((text) => text.startsWith(`Column ${columns.length} has no name`));
    if (note < 0 || last.dictionary.some((text) => text.trim() !== "")) break;
    notes.splice(note, 1);
    columns.pop();
  }
  return { ...table, columns };
}

/** Names without blanks or doubles, so that every column can be told apart. */
export function uniqueNames(cells: string[], notes: string[]): string[] {
  const seen = new Set<string>();
  return cells.map((cell, i) => {
    const wanted = cell.trim() || `column_${i + 1}`;
    let name = wanted;
    for (let k = 2; seen.has(name); k++) name = `${wanted}_${k}`;
    if (!cell.trim()) notes.push(`Column ${i + 1} has no name; it is called “${name}”.`);
    else if (name !== wanted) notes.push(`“${wanted}” names two columns; column ${i + 1} is called “${name}”.`);
    seen.add(name);
    return name;
  });
}
