import { plain } from "./numbers";
import type { ProblemCode } from "./problem-types";

/**
 * A condition that stops an analysis: the code of its family, and what is said of it from its data.
 */
export interface Words<D> {
  code: ProblemCode;
  say(data: D): string;
}

/**
 * @example collinear: worded("collinear", ({ names }: { names: string[] }) => `${quoted(names)} …`)
 */
export const worded = <D>(code: ProblemCode, say: (data: D) => string): Words<D> => ({ code, say });

/** Names as they stand in sentences: “a”, “b”. */
export const quoted = (names: readonly string[]): string =>
  names.map((name) => `“${name}”`).join(", ");

/** Names one after another: `a`, `a and b`, `a, b and c`. */
export const listed = (names: readonly string[]): string =>
  names.length < 2 ? names.join("") : `${names.slice(0, -1).join(", ")} and ${names.at(-1)!}`;

/** The value that a variable has for everybody, as people call it. */
export const heldWords = ({ value, level }: { value: number; level: string | null }): string =>
  level ?? plain(value, 2);

/** The word for one or for several. */
export const numbered = (count: number, one: string, several: string): string =>
  count === 1 ? one : several;

/** “ Did you mean “x”?”, or nothing. */
export const didYouMean = (near: string | null | undefined): string =>
  near ? ` Did you mean “${near}”?` : "";
