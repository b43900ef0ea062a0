import {
  parseTheory,
  renameInTheory,
  writeStatement,
  type ArrowRef,
  type FreedArrow,
  type Hypothesis,
  type NameRef,
  type Statement,
  type StudyDefinition,
} from "../../../core";

const at = { line: 1, column: 1, length: 1 };
export const ref = (name: string): NameRef => ({ ...at, name });

/** Replaces, or with null removes, one line (1-based) of a text. */
export function replaceLine(text: string, line: number, by: string | null): string {
  const lines = text.split("\n");
  lines.splice(line - 1, 1, ...(by === null ? [] : [by]));
  return lines.join("\n");
}

export function appendLine(text: string, line: string): string {
  const body = text.replace(/\s+$/, "");
  return body === "" ? line : `${body}\n${line}`;
}

/** Writes a changed statement in place of its line. */
export const rewrite = (text: string, statement: Statement): string =>
  replaceLine(text, statement.line, writeStatement(statement));

/**
 * The theory with one more arrow that may differ between groups; null where no line speaks of
 * groups.
 */
export function freedInTheory(
  { theory, variables, derived }: Pick<StudyDefinition, "theory" | "variables" | "derived">,
  { kind, from, to }: FreedArrow,
): string | null {
  const names = [...variables, ...derived].map((v) => v.name);
  const groups = parseTheory(theory, names).statements.find((s) => s.kind === "groups");
  if (!groups) return null;
  const arrow: ArrowRef =
    kind === "variance" || kind === "intercept"
      ? { kind, of: ref(to) }
      : { kind, from: ref(from), to: ref(to) };
  return rewrite(theory, { ...groups, free: [...groups.free, arrow] });
}

/** A label at the beginning of a line, whether the rest of it can be read or not. */
const LABEL = /^[ \t]*([^\s:]+)[ \t]*:/gm;

/** The next free label H1, H2, … @param text of the theory: lines that wait keep their labels */
export function nextLabel(statements: readonly Statement[], text: string): string {
  const taken = new Set([
    ...statements.flatMap((s) =>
      s.kind === "hypothesis" || s.kind === "moderation" ? [s.label] : [],
    ),
    ...Array.from(text.matchAll(LABEL), ([, label]) => label!),
  ]);
  let k = 1;
  while (taken.has(`H${k}`)) k += 1;
  return `H${k}`;
}

export function newHypothesis(
  statements: readonly Statement[],
  text: string,
  from: string,
  to: string,
): string {
  const hypothesis: Hypothesis = {
    kind: "hypothesis",
    line: 0,
    label: nextLabel(statements, text),
    numbered: false,
    from: ref(from),
    verb: "raises",
    to: ref(to),
    chains: [],
    only: false,
  };
  return writeStatement(hypothesis);
}

/**
 * One variable instead of another in every sentence; a measure keeps its own name, whatever its
 * items become.
 */
export function exchange(
  text: string,
  statements: readonly Statement[],
  from: string,
  to: string,
): string {
  const kept = new Set(
    statements.flatMap((s) => (s.kind === "measure" && s.name.name === from ? [s.line] : [])),
  );
  return text
    .split("\n")
    .map((line, i) => (kept.has(i + 1) ? line : renameInTheory(line, from, to)))
    .join("\n");
}

/** The variables that a sentence names, apart from the names of measures where they are made. */
export const namedIn = (
  text: string,
  statements: readonly Statement[],
  variables: readonly string[],
): string[] => variables.filter((name) => exchange(text, statements, name, `not ${name}`) !== text);
