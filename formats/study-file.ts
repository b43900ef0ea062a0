import { z } from "zod";
import {
  own,
  cell,
  completeChoices,
  guessVariable,
  namedTable,
  parseTheory,
  TableBuilder,
  type DerivedVariable,
  type Settings,
  type StudyDefinition,
  type Table,
  type Variable,
  type StudyPlan,
} from "../core";
import { tableOfMoments } from "./moments";
import { guessSeparator, readDelimited } from "./delimited";
import { FormatProblem } from "./problem";
import { schemaWords } from "./schema-words";
import { studySchema, type StudyFile } from "./study-schema";

/** A study with its data, as the app keeps it. */
export interface LoadedStudy {
  definition: StudyDefinition;
  table: Table;
}

/** Reads a CSV file that stands beside the study file; the app has none and refuses. */
export type CsvReader = (path: string) => string;

const noFiles: CsvReader = (path) => {
  throw new FormatProblem(
    `This study file keeps its data in another file (“${path}”), which a browser cannot open by itself. Import that file on the Data screen, or run the study from the command line.`,
  );
};

/**
 * Reads a study file.
 * @throws FormatProblem for anything that is not a study file, naming the field
 */
export function readStudy(text: string, readCsv: CsvReader = noFiles): LoadedStudy {
  const file = parseStudy(text);
  const table = file.data ? tableOf(file.data, readCsv) : declaredTable(file);
  const made = new Set([...file.derived.map((d) => d.name), ...measureNames(file.theory)]);
  for (const [name, { column = name }] of Object.entries(file.variables)) {
    if (made.has(name)) continue;
    if (!table.columns.some((c) => c.name === column)) {
      throw new FormatProblem(
        `The study describes a variable “${column}” that its data do not have. Columns: ${table.columns.map((c) => c.name).join(", ")}.`,
      );
    }
  }
  const variables = describedColumns(file.variables, table);
  const described = Object.entries(file.variables).filter(([name]) => made.has(name));
  const { title, question, unit, derived, corrections, filters, screening, log } = file;
  const definition: StudyDefinition = {
    title,
    question,
    unit,
    variables: [
      ...variables,
      ...described.map(([name, said]) => ({ level: "continuous" as const, ...said, name })),
    ],
    derived: derived as DerivedVariable[],
    corrections,
    filters,
    screening,
    theory: theoryText(file.theory),
    settings: file.settings as Settings,
    log,
  };
  if (file.plan !== undefined) definition.plan = planOf(file.plan);
  if (file.registered !== undefined)
    definition.registered = {
      when: file.registered.when,
      question: file.registered.question,
      unit: file.registered.unit,
      filters: file.registered.filters,
      theory: theoryText(file.registered.theory),
      settings: file.registered.settings as Settings,
      derived: file.registered.derived as DerivedVariable[],
      ...(file.registered.plan ? { plan: planOf(file.registered.plan) } : {}),
    };
  if (file.report !== undefined) definition.report = completeChoices(file.report);
  if (file.resamples !== undefined)
    definition.resamples = rowLists(file.resamples, "Resample", table.rows, readCsv);
  if (file.permutations !== undefined)
    definition.permutations = rowLists(file.permutations, "Permutation", table.rows, readCsv);
  return { definition, table };
}

/** What is not said is left out, so that writing a study gives what was read. */
const planOf = (plan: NonNullable<StudyFile["plan"]>): Partial<StudyPlan> =>
  Object.fromEntries(Object.entries(plan).filter(([, value]) => value !== undefined));

/** A line that holds numbers only, not names. */
const NUMBERS = /^[\s\d,.-]*$/;

/** @throws FormatProblem for a row that the data do not have */
function rowLists(
  given: string | number[][],
  what: string,
  rows: number,
  readCsv: CsvReader,
): number[][] {
  const lists = typeof given === "string" ? linesOf(readCsv(given)) : given;
  lists.forEach((list, r) => {
    const wrong = list.find((row) => !Number.isInteger(row) || row < 0 || row >= rows);
    if (wrong !== undefined)
      throw new FormatProblem(
        `${what} ${r + 1} names row ${wrong}; the rows of the data run from 0 to ${rows - 1}.`,
      );
  });
  return lists;
}

