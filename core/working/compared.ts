import { plain, thousands, VERDICT_WORDS, type RunComparison } from "../evidence";
import type { Specification } from "../robustness";
import { operand, step } from "./paper";
import type { Working } from "./types";

const limits = (lower: number | null, upper: number | null): string =>
  lower !== null && upper !== null
    ? `[${plain(lower)}, ${plain(upper)}]`
    : lower !== null
      ? `above ${plain(lower)}`
      : upper !== null
        ? `below ${plain(upper)}`
        : "no interval";

/** What was done instead, by kind of specification. */
const DONE: Record<Specification["group"], string> = {
  "as set": "The study as it is set.",
  intervals: "The same estimates and the same resamples; only the interval is made otherwise.",
  errors: "The same estimates; only the errors are others, and intervals come from them.",
  cases: "Estimated and resampled anew without these rows.",
  centring: "Estimated and resampled anew with the other centring.",
  covariates: "Estimated and resampled anew without the covariates.",
  measures: "Estimated anew with the measures made otherwise; effects may be in other units.",
  estimators: "Estimated anew by the other way; effects may be in other units.",
};

/** Where the verdicts of one specification come from, beside the main analysis. */
export function specificationWorking(
  found: Specification,
  main: Specification | undefined,
): Working {
  return {
    title: found.name,
    steps: found.claims.map((claim) => {
      const own = main?.claims.find((c) => c.label === claim.label);
      const number = `${plain(claim.estimate)}, ${limits(claim.lower, claim.upper)}: ${VERDICT_WORDS[claim.verdict]}`;
      const known = own && found !== main && own.estimate !== null && claim.estimate !== null;
      const cautions = claim.cautions.map(({ message }) => ` ${message}`).join("");
      return step(
        claim.label,
        known ? "this specification − main analysis" : null,
        (known
          ? `${number}. ${plain(claim.estimate)} − ${operand(own.estimate!)} = ${plain(claim.estimate! - own.estimate!)}${claim.differs ? `; the verdict there is ${VERDICT_WORDS[own.verdict]}` : ""}`
          : number) + (cautions === "" ? "" : `.${cautions}`),
      );
    }),
    rows: `${DONE[found.group]}${found.n === null ? "" : ` ${thousands(found.n)} rows.`}`,
  };
}

/** How far an effect moved between two runs. */
export function runEffectWorking(
  effect: RunComparison["effects"][number],
  names: readonly [string, string],
): Working {
  const [a, b] = effect.runs;
  const both = a !== null && b !== null && a.estimate !== null && b.estimate !== null;
  return {
    title: effect.label,
    steps: [
      ...effect.runs.map((run, i) =>
        step(
          names[i]!,
          null,
          run
            ? `${plain(run.estimate)}, ${limits(run.lower, run.upper)}, as it was told then`
            : "It does not exist there.",
        ),
      ),
      ...(both
        ? [
            step(
              "Difference",
              `${names[1]} − ${names[0]}`,
              `${plain(b.estimate)} − ${operand(a.estimate!)} = ${plain(b.estimate! - a.estimate!)}`,
            ),
          ]
        : []),
      step(
        "Changed?",
        null,
        effect.changed
          ? "Yes: its interval lies on another side of zero, or holds it in one run alone."
          : "No: its interval decides the same in both runs.",
      ),
    ],
    rows: "Both runs as they were kept; nothing is estimated anew.",
  };
}
