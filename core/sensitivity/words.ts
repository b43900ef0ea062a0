import { percent, plain } from "../wording/numbers";
import type { LeftOut, LinearSensitivity } from "./types";

type Told = Omit<LinearSensitivity, "words">;

/**
 * The curve in sentences: how far errors would have to go together, and how much of the variance
 * that is.
 */
export function sensitivityWords(
  { treatment, mediator, outcome, indirect, rhoAtZero, rhoOfInterval, r2Residual, r2Total }: Told,
  level: number,
): string[] {
  const [low, high] = rhoOfInterval;
  // The end of the interval's range that lies on the side of no confounding.
  const near = rhoAtZero > 0 ? low : high;
  const already = near !== null && Math.sign(near) !== Math.sign(rhoAtZero);
  const reach =
    near === null
      ? `At every correlation its ${percent(level)} % interval contains zero.`
      : already
        ? `Its ${percent(level)} % interval contains zero without any.`
        : `Its ${percent(level)} % interval reaches zero at ${plain(near, 2)} already.`;
  const direction = rhoAtZero > 0 ? "in the same direction" : "in opposite directions";
  return [
    `The effect of ${treatment} on ${outcome} through ${mediator} (${plain(indirect, 3)}) would be zero if the errors of ${mediator} and ${outcome} were correlated by ${plain(rhoAtZero, 2)}. ${reach}`,
    `Something left out that moves ${mediator} and ${outcome} ${direction} would do that if the shares of variance that it explains of the two, beyond what the models explain, multiply to ${plain(r2Residual, 3)}: ${percent(Number(Math.sqrt(r2Residual).toFixed(2)))} % of each, say (of all their variance, to ${plain(r2Total, 3)}).`,
  ];
}

/**
 * A benchmark in a sentence: “a confounder as strong as age would not be enough; three times as
 * strong would”.
 */
export function leftOutWords({ mediator, leftOut }: Told, level: number): string[] {
  return leftOut.map((own) => sentence(own, mediator, level));
}

function sentence(
  { covariate, indirect, timesToZero, timesToLimit, difference, effect }: LeftOut,
  mediator: string,
  level: number,
): string {
  const subject =
    covariate === null
      ? `Something left out that differs by ${plain(difference, 2)} between the treatments and moves the outcome by ${plain(effect, 2)} a unit`
      : `Something left out that is as strong as ${covariate}`;
  if (timesToZero === null)
    return `${subject} would change nothing: it has no relation to one of the two.`;
  const changed = `would leave ${plain(indirect, 3)} of the effect through ${mediator}`;
  if (timesToLimit === 0)
    return `${subject} ${changed}; its ${percent(level)} % interval contains zero as it is.`;
  const times = (value: number): string => `${plain(value, 1)} times`;
  if (timesToZero <= 1)
    return `${subject} ${changed}: if its direction is against the effect, it is enough to explain all of it.`;
  const limit =
    timesToLimit !== null && timesToLimit <= 1
      ? `is enough to bring its ${percent(level)} % interval to zero`
      : `is not enough; ${times(timesToLimit!)} as strong in both relations would bring its ${percent(level)} % interval to zero`;
  return `${subject} ${changed}. Against the effect it ${limit}, and ${times(timesToZero)} as strong the effect itself.`;
}
