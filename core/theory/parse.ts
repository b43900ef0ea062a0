import { isResponseLine, readCompare, readControl, readResponseModel } from "./response-lines";
import {
  adjustedNoMore,
  restingOnNothing,
  unmeasured,
  unmeasuredWords,
  type ReadLine,
} from "./consequences";
import { readFormula } from "./formula";
import { nearestName } from "./nearest";
import { readMeasure } from "./measure";
import { readModeration } from "./moderation";
import { LineError, Reader } from "./reader";
import { readCovary, readFree, readGroups, readHold } from "./structure-lines";
import type {
  Complaint,
  Hypothesis,
  LeftOut,
  Moderation,
  NameRef,
  Statement,
  Theory,
} from "./syntax";
import { tokenise, type Token } from "./tokens";
import { isMediates, MODERATION_VERBS, moderationVerbOf, THROUGH, verbOf, VERBS } from "./verbs";

/**
 * Reads the text of a theory, one sentence a line. A line that cannot be read becomes a complaint
 * and the others still count, so estimates do not vanish while a sentence is being typed. A measure
 * may be used on any line, also above the one that states it.
 * @param variables names of the study's columns, raw and derived
 */
export function parseTheory(text: string, variables: readonly string[]): Theory {
  const lines = text
    .split(/\r?\n/)
    .map((content, index) => ({ content, line: index + 1, ...tokenise(content, index + 1) }));
  const measures = lines.flatMap(({ tokens }) =>
    tokens[0]?.text === "measure" && tokens[1] ? [tokens[1].text] : [],
  );
  const read = (names: readonly string[]): ReadLine[] =>
    lines.map(({ content, line, tokens, complaints }) => {
      const text = content.trim();
      if (complaints.length > 0) return { line, text, statement: null, faults: complaints };
      if (tokens.length === 0) return { line, text, statement: null, faults: [] };
      return {
        line,
        text,
        ...readLine(tokens, (own) =>
          readStatement(
            new Reader(own, line, content.trimEnd().length, names),
            line,
            variables,
            measures,
          ),
        ),
      };
    });
  const known = [...new Set([...variables, ...measures])];
  const first = read(known);
  const gone = unmeasured(measures, variables, first);
  const rest = gone.length === 0 ? first : read(known.filter((name) => !gone.includes(name)));
  const theory: Theory = { statements: [], named: measures, complaints: [], leftOut: [] };
  rest.forEach((line, i) => {
    theory.leftOut.push(
      ...leftOutOf(line, lines[i]!.tokens).map((part) => explainedAs(part, line.faults, gone)),
    );
    // What follows from another line's fault is told, but is no fault of this line.
    theory.complaints.push(...first[i]!.faults);
  });
  if (theory.leftOut.length > 0) {
    const labels = theory.leftOut.flatMap(({ label, name }) =>
      name === null ? (label ?? []) : [],
    );
    theory.leftOut.push(...adjustedNoMore(rest), ...restingOnNothing(rest, labels));
  }
  theory.statements.push(...rest.flatMap(({ statement }) => statement ?? []));
  numberUnlabelled(theory);
  complainOfDoubleLabels(theory);
  return theory;
}

/** A part that is left out for want of a measure says so, instead of calling the name unknown. */
function explainedAs(
  part: LeftOut,
  faults: readonly Complaint[],
  gone: readonly string[],
): LeftOut {
  const fault = faults.find((f) => f.message === part.message);
  return fault?.unknown !== undefined && gone.includes(fault.unknown)
    ? { ...part, message: unmeasuredWords(fault.unknown) }
    : part;
}

/** So many missing names of one line are left out one by one; with more it is no line of this study. */
const MOST_LEFT_OUT = 100;

/**
 * Reads one line. Of a line of covariates a name that nothing is called by is left out alone, since
 * a model without the other covariates would be another one.
 */
function readLine(
  tokens: Token[],
  of: (tokens: Token[]) => Statement,
  most = MOST_LEFT_OUT,
): { statement: Statement | null; faults: Complaint[] } {
  try {
    return { statement: of(tokens), faults: [] };
  } catch (error) {
    if (!(error instanceof LineError)) throw error;
    const { complaint } = error;
    const alone = { statement: null, faults: [complaint] };
    if (tokens[0]!.text !== "adjust" || complaint.unknown === undefined || most === 0) return alone;
    const rest = readLine(withoutName(tokens, complaint.column), of, most - 1);
    return rest.statement ? { ...rest, faults: [complaint, ...rest.faults] } : alone;
  }
}

