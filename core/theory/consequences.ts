import { nodesOf } from "./moderated-steps";
import type { Adjust, Complaint, Contrast, Define, Formula, LeftOut, Statement } from "./syntax";

/** One line as it was read. */
export interface ReadLine {
  line: number;
  text: string;
  statement: Statement | null;
  faults: readonly Complaint[];
}

/** Names that measures would have had whose own sentences could not be read. */
export function unmeasured(
  named: readonly string[],
  columns: readonly string[],
  lines: readonly ReadLine[],
): string[] {
  const stated = new Set(
    lines.flatMap(({ statement: s }) => (s?.kind === "measure" ? [s.name.name] : [])),
  );
  return named.filter((name) => !stated.has(name) && !columns.includes(name));
}

/** What is said of a name whose measure could not be read. */
export const unmeasuredWords = (name: string): string =>
  `“${name}” is not measured, since its own sentence could not be read.`;

/**
 * Lines of covariates whose outcome nothing explains any more, since the sentences that did are left
 * out: the outcome leaves them, and with the last one the line. Lines are changed in place.
 * @returns what was left out
 */
export function adjustedNoMore(lines: ReadLine[]): LeftOut[] {
  const explained = new Set(lines.flatMap(({ statement }) => explainedBy(statement)));
  return lines.flatMap((read) => {
    const { statement, line, text } = read;
    if (statement?.kind !== "adjust") return [];
    const gone = statement.outcomes.filter((o) => !explained.has(o.name));
    if (gone.length === 0) return [];
    const outcomes = statement.outcomes.filter((o) => explained.has(o.name));
    read.statement = outcomes.length === 0 ? null : ({ ...statement, outcomes } satisfies Adjust);
    return gone.map(({ name }) => ({
      line,
      text,
      label: null,
      name: outcomes.length === 0 ? null : name,
      message: `nothing that can be read explains “${name}” any more.`,
    }));
  });
}

function explainedBy(statement: Statement | null): string[] {
  if (statement?.kind === "also") return statement.steps.map((s) => s.to.name);
  if (statement?.kind === "moderation") return nodesOf(statement).slice(1);
  if (statement?.kind !== "hypothesis") return [];
  return [...statement.chains.flat(), statement.to].map((ref) => ref.name);
}

/**
 * Contrasts and quantities of sentences that are left out follow them, in order, as one quantity may
 * rest on another. Lines are changed in place.
 * @param labels of the sentences that were left out
 * @returns what was left out
 */
export function restingOnNothing(lines: ReadLine[], labels: readonly string[]): LeftOut[] {
  const gone = new Set(labels);
  const explained = new Set(lines.flatMap(({ statement }) => explainedBy(statement)));
  return lines.flatMap((read) => {
    const { statement, line, text } = read;
    if (statement?.kind !== "contrast" && statement?.kind !== "define") return [];
    const { labels: made, outcomes } = restsOn(statement);
    const label = made.find((name) => gone.has(name));
    const outcome = outcomes.find((name) => !explained.has(name));
    if (label === undefined && outcome === undefined) return [];
    read.statement = null;
    if (statement.kind === "define") gone.add(statement.name.name);
    const message =
      label === undefined
        ? `nothing that can be read explains “${outcome}” any more.`
        : `“${label}” is left out itself.`;
    return [{ line, text, label: null, name: null, message }];
  });
}

/** The labels that a contrast or a quantity is made of, and the outcomes of its effects. */
function restsOn(statement: Contrast | Define): { labels: string[]; outcomes: string[] } {
  if (statement.kind === "contrast")
    return { labels: [statement.first.name, statement.second.name], outcomes: [] };
  const parts = partsOf(statement.formula);
  return {
    labels: parts.flatMap((part) => (part.kind === "label" ? [part.ref.name] : [])),
    outcomes: parts.flatMap((part) => (part.kind === "effect" ? [part.to.name] : [])),
  };
}

/** All parts of a formula, without recursion: it may be long. */
function partsOf(formula: Formula): Formula[] {
  const parts = [formula];
  for (let i = 0; i < parts.length; i++) {
    const part = parts[i]!;
    if (part.kind === "negative" || part.kind === "call") parts.push(part.of);
    if (part.kind === "binary") parts.push(part.left, part.right);
  }
  return parts;
}
