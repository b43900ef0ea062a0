import { standardDeviation } from "../numerics/moments";

export interface StraightLining {
  /** Longest run of identical neighbouring answers, per row; a missing answer ends a run. */
  longestRun: number[];
  /** SD (n - 1) of the answered items, per row; null with fewer than two. */
  withinPersonSd: (number | null)[];
  /** 0-based positions of rows with three or more answers, all equal. */
  flagged: number[];
}

const FEWEST_ANSWERS = 3;

/**
 * Answers that do not vary within a person, in the order of the battery and before any reversing.
 * @param columns k items of n rows, raw answers, NaN where missing
 */
export function straightLining(columns: Float64Array[]): StraightLining {
  const rows = columns[0]?.length ?? 0;
  const result: StraightLining = { longestRun: [], withinPersonSd: [], flagged: [] };
  for (let i = 0; i < rows; i++) {
    const answers = columns.map((c) => c[i]!);
    const given = answers.filter((v) => !Number.isNaN(v));
    result.longestRun.push(longestRun(answers));
    result.withinPersonSd.push(given.length < 2 ? null : standardDeviation(given));
    if (given.length >= FEWEST_ANSWERS && given.every((v) => v === given[0]))
      result.flagged.push(i);
  }
  return result;
}

function longestRun(answers: number[]): number {
  let longest = 0;
  let run = 0;
  answers.forEach((v, j) => {
    run = Number.isNaN(v) ? 0 : v === answers[j - 1] ? run + 1 : 1;
    longest = Math.max(longest, run);
  });
  return longest;
}