/** The tokens of a list without one of its names and the comma or “and” that comes with it. */
function withoutName(tokens: Token[], column: number): Token[] {
  const at = tokens.findIndex((token) => token.column === column);
  const joins = (token: Token | undefined): boolean => token?.text === "," || token?.text === "and";
  const before = joins(tokens[at - 1]) ? at - 1 : at;
  const after = before === at && joins(tokens[at + 1]) ? at + 2 : at + 1;
  return [...tokens.slice(0, before), ...tokens.slice(after)];
}

function leftOutOf({ text, statement, faults }: ReadLine, tokens: readonly Token[]): LeftOut[] {
  const label = tokens[1]?.text === ":" ? tokens[0]!.text : null;
  return (statement ? faults : faults.slice(0, 1)).map(({ line, message, unknown }) => ({
    line,
    text,
    label,
    name: statement ? (unknown ?? null) : null,
    message,
  }));
}

function readStatement(
  reader: Reader,
  line: number,
  columns: readonly string[],
  measures: readonly string[],
): Statement {
  if (reader.takeIf("measure")) return readMeasure(reader, line, columns, measures);
  if (reader.takeIf("also")) return readAlso(reader, line);
  if (reader.takeIf("adjust")) return readAdjust(reader, line);
  if (reader.takeIf("contrast")) return readContrast(reader, line);
  if (reader.takeIf("define")) return readDefine(reader, line);
  if (reader.takeIf("covary")) return readCovary(reader, line);
  // Columns may well be called so; then a verb or a label's colon follows.
  if (reader.isWord("hold") && !beginsSentence(reader)) {
    reader.take();
    return readHold(reader, line);
  }
  if (reader.isWord("free") && !beginsSentence(reader)) {
    reader.take();
    return readFree(reader, line);
  }
  if (reader.isWord("groups") && reader.peek(1)?.text === "by") {
    reader.take();
    return readGroups(reader, line);
  }
  for (const [word, read] of RESPONSE_LINES)
    if (isResponseLine(reader, word)) {
      reader.take();
      return read(reader, line);
    }
  return readHypothesis(reader, line);
}

const RESPONSE_LINES = [
  ["model", readResponseModel],
  ["compare", readCompare],
  ["control", readControl],
] as const;

/** Is the first word the label or the first variable of a sentence? */
function beginsSentence(reader: Reader): boolean {
  const next = reader.peek(1);
  return (
    next === undefined ||
    next.text === ":" ||
    next.text === "with" ||
    verbOf(next) !== null ||
    moderationVerbOf(next) !== null ||
    isMediates(next)
  );
}

function readHypothesis(reader: Reader, line: number): Statement {
  let label = "";
  if (reader.peek(1)?.kind === "mark" && reader.peek(1)?.text === ":") {
    label = reader.name("a label such as H1").name;
    reader.take();
  }
  const from = reader.comparable("the variable that has the effect");
  if (reader.isWord("with") || moderationVerbOf(reader.peek()))
    return readModeration(reader, line, label, from);
  if (isMediates(reader.peek())) return readMediates(reader, line, label, from);
  const said = verbOf(reader.peek());
  if (!said) {
    const near = nearestName(reader.peek()?.text ?? "", [...VERBS, ...MODERATION_VERBS]);
    reader.fail(
      `Expected “raises”, “lowers” or “affects” (or “strengthens”, “weakens”, “alters” for a moderator) after “${from.name}”.${near ? ` Did you mean “${near}”?` : ""}`,
      near,
    );
  }
  reader.take();
  const { verb, plural } = said;
  const to = reader.variable(`the variable that ${from.name} ${verb}`);
  const only = reader.takeIf("only");
  const chains: NameRef[][] = [];
  if (only && !reader.isWord(...THROUGH)) reader.fail("Expected “through” after “only”.");
  if (THROUGH.some((word) => reader.takeIf(word))) {
    do chains.push(readChain(reader));
    while (reader.takeIf("and"));
  }
  if (chains.length > 0 && reader.isMark(","))
    reader.fail(
      "Between mediators write “and” when they stand side by side, “then” when one leads to the next.",
      "and",
    );
  reader.end("a hypothesis reads “hours raises belonging through confidence then friends”");
  const numbered = label === "";
  const many = plural ? { plural } : {};
  return { kind: "hypothesis", line, label, numbered, from, verb, ...many, to, chains, only };
}

