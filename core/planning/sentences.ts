import { percent, plain, thousands } from "../wording/numbers";
import type { PlanFound } from "./planner";
import type { SimulatedShare } from "./results";

/** What a plan found, in words. */
export interface PlanSentence {
  label: string;
  text: string;
  /** The power reaches what was wanted. */
  enough: boolean;
}

/** A share with its simulation error, as "82.4 % (± 1.1)". */
export const shareWords = ({ share, se }: SimulatedShare): string =>
  `${plain(100 * share, 3)} % (± ${plain(196 * se, 2)})`;

/** One sentence for each sentence of the theory. */
export function planSentences(
  { point, exact }: PlanFound,
  target: number,
  unit: string,
): PlanSentence[] {
  return point.sentences.map(({ label, power, truth, width }, j): PlanSentence => {
    const known = exact[j];
    const size = truth === null ? "" : ` an effect of ${plain(truth)}`;
    const wide =
      width === null ? "" : `, and its interval would be ${plain(width)} wide on average`;
    const closed =
      known === null || known === undefined
        ? ""
        : ` Without simulation: ${plain(100 * known, 3)} %.`;
    return {
      label,
      text: `With ${thousands(point.people)} ${unit}, ${label} would be supported in ${shareWords(power)} of samples${size === "" ? "" : ` if there is${size}`}${wide}.${closed}`,
      enough: power.share >= target,
    };
  });
}

/** What every sentence together can expect. */
export const togetherWords = ({ point }: PlanFound): string =>
  point.sentences.length < 2
    ? ""
    : `All ${point.sentences.length} together would be supported in ${shareWords(point.all)} of samples.`;

/** How many analyses failed, and that they count against the plan. */
export function failedWords({ point }: PlanFound): string {
  if (point.failed === 0) return "";
  const share = percent(point.failed / point.samples);
  return `${thousands(point.failed)} of ${thousands(point.samples)} analyses failed (${share} %: ${Object.keys(point.failures).join(", ").replaceAll("_", " ")}); they count as samples in which nothing is found.`;
}
