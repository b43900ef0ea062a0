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

/** A share as percent with one decimal. */
export const percentWords = (share: number): string => `${(100 * share).toFixed(1)} %`;

/**
 * A share with 1.96 simulation errors, as "82.4 % (± 1.1)". Where all samples agree that formula
 * would promise certainty; the 95 % bound is then 3 over the number of samples (Hanley &
 * Lippman-Hand 1983, JAMA 249).
 */
export const shareWords = ({ share, se, samples }: SimulatedShare): string =>
  `${percentWords(share)} (± ${(se > 0 ? 196 * se : 300 / Math.max(1, samples)).toFixed(1)})`;

/** One sentence for each sentence of the theory. */
export function planSentences(
  { point, exact }: PlanFound,
  claims: readonly string[],
  target: number,
  unit: string,
): PlanSentence[] {
  return point.sentences.map(({ label, power, truth, width }, j): PlanSentence => {
    const known = exact[j];
    const claim = claims[j] === undefined ? label : `${label} (${claims[j]})`;
    const size = truth === null ? "" : ` if the effect is ${plain(truth)}`;
    const wide = width === null ? "" : `; its interval would be ${plain(width)} wide on average`;
    const closed =
      known === null || known === undefined ? "" : ` Without simulation: ${percentWords(known)}.`;
    return {
      label,
      text: `With ${thousands(point.people)} ${unit}, ${claim} would be supported in ${shareWords(power)} of samples${size}${wide}.${closed}`,
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