/** Lists of row numbers, one a line, with or without a line of names. */
function linesOf(csv: string): number[][] {
  const lines = csv.trim().split(/\r?\n/);
  const from = NUMBERS.test(lines[0]!) ? 0 : 1;
  return lines.slice(from).map((line) => line.split(",").map(Number));
}

/** One variable for each column: what the file says of it, the rest guessed. */
function describedColumns(said: StudyFile["variables"], table: Table): Variable[] {
  const renamed = Object.entries(said).flatMap(([name, { column }]) =>
    column === undefined ? [] : [{ name, column }],
  );
  const double = renamed.find((v, i) => renamed.findIndex((w) => w.column === v.column) !== i);
  if (double)
    throw new FormatProblem(
      `Two variables stand for the column “${double.column}”. Give it one name.`,
    );
  const named = namedTable(
    table,
    renamed.map((v) => ({ ...v, level: "continuous" })),
  );
  return named.columns.map((column, j) => {
    // Whatever a variable of a matrix is called, it has a variance: it is a number.
    const guessed: Variable = table.moments
      ? { name: column.name, level: "continuous" }
      : guessVariable(column);
    const variable: Variable = {
      ...guessed,
      ...own(said, column.name),
      level: own(said, column.name)?.level ?? guessed.level,
    };
    const source = table.columns[j]!.name;
    if (source === column.name) delete variable.column;
    else variable.column = source;
    return variable;
  });
}

const theoryText = (theory: StudyFile["theory"]): string =>
  Array.isArray(theory) ? theory.join("\n") : theory;

/** Names that measures in the theory make, whether their lines are right or not. */
function measureNames(theory: StudyFile["theory"]): string[] {
  return parseTheory(theoryText(theory), []).named;
}

function parseStudy(text: string): StudyFile {
  const json = parseJson(text);
  const format =
    typeof json === "object" && json !== null && "format" in json ? json.format : undefined;
  if (format !== "hebel-study") {
    throw new FormatProblem(
      "This is not a Hebel study: its “format” is not “hebel-study”. Nothing has been changed.",
    );
  }
  if (
    "version" in (json as object) &&
    typeof (json as { version: unknown }).version === "number" &&
    (json as { version: number }).version > 1
  ) {
    throw new FormatProblem(
      `This study was written by a newer version (format ${(json as { version: number }).version}; this one reads 1). Nothing has been changed.`,
    );
  }
  return check(studySchema, json, "study file");
}

export function parseJson(text: string): unknown {
  try {
    return JSON.parse(text.charCodeAt(0) === 0xfeff ? text.slice(1) : text);
  } catch (error) {
    throw new FormatProblem(
      `This file is not readable JSON, so it is damaged or of another kind (${(error as Error).message}). Nothing has been changed.`,
    );
  }
}

/**
 * Validates against a schema, with the first complaints in words: which field, what it may be, what
 * it is.
 */
export function check<T extends z.ZodType>(schema: T, json: unknown, what: string): z.output<T> {
  const result = schema.safeParse(renamed(json, PROTO, SHIELDED));
  if (result.success) return renamed(result.data, SHIELDED, PROTO) as z.output<T>;
  throw new FormatProblem(
    `The ${what} has a fault: ${schemaWords(result.error.issues, json)}. Nothing has been changed.`,
  );
}

/**
 * The one key that validation drops, though a column may well be called so; it passes under another
 * name.
 */
const PROTO = "__proto__";
const SHIELDED = "\u0000__proto__";

function renamed(value: unknown, from: string, to: string): unknown {
  if (typeof value !== "object" || value === null) return value;
  if (Array.isArray(value)) {
    // Cells hold no names, and there are millions of them.
    return typeof value[0] === "object" ? value.map((v) => renamed(v, from, to)) : value;
  }
  return Object.fromEntries(
    Object.entries(value).map(([key, inner]) => [
      key === from ? to : key,
      renamed(inner, from, to),
    ]),
  );
}

