import type { Link } from "../model";
import { exp } from "../numerics/elementary";
import { plain } from "../wording/numbers";

const PREDICTORS: Record<Link, string> = {
  identity: "",
  logit: "log odds of ",
  probit: "probit index of ",
  log: "log of the expected ",
};

/**
 * What the two scales of a response are called: “log odds of renewed”, “probability of renewed”.
 */
export const scaleWords = (
  link: Link,
  outcome: string,
): { predictor: string; response: string } => ({
  predictor: `${PREDICTORS[link]}${outcome}`,
  response:
    link === "identity"
      ? outcome
      : link === "log"
        ? `expected ${outcome}`
        : `probability of ${outcome}`,
});

/**
 * What a unit more of a predictor does: “multiplies the odds of renewed by 1.4”.
 * @param slope on the scale of the predictor
 */
export function linkStep(link: Link, outcome: string, slope: number): string {
  if (link === "probit") return `moves the probit index of ${outcome} by ${plain(slope, 2)}`;
  const what = link === "logit" ? "odds of" : "expected";
  return `multiplies the ${what} ${outcome} by ${plain(exp(slope), 2)}`;
}
