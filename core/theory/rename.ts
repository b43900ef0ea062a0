import { tokenise } from "./tokens";
import { RESERVED } from "./reader";
import type { Token } from "./tokens";
import { writeName } from "./write";

/**
 * The text of a theory with one name replaced wherever it stands as a name; comments and the rest
 * stay as they are.
 */
export function renameInTheory(text: string, from: string, to: string): string {
  return text
    .split("\n")
    .map((content, index) => {
      const { tokens } = tokenise(content, index + 1);
      return tokens
        .filter((_, at) => tokens[at - 1]?.text !== "against" && tokens[at + 1]?.text !== "against")
        .filter((token) => isName(token) && token.text === from)
        .reverse()
        .reduce(
          (line, { column, length }) =>
            line.slice(0, column - 1) + writeName(to) + line.slice(column - 1 + length),
          content,
        );
    })
    .join("\n");
}

/** A word of the notation is a name only in quotation marks. */
const isName = ({ kind, text }: Token): boolean =>
  kind === "name" || (kind === "word" && !RESERVED.has(text));