function tableOf(data: NonNullable<StudyFile["data"]>, readCsv: CsvReader): Table {
  if ("columns" in data) {
    const columns = Array.isArray(data.columns)
      ? data.columns
      : Object.entries(data.columns).map(([name, values]) => ({ name, values }));
    return tableOfColumns(columns);
  }
  if ("moments" in data) return tableOfMoments(data.moments);
  const text = "csv" in data ? readCsv(data.csv) : data.text;
  return readDelimited(text, { separator: data.separator ?? guessSeparator(text), headerRow: 1 })
    .table;
}

/** The columns of a study that has no data yet: its declared variables, without a row. */
const declaredTable = ({ variables, derived, theory }: StudyFile): Table => {
  if (Object.keys(variables).length === 0)
    throw new FormatProblem(
      "“data” is missing, and no variables are declared for a study without data.",
    );
  const made = new Set([...derived.map((d) => d.name), ...measureNames(theory)]);
  return tableOfColumns(
    Object.entries(variables)
      .filter(([name]) => !made.has(name))
      .map(([name, { column = name }]) => ({ name: column, values: [] })),
  );
};

type CellValue = string | number | boolean | null;

function tableOfColumns(columns: { name: string; values: CellValue[] }[]): Table {
  const rows = columns[0]?.values.length ?? 0;
  const odd = columns.find((c) => c.values.length !== rows);
  if (odd)
    throw new FormatProblem(
      `Column “${odd.name}” has ${odd.values.length} cells, the first column has ${rows}.`,
    );
  const names = columns.map((c) => c.name);
  const double = names.find((name, i) => names.indexOf(name) !== i);
  if (double !== undefined) throw new FormatProblem(`Two columns are called “${double}”.`);
  const builder = new TableBuilder(names);
  for (let i = 0; i < rows; i++)
    builder.add(columns.map((c) => (c.values[i] === null ? "" : String(c.values[i]))));
  return builder.build();
}

/**
 * Cells as JSON: a number where writing it gives the same text back, null where empty, else the
 * text itself.
 */
function cellToJson(text: string): CellValue {
  if (text === "") return null;
  const value = Number(text);
  return Number.isFinite(value) && String(value) === text ? value : text;
}

/** Writes a study with its data; reading it back gives the same study. */
export function writeStudy({ definition, table }: LoadedStudy): string {
  const {
    title,
    question,
    unit,
    theory,
    settings,
    variables,
    derived,
    corrections,
    filters,
    screening,
    report,
    plan,
    registered,
    log,
  } = definition;
  const file = {
    format: "hebel-study",
    version: 1,
    title,
    question,
    unit,
    theory: theory.split("\n"),
    settings,
    variables: Object.fromEntries(variables.map(({ name, ...rest }) => [name, rest])),
    derived,
    corrections,
    filters,
    screening,
    ...(report ? { report } : {}),
    ...(plan ? { plan } : {}),
    ...(registered ? { registered: { ...registered, theory: registered.theory.split("\n") } } : {}),
    log,
  };
  if (table.moments) {
    const { names, n, means, covariance, standardised } = table.moments;
    // Correlations that came without SDs stay correlations, or the next reader would take their
    // unit variances for known.
    const matrix = standardised ? { correlation: covariance } : { covariance };
    return `${JSON.stringify({ ...file, data: { moments: { names, n, means, ...matrix } } }, null, 2)}\n`;
  }
  const cells = table.columns.map((column) => ({
    name: column.name,
    values: Array.from({ length: table.rows }, (_, i) => cellToJson(cell(column, i))),
  }));
  const head = JSON.stringify({ ...file, data: null }, null, 2).replace(
    /,\n {2}"data": null\n}$/,
    "",
  );
  const columns = cells.map((c) => `      ${JSON.stringify(c)}`).join(",\n");
  return `${head},\n  "data": {\n    "columns": [\n${columns}\n    ]\n  }\n}\n`;
}
