import type { TableBlock } from "../../core";

/** Letters of a line of the usual page and between two columns, in small type and in smaller. */
const SMALL = { line: 70, gap: 2.6 };
const SMALLER = { line: 76, gap: 1.5 };
/** Of a page turned to its side, in smaller type. */
const SIDEWAYS = 118;
/** A column of words needs no more than that to be read, and is not made narrower. */
const LEAST = 14;

/** The preamble of a table, and how much room it takes. */
export interface LatexColumns {
  set: string;
  /** As it is; in smaller type with columns that break; on a page turned to its side. */
  room: "page" | "narrow" | "sideways";
}

/**
 * How columns are set: words as they are where all fit on a line; else they share what numbers
 * leave, by the length of their longest cell, and break within it; heads of numbers break too.
 */
export function latexColumns({ columns, rows }: TableBlock): LatexColumns {
  const cells = (j: number): number[] =>
    rows.filter((r) => !r.heading).map((r) => r.cells[j]!.text.length);
  const longest = columns.map(({ head }, j) => Math.max(head.length, ...cells(j)));
  if (sum(longest) + SMALL.gap * (columns.length - 1) <= SMALL.line)
    return { set: columns.map((c) => (c.kind === "words" ? "l" : "r")).join(""), room: "page" };
  const wide = columns.map(({ head, kind }, j) =>
    kind === "words" ? longest[j]! : Math.max(...head.split(" ").map((w) => w.length), ...cells(j)),
  );
  const words = columns.flatMap((c, j) => (c.kind === "words" ? [j] : []));
  const gaps = SMALLER.gap * (columns.length - 1);
  const numbers = sum(wide) - sum(words.map((j) => wide[j]!));
  const least = sum(words.map((j) => Math.min(LEAST, wide[j]!)));
  const room = numbers + least + gaps <= SMALLER.line ? "narrow" : "sideways";
  const line = room === "narrow" ? SMALLER.line : SIDEWAYS;
  const shared = shares(
    words.map((j) => wide[j]!),
    line - numbers - gaps,
  );
  words.forEach((j, i) => (wide[j] = shared[i]!));
  return {
    set: columns
      .map(({ kind }, j) => {
        const side = kind === "words" ? "raggedright" : "raggedleft";
        return `>{\\${side}\\arraybackslash}p{${(wide[j]! / line).toFixed(3)}\\linewidth}`;
      })
      .join(""),
    room,
  };
}

const sum = (values: readonly number[]): number => values.reduce((s, v) => s + v, 0);

/**
 * Room given out by what is asked for; who would get too little to be read gets the least that can
 * be, and the others share the rest.
 */
function shares(asked: readonly number[], room: number): number[] {
  const least = asked.map((a) => Math.min(LEAST, a));
  const fixed = new Set<number>();
  for (;;) {
    const open = asked.flatMap((_, i) => (fixed.has(i) ? [] : [i]));
    const left = room - sum([...fixed].map((i) => least[i]!));
    const factor = Math.min(1, left / sum(open.map((i) => asked[i]!)));
    const tooLittle = open.filter((i) => asked[i]! * factor < least[i]!);
    if (tooLittle.length === 0) return asked.map((a, i) => (fixed.has(i) ? least[i]! : a * factor));
    for (const i of tooLittle) fixed.add(i);
  }
}
