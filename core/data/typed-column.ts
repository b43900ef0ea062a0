import { inUnitOf, powerOf } from "../numerics/unit";
import { StudyProblem } from "../problems";
import type { TextColumn } from "./table";
import type { Variable } from "./variable";

/** A column as numbers: NaN where missing. */
export interface TypedColumn {
  name: string;
  /** The numbers; for a categorical column the 0-based index of the level. */
  values: Float64Array;
  /** Levels in order, for binary (the level counted as 0 first) and categorical columns. */
  levels: string[] | null;
  /** The values are in units of 2^power: of columns whose numbers could not be squared. */
  power?: number;
}

const NUMBER = /^[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?$/;

/**
 * Reads a cell as a finite number; NaN when it is not one. Accepts the typographic minus, and thin
 * or ordinary spaces or the other mark as thousands separators between groups of three digits.
 */
export function parseNumber(text: string, decimal: "." | "," = "."): number {
  // Nearly every cell of a large file is a plain number; the rest of this function is for people's
  // spreadsheets.
  if (decimal === "." && NUMBER.test(text)) {
    const quick = Number(text);
    return Number.isFinite(quick) ? quick : NaN;
  }
  let t = text.trim().replace(/^\u2212/, "-");
  if (decimal === ",") {
    if (/^[+-]?\d{1,3}(\.\d{3})+(,\d*)?$/.test(t)) t = t.replace(/\./g, "");
    else if (t.includes(".")) return NaN;
    t = t.replace(",", ".");
  } else if (/^[+-]?\d{1,3}(,\d{3})+(\.\d*)?$/.test(t)) t = t.replace(/,/g, "");
  t = t.replace(/(\d)[ \u00a0\u202f](?=\d{3}(\D|$))/g, "$1");
  if (!NUMBER.test(t)) return NaN;
  const value = Number(t);
  return Number.isFinite(value) ? value : NaN;
}

/** Is this cell missing under the variable's codes? An empty cell always is. */
export function isMissing(text: string, variable: Variable): boolean {
  const t = text.trim();
  return t === "" || (variable.missing?.includes(t) ?? false);
}

/** Distinct present cells in order: numbers ascending, else by text. */
export function observedLevels(column: TextColumn, variable: Variable): string[] {
  const present = [...new Set(column.dictionary.map((t) => t.trim()))].filter(
    (t) => !isMissing(t, variable),
  );
  const numbers = present.map((t) => parseNumber(t, variable.decimal));
  return numbers.every((v) => !Number.isNaN(v))
    ? present
        .map((t, i) => [t, numbers[i]!] as const)
        .sort((a, b) => a[1] - b[1])
        .map(([t]) => t)
    : present.sort((a, b) => a.localeCompare(b, "en"));
}

/** The levels of a column: those stated first, in their order, then any others observed. */
export function levelsInOrder(column: TextColumn, variable: Variable): string[] {
  const observed = observedLevels(column, variable);
  if (!variable.levels) return observed;
  const stated = variable.levels.filter((level) => observed.includes(level));
  return [...stated, ...observed.filter((level) => !stated.includes(level))];
}

/**
 * Turns raw cells into numbers under the variable's definition.
 * @throws StudyProblem `not_numeric` naming column and row, `wrong_level` for a binary column with
 *   other than two levels
 */
export function typedColumn(column: TextColumn, variable: Variable): TypedColumn {
  const known = typedAlready.get(column);
  if (known?.variable === variable) return known.typed;
  const typed = typeColumn(column, variable);
  typedAlready.set(column, { variable, typed });
  return typed;
}

/**
 * Neither columns nor definitions ever change, so a column that was read is not read again at every
 * keystroke.
 */
const typedAlready = new WeakMap<TextColumn, { variable: Variable; typed: TypedColumn }>();

function typeColumn(column: TextColumn, variable: Variable): TypedColumn {
  if (variable.level === "categorical")
    return byLevel(column, variable, levelsInOrder(column, variable));
  if (variable.level === "binary") {
    const levels = levelsInOrder(column, variable);
    if (levels.length > 2) {
      throw new StudyProblem(
        "more_than_two_levels",
        { name: column.name, levels },
        { variables: [column.name] },
      );
    }
    if (variable.one !== undefined && levels[0] === variable.one) levels.reverse();
    return byLevel(column, variable, levels);
  }
  return numeric(column, variable);
}

function numeric(column: TextColumn, variable: Variable): TypedColumn {
  const numbers = column.dictionary.map((text) =>
    isMissing(text, variable) ? NaN : parseNumber(text, variable.decimal),
  );
  const bad = column.dictionary.findIndex(
    (text, i) => Number.isNaN(numbers[i]!) && !isMissing(text, variable),
  );
  if (bad >= 0) {
    const row = column.codes.indexOf(bad) + 1;
    throw new StudyProblem(
      "not_a_number",
      { name: column.name, cell: column.dictionary[bad]!, row },
      { variables: [column.name], row },
    );
  }
  const values = new Float64Array(column.codes.length);
  for (let i = 0; i < values.length; i++) values[i] = numbers[column.codes[i]!]!;
  return { name: column.name, values, levels: null };
}

function byLevel(column: TextColumn, variable: Variable, levels: string[]): TypedColumn {
  const index = column.dictionary.map((text) => {
    const at = isMissing(text, variable) ? -1 : levels.indexOf(text.trim());
    return at < 0 ? NaN : at;
  });
  const values = new Float64Array(column.codes.length);
  for (let i = 0; i < values.length; i++) values[i] = index[column.codes[i]!]!;
  return { name: column.name, values, levels };
}

/**
 * The column in a unit in which its numbers can be squared and multiplied; nearly always the column
 * itself.
 */
export function inOrdinaryUnit(column: TypedColumn): TypedColumn {
  if (column.levels) return column;
  const known = rescaled.get(column);
  if (known) return known;
  const power = powerOf(column.values);
  const made = power === 0 ? column : { ...column, values: inUnitOf(column.values, power), power };
  rescaled.set(column, made);
  return made;
}

const rescaled = new WeakMap<TypedColumn, TypedColumn>();
