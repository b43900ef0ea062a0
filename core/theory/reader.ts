import { nearestName } from "./nearest";
import type { Complaint, NameRef } from "./syntax";
import type { Token } from "./tokens";

/** Words with a meaning in the notation; a variable of that name has to be quoted. */
export const RESERVED = new Set(
  (
    "raises lowers affects strengthens weakens alters through then and only also to adjust for contrast with " +
    "define as measure reflects combines averages sums reversed on answered covary residuals of direct indirect total against"
  ).split(" "),
);

/** Thrown inside the parser to give up on one line; carries the complaint. */
export class LineError extends Error {
  constructor(readonly complaint: Complaint) {
    super(complaint.message);
  }
}

/** Numbers, effects, signs and brackets of a quantity; many more would exhaust the stack. */
const MOST_PARTS = 500;

/** Walks the tokens of one line and complains where it stops understanding. */
export class Reader {
  private at = 0;
  private parts = 0;

  constructor(
    private readonly tokens: Token[],
    private readonly line: number,
    private readonly lineLength: number,
    private readonly variables: readonly string[],
  ) {}

  peek(offset = 0): Token | undefined {
    return this.tokens[this.at + offset];
  }

  isWord(...words: string[]): boolean {
    const token = this.peek();
    return token?.kind === "word" && words.includes(token.text);
  }

  isMark(mark: string): boolean {
    const token = this.peek();
    return token?.kind === "mark" && token.text === mark;
  }

  take(): Token {
    return this.tokens[this.at++]!;
  }

  takeIf(word: string): boolean {
    if (!this.isWord(word) && !this.isMark(word)) return false;
    this.at += 1;
    return true;
  }

  expect(word: string, sentence: string): void {
    if (!this.takeIf(word))
      this.fail(
        `Expected “${word}” here: ${sentence}.`,
        nearestName(this.peek()?.text ?? "", [word]),
      );
  }

  end(sentence: string): void {
    if (this.peek())
      this.fail(`The sentence should end before “${this.peek()!.text}”: ${sentence}.`);
  }

  /** Another part of a quantity. @throws LineError beyond what quantities are made of */
  countPart(): void {
    this.parts += 1;
    if (this.parts > MOST_PARTS)
      this.fail(
        `A quantity has at most ${MOST_PARTS} parts (numbers, effects, signs, brackets). Define some of them as a quantity of its own, and use its name here.`,
      );
  }

  /** A number, which may be below zero. */
  number(example: string): number {
    const sign = this.takeIf("-") ? -1 : 1;
    if (this.peek()?.kind !== "number") this.fail(`Expected a number here: ${example}.`);
    return sign * Number(this.take().text);
  }

  /** Any name, known or not. */
  name(what: string): NameRef {
    const token = this.peek();
    if (!token || token.kind === "mark" || token.kind === "number")
      this.fail(`Expected ${what} here.`);
    if (token.kind === "word" && RESERVED.has(token.text)) {
      this.fail(
        `Expected ${what} before “${token.text}”. A variable of that name has to be quoted.`,
      );
    }
    this.at += 1;
    return { name: token.text, line: token.line, column: token.column, length: token.length };
  }

  /** The name of a variable of the study. */
  variable(what: string): NameRef {
    const ref = this.name(what);
    if (!this.variables.includes(ref.name)) {
      const near = nearestName(ref.name, this.variables);
      const complaint: Complaint = {
        line: ref.line,
        column: ref.column,
        length: ref.length,
        message: `No variable is called “${ref.name}”.${near ? ` Did you mean “${near}”?` : ""}`,
        unknown: ref.name,
      };
      if (near) complaint.suggestion = near;
      throw new LineError(complaint);
    }
    return ref;
  }

  /**
   * A variable, with the two levels that are compared where they are named: `group ("b" against
   * "a")`, brackets or not.
   */
  comparable(what: string): NameRef {
    const ref = this.variable(what);
    const bracket = this.isMark("(");
    if (!bracket && this.peek(1)?.text !== "against") return ref;
    if (bracket) this.take();
    const upper = this.levelName(ref.name);
    this.expect("against", `a comparison reads “${ref.name} ("one level" against "another")”`);
    const lower = this.levelName(ref.name);
    if (upper === lower) this.fail(`A level cannot be compared with itself (“${upper}”).`);
    if (bracket) this.expect(")", "the comparison ends with a bracket");
    return { ...ref, compared: { upper, lower } };
  }

  private levelName(variable: string): string {
    const token = this.peek();
    if (!token || token.kind === "mark") this.fail(`Expected a level of “${variable}” here.`);
    return this.take().text;
  }

  /** Names separated by commas or “and”. */
  variableList(what: string): NameRef[] {
    const list = [this.variable(what)];
    while (this.takeIf(",") || this.takeIf("and")) {
      this.takeIf("and");
      list.push(this.variable(what));
    }
    return list;
  }

  fail(message: string, suggestion?: string): never {
    const token = this.peek();
    const place = token ?? { line: this.line, column: this.lineLength + 1, length: 1 };
    const complaint: Complaint = {
      line: place.line,
      column: place.column,
      length: place.length,
      message,
    };
    if (suggestion) complaint.suggestion = suggestion;
    throw new LineError(complaint);
  }
}
