import {
  cell,
  findColumn,
  guessVariable,
  isMissing,
  namedTable,
  parseNumber,
  type Table,
  type TextColumn,
  type Variable,
} from "../data";
import { usesOf } from "./dataset";
import type { StudyDefinition } from "../study";

/** A study whose data are about to be replaced: what becomes of it, and what no longer fits. */
export interface Replacement {
  definition: StudyDefinition;
  /** What no longer fits, in words; nothing has been changed yet. */
  misfits: string[];
  /** What comes along without trouble, in words. */
  notes: string[];
}

/**
 * Fits a study to newer data. Columns are matched by the name they have in the data; rows by the
 * identifier where there is one that names every row once in both files, else not at all.
 * @param variables what was said of the new columns on import
 */
export function replaceData(
  definition: StudyDefinition,
  old: Table,
  newer: Table,
  variables: Variable[] = [],
): Replacement {
  const before = namedTable(old, definition.variables);
  const after = namedTable(newer, definition.variables);
  const misfits: string[] = [];
  const notes: string[] = [];
  const names = after.columns.map((c) => c.name);
  const gone = before.columns.filter((c) => !names.includes(c.name));
  const fresh = names.filter((name) => !findColumn(before, name));
  for (const { name } of gone) {
    const uses = usesOf(
      definition,
      name,
      before.columns.map((c) => c.name),
    );
    misfits.push(
      `The newer file has no column “${name}”${uses.length > 0 ? `, which is used by ${uses.join(", ")}` : ""}.`,
    );
  }
  if (fresh.length > 0) notes.push(`New columns: ${fresh.join(", ")}.`);
  if (after.rows !== before.rows) notes.push(`${after.rows} rows instead of ${before.rows}.`);
  const said = new Map(definition.variables.map((v) => [v.name, v]));
  const described = after.columns.map((column, j): Variable => {
    const source = newer.columns[j]!.name;
    const fresh = variables.find((v) => v.name === source) ?? guessVariable(column);
    const stated = said.get(column.name);
    const known = stated && asWritten(column, stated, fresh);
    if (known) misfits.push(...unfitCells(column, known));
    if (known && known.decimal !== stated.decimal)
      notes.push(
        `“${column.name}” is written with decimal ${known.decimal === "," ? "commas" : "points"} in the newer file.`,
      );
    return (
      known ?? {
        ...fresh,
        name: column.name,
        ...(source === column.name ? {} : { column: source }),
      }
    );
  });
  const made = definition.variables.filter(
    (v) => !findColumn(before, v.name) && !names.includes(v.name),
  );
  const rowOf = rowMap(before, after, definition.variables);
  const corrections = definition.corrections.flatMap((c) => {
    const row = rowOf ? rowOf(c.row) : c.row;
    const column = findColumn(after, c.column);
    if (column && row !== null && row <= after.rows && cell(column, row - 1) === c.from)
      return [{ ...c, row }];
    misfits.push(
      `The correction of “${c.column}” in row ${c.row} (“${c.from}” to “${c.to}”) has no such cell in the newer file and is dropped.`,
    );
    return [];
  });
  const filters = definition.filters.map((filter) => {
    if (filter.rule.kind === "condition") return filter;
    if (!rowOf) {
      misfits.push(
        `“${filter.name}” leaves rows out by their number, and the files share no identifier, so it is switched off. Check its rows.`,
      );
      return { ...filter, active: false };
    }
    const rows = filter.rule.rows.map(rowOf).filter((r) => r !== null);
    if (rows.length < filter.rule.rows.length) {
      misfits.push(
        `${filter.rule.rows.length - rows.length} of the rows of “${filter.name}” are not in the newer file.`,
      );
    }
    return { ...filter, rule: { ...filter.rule, rows } };
  });
  return {
    definition: { ...definition, variables: [...described, ...made], corrections, filters },
    misfits,
    notes,
  };
}

/** A variable with the decimal mark of this file, where its own leaves fewer cells numbers. */
function asWritten(column: TextColumn, known: Variable, { decimal }: Variable): Variable {
  if ((known.decimal ?? ".") === (decimal ?? ".")) return known;
  const other: Variable = { ...known };
  if (decimal) other.decimal = decimal;
  else delete other.decimal;
  const numbers = (variable: Variable): number =>
    column.dictionary.filter((t) => !Number.isNaN(parseNumber(t.trim(), variable.decimal))).length;
  return numbers(other) > numbers(known) ? other : known;
}

/** Cells of a column that no longer suit what was said of it. */
function unfitCells(column: TextColumn, variable: Variable): string[] {
  const present = [...new Set(column.dictionary.map((t) => t.trim()))].filter(
    (t) => !isMissing(t, variable),
  );
  if (variable.level === "continuous" || variable.level === "ordinal") {
    const bad = present.filter((t) => Number.isNaN(parseNumber(t, variable.decimal)));
    if (bad.length === 0) return [];
    return [
      `“${column.name}” is ${variable.level}, but the newer file has ${bad
        .slice(0, 3)
        .map((t) => `“${t}”`)
        .join(", ")}${bad.length > 3 ? ", …" : ""} in it.`,
    ];
  }
  if (variable.level === "binary" && present.length > 2)
    return [
      `“${column.name}” is binary, but the newer file has ${present.length} different values in it.`,
    ];
  if (variable.levels) {
    const extra = present.filter((t) => !variable.levels!.includes(t));
    if (extra.length > 0)
      return [
        `“${column.name}” has new levels in the newer file: ${extra.slice(0, 4).join(", ")}.`,
      ];
  }
  return [];
}

/**
 * Old row -> new row by a shared identifier (both from 1), null for rows that are gone; null when
 * there is no identifier.
 */
function rowMap(
  before: Table,
  after: Table,
  variables: Variable[],
): ((row: number) => number | null) | null {
  for (const { name } of variables.filter((v) => v.level === "identifier")) {
    const old = findColumn(before, name);
    const fresh = findColumn(after, name);
    if (!old || !fresh) continue;
    const at = new Map<string, number>();
    for (let i = 0; i < after.rows; i++) at.set(cell(fresh, i).trim(), i + 1);
    const oldIds = new Set(Array.from({ length: before.rows }, (_, i) => cell(old, i).trim()));
    if (at.size === after.rows && oldIds.size === before.rows)
      return (row) => (row <= before.rows ? (at.get(cell(old, row - 1).trim()) ?? null) : null);
  }
  return null;
}
