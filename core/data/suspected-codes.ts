import type { TextColumn } from "./table";
import { isMissing, parseNumber } from "./typed-column";
import type { Variable } from "./variable";

/**
 * Numbers that questionnaires write for “no answer”: 77, 88, 97 to 99 and their longer sisters;
 * below zero any of -1 to -9 and so on.
 */
const CODE = /^(-[1-9]|-?(77|88|9[6-9])|-?(777|888|99[6-9])|-?(7777|8888|999[6-9]))$/;

/**
 * A number that stands far from all others of some columns, and looks like a code for “no answer”.
 */
export interface SuspectedCode {
  code: string;
  columns: string[];
}

/**
 * Codes that a guess does not take for missing by itself, because they might be answers. They are
 * to be asked about, never left out unasked: a mean with one 99 among answers from 1 to 7 is wrong
 * in silence.
 *
 * Among numbers from zero on, a code is suspected far above the others (more than twice the
 * highest, and further away than twice their range) or below zero. Below zero stands an answer
 * where a scale has as much on either side, so on scales up to 10 a code has to lie beyond the
 * mirrored end, or be the only one below answers from one on.
 *
 * @param columns with `variables` alike; what is missing already is passed over
 * @returns the codes in ascending order, each with its columns in their order
 * @example answers 1 to 5 with a 99: `[{ code: "99", columns: ["trust1"] }]`
 */
export function suspectedCodes(
  columns: readonly TextColumn[],
  variables: readonly Variable[],
): SuspectedCode[] {
  const found = new Map<string, string[]>();
  columns.forEach((column, j) => {
    for (const code of codesIn(column, variables[j]!))
      found.set(code, [...(found.get(code) ?? []), column.name]);
  });
  return [...found]
    .map(([code, names]) => ({ code, columns: names }))
    .sort((a, b) => Number(a.code) - Number(b.code));
}

function codesIn({ dictionary }: TextColumn, variable: Variable): string[] {
  if (variable.level === "identifier") return [];
  const texts = [...new Set(dictionary.map((t) => t.trim()))].filter(
    (t) => !isMissing(t, variable),
  );
  let suspects = texts.filter((t) => CODE.test(t));
  // What is acquitted counts among the answers, and may acquit another.
  for (;;) {
    const answers = answersIn(texts, new Set(suspects), variable.decimal);
    const left = answers ? suspects.filter((t) => isFar(Number(t), answers, suspects)) : [];
    if (left.length === suspects.length) return left;
    suspects = left;
  }
}

interface Answers {
  low: number;
  high: number;
}

/** The ends of all other numbers; null where there are words, or fewer than two numbers. */
function answersIn(
  texts: readonly string[],
  suspects: ReadonlySet<string>,
  decimal: Variable["decimal"],
): Answers | null {
  const numbers = texts.filter((t) => !suspects.has(t)).map((t) => parseNumber(t, decimal));
  if (numbers.length < 2 || numbers.some((v) => Number.isNaN(v))) return null;
  return {
    low: numbers.reduce((a, b) => Math.min(a, b)),
    high: numbers.reduce((a, b) => Math.max(a, b)),
  };
}

/** Ends of scales that may have as much below zero as above. */
const SHORT_SCALE = 10;

function isFar(code: number, { low, high }: Answers, suspects: readonly string[]): boolean {
  if (low < 0) return false;
  if (code > 0) return code > 2 * high && code > high + 2 * (high - low);
  const alone = suspects.filter((t) => Number(t) < 0).length === 1;
  return high > SHORT_SCALE || -code > high || (low >= 1 && alone);
}
