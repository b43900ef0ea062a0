import { zQuantile } from "../numerics/distributions";
import { exp } from "../numerics/elementary";

/** Turns a difference in SDs into a ratio (VanderWeele & Ding 2017). */
const PER_SD = 0.91;

/**
 * How strong a cause that was left out would have to be (E-value), for one effect and for its
 * interval.
 */
export interface UnmeasuredCause {
  effect: string;
  /** The ratio it rests on, with limits. */
  ratio: number;
  lower: number;
  upper: number;
  eValue: number;
  eValueOfLimit: number;
}

/**
 * The least ratio by which something left out has to be related to both to make a ratio of all
 * chance.
 */
export function eValue(ratio: number): number {
  const own = ratio >= 1 ? ratio : 1 / ratio;
  return own + Math.sqrt(own * (own - 1));
}

/** Of an interval: that of the limit nearer to one; one where it holds one. */
const limitValue = (lower: number, upper: number): number =>
  lower <= 1 && upper >= 1 ? 1 : eValue(lower > 1 ? lower : upper);

/**
 * How strong a cause that was left out would have to be to explain a ratio away (VanderWeele & Ding
 * 2017, Ann Intern Med 167; Smith & VanderWeele 2019, Epidemiology 30).
 */
export const unmeasuredCause = (
  effect: string,
  ratio: number,
  lower: number,
  upper: number,
): UnmeasuredCause => ({
  effect,
  ratio,
  lower,
  upper,
  eValue: eValue(ratio),
  eValueOfLimit: limitValue(lower, upper),
});

/**
 * The same of a difference of means, which becomes a ratio by way of the SD of the outcome.
 * @param se of the difference
 */
export function unmeasuredDifference(
  effect: string,
  difference: number,
  se: number,
  sd: number,
  level: number,
): UnmeasuredCause {
  const d = difference / sd;
  const reach = (zQuantile(1 - (1 - level) / 2) * se) / sd;
  return unmeasuredCause(
    effect,
    exp(PER_SD * d),
    exp(PER_SD * (d - reach)),
    exp(PER_SD * (d + reach)),
  );
}
