import Papa from "papaparse";
import { own, parseNumber, type Level, type Variable } from "../core";
import { guessSeparator } from "./delimited";
import { neutralise } from "./effects-table";
import { FormatProblem } from "./problem";

const COLUMNS = [
  "variable",
  "label",
  "level",
  "unit",
  "lowest",
  "highest",
  "missing codes",
  "value labels",
] as const;
type Column = (typeof COLUMNS)[number];
const LEVELS: Level[] = ["continuous", "ordinal", "binary", "categorical", "identifier"];

/** Words that head the same column in codebooks of other origin. */
const SYNONYMS: Record<string, Column> = {
  name: "variable",
  column: "variable",
  description: "label",
  "variable label": "label",
  "measurement level": "level",
  type: "level",
  min: "lowest",
  minimum: "lowest",
  max: "highest",
  maximum: "highest",
  missing: "missing codes",
  "missing values": "missing codes",
  labels: "value labels",
  values: "value labels",
};

/** What is known of the variables, as a CSV that people can edit. */
export function codebookCsv(variables: Variable[]): string {
  const rows = variables.map((v) => [
    v.name,
    v.label ?? "",
    v.level,
    v.unit ?? "",
    v.range ? String(v.range[0]) : "",
    v.range ? String(v.range[1]) : "",
    (v.missing ?? []).join(" | "),
    Object.entries(v.labels ?? {})
      .map(([code, label]) => `${code} = ${label}`)
      .join(" | "),
  ]);
  return `${Papa.unparse([[...COLUMNS], ...rows].map((row) => row.map(neutralise)))}\r\n`;
}

export interface Codebook {
  variables: Variable[];
  /** What was changed, and what could not be used. */
  notes: string[];
  changed: number;
}

/**
 * Takes what a codebook says over into the variables of a study. Columns may come in any order; an
 * empty cell says nothing.
 * @throws FormatProblem when no column names the variables
 */
export function applyCodebook(text: string, variables: Variable[]): Codebook {
  const { data } = Papa.parse<string[]>(text.replace(/^\ufeff/, ""), {
    delimiter: guessSeparator(text),
    skipEmptyLines: "greedy",
  });
  const heads = (data[0] ?? []).map((h) => h.trim().toLowerCase());
  const columns = heads.map((h) =>
    (COLUMNS as readonly string[]).includes(h) ? (h as Column) : own(SYNONYMS, h),
  );
  if (!columns.includes("variable")) {
    throw new FormatProblem(
      `A codebook needs a column “variable” with the names of the columns. Found: ${heads.join(", ") || "nothing"}.`,
    );
  }
  const notes: string[] = [];
  const said = new Map<string, Partial<Variable>>();
  const unknown: string[] = [];
  data.slice(1).forEach((row, i) => {
    const cells = new Map(
      columns.flatMap((c, j) => (c && row[j]?.trim() ? [[c, plainText(row[j])] as const] : [])),
    );
    const name = cells.get("variable");
    if (name === undefined) return;
    if (!variables.some((v) => v.name === name || v.column === name)) unknown.push(name);
    else said.set(name, readEntry(cells, name, i + 2, notes));
  });
  if (unknown.length > 0) {
    notes.push(
      `The data have no ${unknown.length === 1 ? "column" : "columns"} ${unknown.map((n) => `“${n}”`).join(", ")}; ${unknown.length === 1 ? "its line was" : "their lines were"} not used.`,
    );
  }
  let changed = 0;
  const merged = variables.map((v) => {
    const next = { ...v, ...(said.get(v.name) ?? said.get(v.column ?? v.name)) };
    if (JSON.stringify(next) !== JSON.stringify(v)) changed += 1;
    return next;
  });
  return { variables: merged, notes, changed };
}

/** The apostrophe that keeps a spreadsheet from running a cell is no part of the text. */
const plainText = (text: string): string => text.trim().replace(/^'(?=[=+\-@])/, "");

function readEntry(
  cells: Map<Column, string>,
  name: string,
  line: number,
  notes: string[],
): Partial<Variable> {
  const entry: Partial<Variable> = {};
  const label = cells.get("label");
  if (label !== undefined) entry.label = label;
  const unit = cells.get("unit");
  if (unit !== undefined) entry.unit = unit;
  const level = cells.get("level")?.toLowerCase();
  if (level !== undefined) {
    if ((LEVELS as string[]).includes(level)) entry.level = level as Level;
    else
      notes.push(
        `Line ${line}: “${level}” is no level of measurement; ${name} keeps its own. Levels are ${LEVELS.join(", ")}.`,
      );
  }
  const [low, high] = [cells.get("lowest"), cells.get("highest")].map((t) =>
    t === undefined ? NaN : parseNumber(t),
  );
  if (!Number.isNaN(low!) && !Number.isNaN(high!)) {
    if (low! < high!) entry.range = [low!, high!];
    else
      notes.push(
        `Line ${line}: the range of ${name} runs from ${low} to ${high}; it was not used.`,
      );
  }
  const missing = cells.get("missing codes");
  if (missing !== undefined)
    entry.missing = missing
      .split(/[|;,]/)
      .map((t) => t.trim())
      .filter((t) => t !== "");
  const labels = cells.get("value labels");
  if (labels !== undefined) {
    const pairs = labels.split(/[|;\n]/).flatMap((part) => {
      const at = part.indexOf("=");
      return at > 0 ? [[part.slice(0, at).trim(), part.slice(at + 1).trim()] as const] : [];
    });
    if (pairs.length > 0) entry.labels = Object.fromEntries(pairs);
    else
      notes.push(
        `Line ${line}: the value labels of ${name} should read “1 = never | 2 = sometimes”; they were not used.`,
      );
  }
  return entry;
}
