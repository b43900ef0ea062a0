import type { Complaint, Place } from "./syntax";

export interface Token extends Place {
  kind: "word" | "name" | "number" | "mark";
  /** The word, the unquoted name, the digits, or the punctuation mark. */
  text: string;
}

const WORD = /[\p{L}\p{N}_.]+/uy;
const NUMBER = /(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?(?![\p{L}\p{N}_.])/uy;
const MARKS = ":,+-*/()%";

/** Splits one line into tokens; `#` starts a comment. Unreadable characters become complaints. */
export function tokenise(text: string, line: number): { tokens: Token[]; complaints: Complaint[] } {
  const tokens: Token[] = [];
  const complaints: Complaint[] = [];
  let at = 0;
  while (at < text.length) {
    const ch = text[at]!;
    if (/\s/.test(ch)) {
      at += 1;
      continue;
    }
    if (ch === "#") break;
    const place = (length: number): Place => ({ line, column: at + 1, length });
    if (ch === '"' || ch === "“" || ch === "”") {
      const quoted = readQuoted(text, at);
      if (quoted === null) {
        complaints.push({
          ...place(text.length - at),
          message: "This quotation mark is never closed.",
        });
        break;
      }
      tokens.push({ ...place(quoted.end - at), kind: "name", text: quoted.name });
      at = quoted.end;
      continue;
    }
    const found = match(NUMBER, text, at) ?? match(WORD, text, at);
    if (found !== null) {
      const kind = match(NUMBER, text, at) !== null ? "number" : "word";
      // A full stop ends a sentence, it does not belong to the last name.
      const word =
        kind === "word" && found.length > 1 && at + found.length === text.trimEnd().length
          ? found.replace(/\.$/, "")
          : found;
      tokens.push({ ...place(word.length), kind, text: word });
      at += found.length;
    } else if (MARKS.includes(ch) || ch === "−" || ch === "×" || ch === "÷") {
      const plain = { "−": "-", "×": "*", "÷": "/" }[ch] ?? ch;
      tokens.push({ ...place(1), kind: "mark", text: plain });
      at += 1;
    } else {
      complaints.push({
        ...place(1),
        message: `“${ch}” has no meaning here. Names with signs or spaces go in quotation marks.`,
      });
      at += 1;
    }
  }
  return { tokens, complaints };
}

function readQuoted(text: string, start: number): { name: string; end: number } | null {
  let name = "";
  for (let i = start + 1; i < text.length; i++) {
    const isQuote = text[i] === '"' || text[i] === "”" || text[i] === "“";
    if (!isQuote) name += text[i]!;
    else if (text[i + 1] === '"' && text[i] === '"') {
      name += '"';
      i += 1;
    } else return { name, end: i + 1 };
  }
  return null;
}

function match(pattern: RegExp, text: string, at: number): string | null {
  pattern.lastIndex = at;
  return pattern.exec(text)?.[0] ?? null;
}
