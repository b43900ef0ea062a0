import type { Variable } from "../data";
import { recipeWords, type RowFilter } from "../derive";
import { renamesBetween, renameVariable } from "./rename-variable";
import type { LogEntry, StudyDefinition } from "./definition";

/**
 * What changed between two states of a study's data, variables and measures, in words; changes of
 * wording are no entry.
 */
export function describeChange(earlier: StudyDefinition, after: StudyDefinition): string[] {
  const renames = renamesBetween(earlier, after);
  const before = renames.reduce(
    (study, [from, to]) => ({ ...study, ...renameVariable(study, from, to) }),
    earlier,
  );
  return [
    ...renames.map(([from, to]) => `${from} is called ${to}`),
    ...variableChanges(before.variables, after.variables),
    ...listChanges(before.derived, after.derived, (d) => d.name, {
      added: (d) => `new variable ${d.name}: ${recipeWords(d.recipe)}`,
      removed: (d) => `variable ${d.name} removed (${recipeWords(d.recipe)})`,
      changed: (d) => `variable ${d.name} is now ${recipeWords(d.recipe)}`,
    }),
    ...listChanges(before.corrections, after.corrections, (c) => `${c.column} ${c.row}`, {
      added: (c) => `${c.column} in row ${c.row} corrected from “${c.from}” to “${c.to}”`,
      removed: (c) => `${c.column} in row ${c.row} is “${c.from}” again`,
      changed: (c) => `${c.column} in row ${c.row} corrected to “${c.to}”`,
    }),
    ...listChanges(before.filters, after.filters, (f) => f.name, {
      added: (f) => `left out as “${f.name}”: ${ruleWords(f)}`,
      removed: (f) => `filter “${f.name}” removed; its rows are back`,
      changed: (f, old) =>
        f.active === old.active
          ? `filter “${f.name}” is now ${ruleWords(f)}`
          : `filter “${f.name}” switched ${f.active ? "on" : "off"}`,
    }),
    ...measureChanges(before.theory, after.theory),
  ];
}

/** The state after a change with the change written into its log. */
export function withLog(
  before: StudyDefinition,
  after: StudyDefinition,
  when: string,
  why: string,
): StudyDefinition {
  const entries: LogEntry[] = describeChange(before, after).map((what) => ({ when, what, why }));
  return { ...after, log: [...before.log, ...entries] };
}

interface Words<T> {
  added: (item: T) => string;
  removed: (item: T) => string;
  changed: (item: T, before: T) => string;
}

function listChanges<T>(
  before: T[],
  after: T[],
  key: (item: T) => string,
  words: Words<T>,
): string[] {
  const old = new Map(before.map((item) => [key(item), item]));
  const now = new Set(after.map(key));
  return [
    ...after.flatMap((item) => {
      const known = old.get(key(item));
      if (!known) return [words.added(item)];
      return JSON.stringify(known) === JSON.stringify(item) ? [] : [words.changed(item, known)];
    }),
    ...before.filter((item) => !now.has(key(item))).map(words.removed),
  ];
}

function ruleWords({ rule }: RowFilter): string {
  if (rule.kind === "condition") return `rows where ${rule.formula}`;
  const some = rule.rows.slice(0, 6).join(", ");
  return `${rule.rows.length === 1 ? "row" : "rows"} ${some}${rule.rows.length > 6 ? ` and ${rule.rows.length - 6} more` : ""}`;
}

/** What of a variable is declared, by the names that the log has for it. */
export const DECLARATIONS = [
  "level",
  "missing codes",
  "decimal mark",
  "range",
  "order of levels",
  "level that counts as 1",
  "coding",
  "reference level",
] as const;

/** What the log says of a column that was given another name. */
export const RENAMED = /^(.+) is called (.+)$/;

const PARTS: [keyof Variable, string, (variable: Variable) => string][] = [
  ["level", "level", (v) => v.level],
  ["label", "label", (v) => v.label ?? ""],
  ["unit", "unit", (v) => v.unit ?? ""],
  ["missing", "missing codes", (v) => (v.missing ?? []).join(", ")],
  ["decimal", "decimal mark", (v) => v.decimal ?? "."],
  ["range", "range", (v) => (v.range ? `${v.range[0]} to ${v.range[1]}` : "")],
  [
    "labels",
    "value labels",
    (v) =>
      Object.entries(v.labels ?? {})
        .map(([code, label]) => `${code} = ${label}`)
        .join(", "),
  ],
  ["levels", "order of levels", (v) => (v.levels ?? []).join(", ")],
  ["one", "level that counts as 1", (v) => v.one ?? ""],
  ["coding", "coding", (v) => v.coding ?? "indicator"],
  ["reference", "reference level", (v) => v.reference ?? ""],
];

function variableChanges(before: Variable[], after: Variable[]): string[] {
  const old = new Map(before.map((v) => [v.name, v]));
  return after.flatMap((variable) => {
    const known = old.get(variable.name);
    if (!known || known === variable) return [];
    return PARTS.flatMap(([, what, read]) => {
      const [from, to] = [read(known), read(variable)];
      if (from === to) return [];
      return [
        `${variable.name}: ${what} ${to === "" ? "taken away" : from === "" ? `is ${to}` : `changed from ${from} to ${to}`}`,
      ];
    });
  });
}

/**
 * Lines of the theory that state a measure; the other lines are hypotheses, which a log of the data
 * leaves out.
 */
function measureChanges(before: string, after: string): string[] {
  const measures = (text: string): Map<string, string> =>
    new Map(
      text
        .split("\n")
        .map((line) => line.trim())
        .flatMap((line) => {
          const match = /^measure\s+("[^"]*"|\S+)\s+(.+)$/.exec(line);
          return match ? [[match[1]!, match[2]!] as const] : [];
        }),
    );
  const [old, now] = [measures(before), measures(after)];
  return [
    ...[...now].flatMap(([name, rest]) => {
      const known = old.get(name);
      if (known === undefined) return [`new measure ${name} ${rest}`];
      return known === rest ? [] : [`measure ${name} now ${rest}`];
    }),
    ...[...old.keys()].filter((name) => !now.has(name)).map((name) => `measure ${name} removed`),
  ];
}