/** “confidence mediates hours to belonging”: the trade's word for an effect through a mediator. */
function readMediates(reader: Reader, line: number, label: string, mediator: NameRef): Hypothesis {
  const example = "mediation reads “confidence mediates hours to belonging”";
  reader.take();
  const from = reader.comparable("the variable whose effect is mediated");
  reader.expect("to", example);
  const to = reader.variable("the variable it has its effect on");
  reader.end(example);
  return {
    kind: "hypothesis",
    line,
    label,
    numbered: label === "",
    from,
    verb: "affects",
    to,
    chains: [[mediator]],
    only: false,
  };
}

function readChain(reader: Reader): NameRef[] {
  const chain = [reader.variable("a mediator")];
  for (;;) {
    const comma = reader.isMark(",") && reader.peek(1)?.text === "then";
    if (comma) reader.take();
    if (!reader.takeIf("then")) return chain;
    chain.push(reader.variable("the next mediator"));
  }
}

function readAlso(reader: Reader, line: number): Statement {
  const steps: { from: NameRef; to: NameRef }[] = [];
  do {
    const from = reader.variable("the variable a path starts from");
    reader.expect("to", `a path is written “also ${from.name} to …”`);
    steps.push({ from, to: reader.variable("the variable the path ends in") });
  } while (reader.takeIf(",") || reader.takeIf("and"));
  reader.end("extra paths read “also noise to belonging”");
  return { kind: "also", line, steps };
}

function readAdjust(reader: Reader, line: number): Statement {
  const outcomes = reader.variableList("a variable to adjust");
  reader.expect("for", "adjustment reads “adjust belonging for age, months”");
  const covariates = reader.variableList("a covariate");
  reader.end("adjustment reads “adjust belonging for age, months”");
  return { kind: "adjust", line, outcomes, covariates };
}

function readContrast(reader: Reader, line: number): Statement {
  const first = reader.name("the label of a hypothesis");
  reader.expect("with", "a contrast reads “contrast H1 with H2”");
  const second = reader.name("the label of a hypothesis");
  reader.end("a contrast reads “contrast H1 with H2”");
  return { kind: "contrast", line, first, second };
}

function readDefine(reader: Reader, line: number): Statement {
  const name = reader.name("a name for the quantity");
  reader.expect("as", "a quantity reads “define share as H1 / total hours to belonging”");
  const formula = readFormula(reader);
  reader.end("a quantity reads “define share as H1 / total hours to belonging”");
  return { kind: "define", line, name, formula };
}

const isClaim = (s: Statement): s is Hypothesis | Moderation =>
  s.kind === "hypothesis" || s.kind === "moderation";

/** @param leftOut lines that wait for being mended keep their labels */
function numberUnlabelled({ statements, leftOut }: Theory): void {
  const taken = new Set([
    ...statements.flatMap((s) => (isClaim(s) && s.label ? [s.label] : [])),
    ...leftOut.flatMap(({ label }) => label ?? []),
  ]);
  let next = 1;
  for (const statement of statements) {
    if (!isClaim(statement) || statement.label) continue;
    while (taken.has(`H${next}`)) next += 1;
    statement.label = `H${next}`;
    taken.add(statement.label);
  }
}

function complainOfDoubleLabels(theory: Theory): void {
  const seen = new Map<string, number>();
  for (const statement of theory.statements) {
    if (!isClaim(statement) && statement.kind !== "define" && statement.kind !== "measure")
      continue;
    const label = isClaim(statement) ? statement.label : statement.name.name;
    const before = seen.get(label);
    if (before !== undefined) {
      theory.complaints.push({
        line: statement.line,
        column: 1,
        length: label.length,
        message: `“${label}” already names line ${before}. Give this sentence another label.`,
      });
    }
    seen.set(label, before ?? statement.line);
  }
}
