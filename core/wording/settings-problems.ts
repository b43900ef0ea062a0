import { worded } from "./condition";
import { thousands } from "./numbers";

/** What may be wrong with settings and engines, and with a run. */
export const SETTINGS_PROBLEMS = {
  level_outside: worded(
    "invalid_setting",
    ({ level }: { level: number }) =>
      `The confidence level is ${level}; it must lie between 0 and 1, as in 0.95.`,
  ),
  level_one_tailed: worded(
    "invalid_setting",
    ({ level }: { level: number }) =>
      `A one-tailed test needs a confidence level above 0.5, not ${level}.`,
  ),
  replications: worded(
    "invalid_setting",
    ({ replications, most }: { replications: number; most: number }) =>
      `The number of bootstrap samples is ${replications}; it must be a whole number from 0 to ${most}.`,
  ),
  seed: worded(
    "invalid_setting",
    ({ seed }: { seed: number }) =>
      `The seed is ${seed}; it must be a whole number from 0 to 9007199254740991.`,
  ),
  monte_carlo_draws: worded(
    "invalid_setting",
    ({ draws, most }: { draws: number; most: number }) =>
      `Monte Carlo draws: ${draws}; it must be a whole number from 1 to ${thousands(most)}.`,
  ),
  bootstrap_t_of_clusters: worded(
    "invalid_setting",
    () =>
      "Bootstrap-t intervals need standard errors in every resample, which do not exist for clusters here. Choose BCa, percentile or another interval.",
  ),
  bootstrap_t_unknown: worded(
    "invalid_setting",
    ({ engine }: { engine: string }) =>
      `Bootstrap-t intervals need standard errors in every resample, which ${engine} does not know. Choose BCa, percentile or another interval.`,
  ),
  probe_percentile: worded(
    "invalid_setting",
    ({ name, choice }: { name: string; choice: string }) =>
      `A probe of “${name}” is the percentile “${choice}”; it must lie between 0 and 100 %, as in “20 %”.`,
  ),
  strata_and_clusters: worded(
    "invalid_setting",
    () => "Resampling within strata and by cluster at once is not available; choose one.",
  ),
  no_such_engine: worded(
    "invalid_setting",
    ({ id, known }: { id: string; known: string[] }) =>
      `There is no engine “${id}”. Known: ${known.join(", ")}.`,
  ),
  engine_unsuited: worded("not_available", ({ reason }: { reason: string }) => reason),
  no_such_option: worded(
    "invalid_setting",
    ({ engine, option, known }: { engine: string; option: string; known: string[] }) =>
      `${engine} has no option “${option}”. ${known.length > 0 ? `Its options: ${known.join(", ")}.` : "It has none."}`,
  ),
  option_value: worded(
    "invalid_setting",
    ({ engine, option, value, choices }: OptionValue) =>
      `The option “${option}” of ${engine} is “${value}”; it must be ${choices ? `one of ${choices.join(", ")}` : "a number"}.`,
  ),
  all_replicates_failed: worded(
    "no_replicates",
    () =>
      "Every bootstrap replicate failed: the bootstrap samples are too small or too uniform for this model. Simplify the model, or use the delta method.",
  ),
};

interface OptionValue {
  engine: string;
  option: string;
  value: string | number | boolean;
  choices: string[] | null;
}
