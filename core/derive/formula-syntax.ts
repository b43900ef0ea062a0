import { StudyProblem } from "../problems";
import type { FormulaFault } from "../wording";

/** A computed variable or a condition, read. */
export type Node =
  | { kind: "number"; value: number }
  | { kind: "text"; value: string; at: number }
  | { kind: "column"; name: string; at: number }
  | { kind: "not" | "negative"; of: Node }
  | { kind: "binary"; operator: Operator; left: Node; right: Node }
  /** Operators of one rank, from left to right: as many as somebody writes, without nesting. */
  | { kind: "chain"; first: Node; rest: { operator: Operator; of: Node }[] }
  | { kind: "call"; name: FunctionName; args: Node[]; at: number };

export type Operator =
  "+" | "-" | "*" | "/" | "^" | "=" | "!=" | "<" | "<=" | ">" | ">=" | "and" | "or";

/** Every function with its fewest and most arguments. */
export const FUNCTIONS = {
  abs: [1, 1],
  sqrt: [1, 1],
  exp: [1, 1],
  ln: [1, 1],
  log10: [1, 1],
  round: [1, 2],
  floor: [1, 1],
  min: [1, Infinity],
  max: [1, Infinity],
  mean: [1, Infinity],
  sum: [1, Infinity],
  sd: [2, Infinity],
  count: [1, Infinity],
  missing: [1, 1],
  if: [3, 3],
} as const;
export type FunctionName = keyof typeof FUNCTIONS;

interface Token {
  kind: "number" | "text" | "name" | "word" | "mark" | "end";
  text: string;
  at: number;
}

const PATTERNS: [Token["kind"], RegExp][] = [
  ["number", /(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?(?![\p{L}\p{N}_.])/uy],
  ["word", /[\p{L}_][\p{L}\p{N}_.]*/uy],
  ["name", /"(?:[^"]|"")*"/y],
  ["text", /'(?:[^']|'')*'/y],
  ["mark", /<=|>=|!=|[-+*/^=<>(),]/y],
];

/**
 * Reads a formula: numbers, columns (quoted with " where they are not one plain word), texts in ',
 * the usual arithmetic, comparisons, and / or / not, and functions. Nothing in it can run code.
 * @throws StudyProblem `formula` with the position and what was expected
 */
export function readFormulaText(text: string): Node {
  const tokens = tokensOf(text);
  const reader = new FormulaReader(tokens);
  const node = reader.or();
  const rest = reader.peek();
  if (rest.kind !== "end") fail(rest.at, { kind: "rest", text: rest.text });
  return node;
}

function tokensOf(text: string): Token[] {
  const tokens: Token[] = [];
  let at = 0;
  while (at < text.length) {
    if (/\s/.test(text[at]!)) {
      at += 1;
      continue;
    }
    const found = PATTERNS.flatMap(([kind, pattern]) => {
      pattern.lastIndex = at;
      const match = pattern.exec(text)?.[0];
      return match === undefined ? [] : [{ kind, match }];
    })[0];
    if (!found) {
      const quote = text[at] === '"' || text[at] === "'";
      fail(at, quote ? { kind: "quotation" } : { kind: "meaningless", text: text[at]! });
    }
    const { kind, match } = found;
    const mark = match[0]!;
    const bare =
      kind === "name" || kind === "text" ? match.slice(1, -1).replaceAll(mark + mark, mark) : match;
    tokens.push({ kind, text: bare, at });
    at += match.length;
  }
  tokens.push({ kind: "end", text: "", at: text.length });
  return tokens;
}

function fail(at: number, fault: FormulaFault): never {
  throw new StudyProblem("formula_at", { at: at + 1, fault }, { column: at + 1 });
}

const COMPARISONS = ["=", "!=", "<", "<=", ">", ">="];
/** Deeper nesting than this is a slip, and would exhaust the stack. */
const MAX_DEPTH = 200;

class FormulaReader {
  private at = 0;
  private depth = 0;

  constructor(private readonly tokens: Token[]) {}

  peek(): Token {
    return this.tokens[this.at]!;
  }

  private is(kind: Token["kind"], ...texts: string[]): boolean {
    const token = this.peek();
    return token.kind === kind && texts.includes(token.text);
  }

  private take(): Token {
    return this.tokens[this.at++]!;
  }

  or(): Node {
    if (++this.depth > MAX_DEPTH) fail(this.peek().at, { kind: "deep" });
    const node = this.chain(
      () => this.and(),
      (reader) => reader.is("word", "or"),
    );
    this.depth -= 1;
    return node;
  }

  private and(): Node {
    return this.chain(
      () => this.not(),
      (reader) => reader.is("word", "and"),
    );
  }

  private not(): Node {
    let count = 0;
    while (this.is("word", "not")) {
      this.take();
      count += 1;
    }
    const node = this.comparison();
    return count % 2 === 1 ? { kind: "not", of: node } : node;
  }

