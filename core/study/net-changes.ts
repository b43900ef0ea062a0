import { recipeWords } from "../derive";
import { DECLARATIONS, RENAMED } from "./change-log";
import type { StudyDefinition } from "./definition";

/** A declaration of a variable in the log: its name, what was declared, and how that changed. */
const DECLARED = new RegExp(
  `^(.+): (${DECLARATIONS.join("|")}) (?:is (.*)|changed from (.*) to (.*)|taken away)$`,
);

/** So many names are listed; beyond that they are counted. */
const MOST_NAMED = 3;

/**
 * What was changed in the data, by its result: derived variables as they are now, cells that were
 * corrected, counted by column, filters that are on, and declarations that are not what they were,
 * one for all columns that share it. What was made and taken back is not in it; the log has every
 * step. Measures are described where they are reported.
 */
export function netChanges(definition: StudyDefinition): string[] {
  return [
    ...definition.derived.map(
      ({ name, recipe }) =>
        `new variable ${name}: ${recipeWords(recipe)}${reasonOf(definition, [`new variable ${name}:`, `variable ${name} is now`])}`,
    ),
    ...corrected(definition),
    ...definition.filters
      .filter((f) => f.active)
      .map(
        (f) =>
          `left out as “${f.name}”: ${f.rule.kind === "condition" ? `rows where ${f.rule.formula}` : counted(f.rule.rows.length, "row")}${reasonOf(definition, [`left out as “${f.name}”`])}`,
      ),
    ...declared(definition),
    ...renamed(definition),
  ];
}

/** The last reason that was given for a change, in parentheses. */
function reasonOf({ log }: StudyDefinition, beginnings: readonly string[]): string {
  const found = log.findLast(
    ({ what, why }) => why !== "" && beginnings.some((begin) => what.startsWith(begin)),
  );
  return found ? ` (${found.why.replace(/\.$/, "")})` : "";
}

function corrected({ corrections }: StudyDefinition): string[] {
  const byColumn = grouped(corrections, (c) => c.column);
  return [...byColumn].map(([column, own]) =>
    own.length <= MOST_NAMED
      ? `${column} corrected ${own.map((c) => `in row ${c.row} from “${c.from}” to “${c.to}”`).join(", ")}`
      : `${own.length} cells of ${column} corrected`,
  );
}

/** Declarations whose value differs from the first one, gathered over columns. */
function declared({ log, variables }: StudyDefinition): string[] {
  const known = new Set(variables.map((v) => v.name));
  const net = new Map<string, { name: string; what: string; first: string; last: string }>();
  log.forEach((entry, at) => {
    const match = DECLARED.exec(entry.what);
    if (!match) return;
    const [, called, what, is, from, to] = match;
    const name = nameNow(called!, log.slice(at + 1));
    if (!known.has(name)) return;
    const key = `${name}\n${what}`;
    const before = net.get(key);
    net.set(key, {
      name,
      what: what!,
      first: before?.first ?? from ?? "",
      last: is ?? to ?? "",
    });
  });
  const changed = [...net.values()].filter(({ first, last }) => first !== last);
  const alike = grouped(changed, ({ what, last }) => `${what}\n${last}`);
  return [...alike.values()].map((group) => {
    const { what, last } = group[0]!;
    const names = group.map((g) => g.name);
    const on = names.length <= MOST_NAMED ? names.join(", ") : `${names.length} columns`;
    return what === "missing codes"
      ? last === ""
        ? `no code counts as missing on ${on}`
        : `${last} ${last.includes(",") ? "count" : "counts"} as missing on ${on}`
      : `${what} of ${on} ${last === "" ? "taken away" : `set to ${last}`}`;
  });
}

/** What a column is called after later entries. */
const nameNow = (name: string, later: StudyDefinition["log"]): string =>
  later.reduce((now, { what }) => {
    const match = RENAMED.exec(what);
    return match?.[1] === now ? match[2]! : now;
  }, name);

/** Columns that the data call otherwise, apart from wordings that are their labels. */
function renamed({ variables }: StudyDefinition): string[] {
  const own = variables.filter((v) => v.column !== undefined && v.column !== v.label);
  if (own.length === 0) return [];
  return own.length <= MOST_NAMED
    ? own.map((v) => `${v.column!} is called ${v.name}`)
    : [`${own.length} columns were given other names`];
}

function grouped<T>(items: readonly T[], key: (item: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const item of items) groups.set(key(item), [...(groups.get(key(item)) ?? []), item]);
  return groups;
}

const counted = (count: number, what: string): string =>
  `${count} ${what}${count === 1 ? "" : "s"}`;
