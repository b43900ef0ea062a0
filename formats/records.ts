import { own, TableBuilder, type Table } from "../core";
import { FormatProblem } from "./problem";
import { isHollow, uniqueNames, type ReadTable } from "./row-collector";

const textOf = (value: unknown): string => {
  if (value === null || value === undefined) return "";
  if (typeof value !== "object") return String(value);
  try {
    return JSON.stringify(value);
  } catch {
    throw new FormatProblem(
      "This JSON is nested far too deeply to be a table. It should be a list of objects, one for each person, such as [{“hours”: 3, “age”: 40}].",
    );
  }
};

/** Is this JSON something a table can be made of? */
export const isRecords = (json: unknown): boolean => Array.isArray(json);

/**
 * A table from JSON: an array of objects (the keys are the columns), or an array of arrays whose
 * first one holds the names.
 * @throws FormatProblem naming the entry that is neither
 */
export function readRecords(json: unknown): ReadTable {
  if (!Array.isArray(json) || json.length === 0) {
    throw new FormatProblem(
      "This JSON holds no records. It should be a list of objects, one for each person, such as [{“hours”: 3, “age”: 40}].",
    );
  }
  if (json.every(Array.isArray)) return arrays(json as unknown[][]);
  const bad = json.findIndex(
    (entry) => typeof entry !== "object" || entry === null || Array.isArray(entry),
  );
  if (bad >= 0) {
    throw new FormatProblem(
      `Entry ${bad + 1} of this JSON is ${JSON.stringify(json[bad]).slice(0, 40)}, not an object with one value for each column.`,
    );
  }
  const names = [...new Set(json.flatMap((entry) => Object.keys(entry as object)))];
  if (names.length === 0) throw new FormatProblem("The records of this JSON have no fields.");
  const present = (json as object[]).reduce((sum, entry) => sum + Object.keys(entry).length, 0);
  if (isHollow(json.length * names.length - present, present))
    throw new FormatProblem(
      `The ${json.length} records of this JSON have ${names.length} different fields, and hardly any in common. A table has the same fields in every record.`,
    );
  const builder = new TableBuilder(names);
  for (const entry of json as Record<string, unknown>[])
    builder.add(names.map((name) => textOf(own(entry, name))));
  const notes: string[] = [];
  const short = (json as object[]).filter(
    (entry) => Object.keys(entry).length < names.length,
  ).length;
  if (short > 0)
    notes.push(
      `${short} ${short === 1 ? "record lacks" : "records lack"} some of the fields; those cells count as missing.`,
    );
  return { table: named(builder.build(), uniqueNames(names, notes)), notes };
}

function arrays(rows: unknown[][]): ReadTable {
  const notes: string[] = [];
  const names = uniqueNames(rows[0]!.map(textOf), notes);
  const builder = new TableBuilder(names);
  rows.slice(1).forEach((row, i) => {
    if (row.length > names.length)
      throw new FormatProblem(
        `Row ${i + 2} of this JSON has ${row.length} values for ${names.length} columns.`,
      );
    builder.add(row.map(textOf));
  });
  const table = builder.build();
  if (table.rows === 0) throw new FormatProblem("This JSON has names but no rows.");
  return { table, notes };
}

const named = (table: Table, names: string[]): Table => ({
  ...table,
  columns: table.columns.map((c, j) => ({ ...c, name: names[j]! })),
});