  private comparison(): Node {
    const left = this.sum();
    if (!this.is("mark", ...COMPARISONS)) return left;
    const operator = this.take().text as Operator;
    const node: Node = { kind: "binary", operator, left, right: this.sum() };
    if (this.is("mark", ...COMPARISONS)) fail(this.peek().at, { kind: "chained" });
    return node;
  }

  private sum(): Node {
    return this.chain(
      () => this.product(),
      (reader) => reader.is("mark", "+", "-"),
    );
  }

  private product(): Node {
    return this.chain(
      () => this.negative(),
      (reader) => reader.is("mark", "*", "/"),
    );
  }

  private chain(next: () => Node, goesOn: (reader: FormulaReader) => boolean): Node {
    const first = next();
    const rest: { operator: Operator; of: Node }[] = [];
    while (goesOn(this)) rest.push({ operator: this.take().text as Operator, of: next() });
    return rest.length === 0 ? first : { kind: "chain", first, rest };
  }

  /** A minus binds less tightly than a power: -2^2 is -4. */
  private negative(): Node {
    let count = 0;
    while (this.is("mark", "-")) {
      this.take();
      count += 1;
    }
    const node = this.power();
    return count % 2 === 1 ? { kind: "negative", of: node } : node;
  }

  private power(): Node {
    const base = this.atom();
    if (!this.is("mark", "^")) return base;
    this.take();
    if (++this.depth > MAX_DEPTH) fail(this.peek().at, { kind: "deep" });
    const node: Node = { kind: "binary", operator: "^", left: base, right: this.negative() };
    this.depth -= 1;
    return node;
  }

  private atom(): Node {
    const token = this.take();
    if (token.kind === "number") return { kind: "number", value: Number(token.text) };
    if (token.kind === "text") return { kind: "text", value: token.text, at: token.at };
    if (token.kind === "name") return { kind: "column", name: token.text, at: token.at };
    if (token.kind === "word" && this.is("mark", "(")) return this.call(token);
    if (token.kind === "word" && !["and", "or", "not"].includes(token.text))
      return { kind: "column", name: token.text, at: token.at };
    if (token.kind === "mark" && token.text === "(") {
      const inner = this.or();
      this.close();
      return inner;
    }
    this.at -= 1;
    fail(token.at, token.kind === "end" ? { kind: "end" } : { kind: "expected", text: token.text });
  }

  private call(token: Token): Node {
    if (!Object.hasOwn(FUNCTIONS, token.text)) {
      fail(token.at, { kind: "function", name: token.text, known: Object.keys(FUNCTIONS) });
    }
    const name = token.text as FunctionName;
    this.take();
    const args = [this.or()];
    while (this.is("mark", ",")) {
      this.take();
      args.push(this.or());
    }
    this.close();
    const [fewest, most] = FUNCTIONS[name];
    if (args.length < fewest || args.length > most) {
      fail(token.at, { kind: "arguments", name, fewest, most, given: args.length });
    }
    return { kind: "call", name, args, at: token.at };
  }

  private close(): void {
    if (!this.is("mark", ")")) fail(this.peek().at, { kind: "bracket" });
    this.take();
  }
}

/** The columns a formula reads, each once. */
export function columnsOfFormula(node: Node): string[] {
  const found = new Set<string>();
  collect(node, found);
  return [...found];
}

function collect(node: Node, found: Set<string>): void {
  switch (node.kind) {
    case "number":
    case "text":
      return;
    case "column":
      found.add(node.name);
      return;
    case "not":
    case "negative":
      return collect(node.of, found);
    case "binary":
      collect(node.left, found);
      return collect(node.right, found);
    case "chain":
      collect(node.first, found);
      for (const { of } of node.rest) collect(of, found);
      return;
    case "call":
      for (const argument of node.args) collect(argument, found);
  }
}

/** Words that are no column unless they stand in quotation marks. */
const KEYWORDS = ["and", "or", "not"];

/** A column as a formula writes it: quoted where it is not one plain word. */
const writeColumn = (name: string): string =>
  /^[\p{L}_][\p{L}\p{N}_.]*$/u.test(name) && !KEYWORDS.includes(name)
    ? name
    : `"${name.replaceAll('"', '""')}"`;

/** The formula with one column called otherwise; a formula that cannot be read stays as it is. */
export function renameInFormula(text: string, from: string, to: string): string {
  let tokens: Token[];
  try {
    tokens = tokensOf(text);
  } catch {
    return text;
  }
  const isColumn = ({ kind, text: word }: Token, next: Token | undefined): boolean =>
    kind === "name" || (kind === "word" && !KEYWORDS.includes(word) && next?.text !== "(");
  return tokens.reduceRight((line, token, i) => {
    if (token.text !== from || !isColumn(token, tokens[i + 1])) return line;
    const length =
      token.kind === "word" ? token.text.length : 2 + token.text.replaceAll('"', '""').length;
    return line.slice(0, token.at) + writeColumn(to) + line.slice(token.at + length);
  }, text);
}
