import type { Statement } from "./syntax";
import { tokenise, type Token } from "./tokens";
import { MODERATION_VERBS, moderationVerbOf, verbOf } from "./verbs";

const KEYWORDS = [
  "measure",
  "also",
  "adjust",
  "contrast",
  "define",
  "covary",
  "hold",
  "free",
  "groups",
  "model",
  "compare",
  "control",
] as const;

/**
 * What a line of a theory sets out to be, whether or not it is right in all its parts: by its
 * keyword, else by its verb.
 * @returns null for an empty line or a comment
 */
export function lineKind(line: string): Statement["kind"] | null {
  const { tokens } = tokenise(line, 1);
  const [first] = tokens;
  if (!first) return null;
  // A quoted name is a name, whatever it says.
  const keyword = KEYWORDS.find((word) => first.kind === "word" && first.text === word);
  if (keyword && !isColumn(keyword, tokens)) return keyword;
  const moderates = tokens.some(
    (token) =>
      token.kind === "word" && (MODERATION_VERBS as readonly string[]).includes(token.text),
  );
  return moderates || moderationVerbOf(verbToken(tokens)) ? "moderation" : "hypothesis";
}

/** Words that columns are called by, too: what follows tells. */
function isColumn(keyword: (typeof KEYWORDS)[number], tokens: readonly Token[]): boolean {
  if (keyword === "groups") return tokens[1]?.text !== "by";
  if (keyword === "model") return tokens[2]?.text !== "as";
  if (keyword === "compare" || keyword === "control") return tokens[2]?.text !== "at";
  if (keyword !== "hold" && keyword !== "free") return false;
  const next = tokens[1];
  return (
    next === undefined ||
    [":", "with"].includes(next.text) ||
    verbOf(next) !== null ||
    moderationVerbOf(next) !== null
  );
}

/**
 * The token at the place of the verb: after the label, the first name and, with two moderators, the
 * second.
 */
function verbToken(tokens: readonly Token[]): Token | undefined {
  const start = tokens[1]?.kind === "mark" && tokens[1].text === ":" ? 2 : 0;
  const joint = tokens[start + 1]?.kind === "word" && tokens[start + 1]?.text === "with";
  return tokens[start + (joint ? 3 : 1)];
}

/** The lines of a theory that are of these kinds. */
export const linesOf = (theory: string, ...kinds: Statement["kind"][]): string[] =>
  theory.split(/\r?\n/).filter((line) => {
    const kind = lineKind(line);
    return kind !== null && kinds.includes(kind);
  });

/** The theory with the lines of a kind left empty, so that the others keep their numbers. */
export const theoryWithout = (theory: string, kind: Statement["kind"]): string =>
  theory
    .split(/\r?\n/)
    .map((line) => (lineKind(line) === kind ? "" : line))
    .join("\n");
