import {
  cell,
  findColumn,
  isMissing,
  numbersOf,
  parseNumber,
  type TextColumn,
  type Variable,
} from "../data";
import { findVariable, type Dataset } from "./dataset";
import { formulaValues, readFormulaText } from "../derive";
import { own } from "../data/own";
import { StudyProblem } from "../problems";

/**
 * 0-based rows for which a condition holds, ascending.
 * @throws StudyProblem `formula` or `unknown_variable`, saying what was expected
 */
export function rowsWhere(dataset: Dataset, formula: string): Int32Array {
  const holds = formulaValues(readFormulaText(formula), {
    rows: dataset.table.rows,
    numbers: (name) => {
      const { column, variable } = known(dataset, name);
      return numbersOf(column, variable);
    },
    texts: (name) => {
      const { column, variable } = known(dataset, name);
      const texts = column.dictionary.map((text) =>
        isMissing(text, variable) ? null : text.trim(),
      );
      return (row) => texts[column.codes[row]!]!;
    },
  });
  return Int32Array.from(Array.from(holds.keys()).filter((i) => holds[i]! > 0));
}

function known(dataset: Dataset, name: string): { column: TextColumn; variable: Variable } {
  const found = findVariable(dataset, name);
  if (!found)
    throw new StudyProblem(
      "no_column",
      { name },
      {
        variables: [name],
      },
    );
  return found;
}

/**
 * Rows in the order of a column: numbers before words, missing cells last; rows that are equal keep
 * their order.
 */
export function sortRows(
  rows: Int32Array,
  column: TextColumn,
  variable: Variable,
  descending: boolean,
): Int32Array {
  const rank = new Float64Array(column.dictionary.length);
  const entries = column.dictionary.map((text, code) => ({
    code,
    text: text.trim(),
    value: parseNumber(text, variable.decimal),
    gap: isMissing(text, variable),
  }));
  const numbers = entries
    .filter((e) => !e.gap && !Number.isNaN(e.value))
    .sort((a, b) => a.value - b.value);
  const words = entries
    .filter((e) => !e.gap && Number.isNaN(e.value))
    .sort((a, b) => a.text.localeCompare(b.text, "en"));
  let at = 0;
  let before: number | string | null = null;
  for (const e of [...numbers, ...words]) {
    const key = Number.isNaN(e.value) ? e.text : e.value;
    if (before !== null && key !== before) at += 1;
    before = key;
    rank[e.code] = at;
  }
  const sign = descending ? -1 : 1;
  const key = (row: number): number => {
    const code = column.codes[row]!;
    return entries[code]!.gap ? Infinity : sign * rank[code]!;
  };
  const keys = new Map(Array.from(rows, (row) => [row, key(row)]));
  return Int32Array.from(
    Array.from(rows).sort((a, b) => {
      const [x, y] = [keys.get(a)!, keys.get(b)!];
      return x === y ? a - b : x < y ? -1 : 1;
    }),
  );
}

export interface CellPlace {
  /** Position in the order shown. */
  row: number;
  /** Position among the columns shown. */
  column: number;
}

/**
 * The next cell that holds a text, reading row by row after a place and round to the beginning;
 * null when none does.
 */
export function findCell(
  dataset: Dataset,
  order: Int32Array,
  names: readonly string[],
  text: string,
  after: CellPlace | null,
): CellPlace | null {
  const wanted = text.trim().toLowerCase();
  if (wanted === "" || names.length === 0 || order.length === 0) return null;
  const columns = names.map((name) => findColumn(dataset.table, name)!);
  const matches = columns.map((column) =>
    column.dictionary.map((t) => t.toLowerCase().includes(wanted)),
  );
  const size = order.length * names.length;
  const from = after ? after.row * names.length + after.column + 1 : 0;
  for (let k = 0; k < size; k++) {
    const at = (from + k) % size;
    const [row, column] = [Math.floor(at / names.length), at % names.length];
    if (matches[column]![columns[column]!.codes[order[row]!]!]) return { row, column };
  }
  return null;
}

/** A cell as it is shown: by its label where one is known and wanted. */
export function shownText(
  column: TextColumn,
  variable: Variable,
  row: number,
  labels: boolean,
): string {
  const text = cell(column, row);
  return (labels && own(variable.labels, text.trim())) || text;
}
