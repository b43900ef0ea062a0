import { quoted, worded } from "./condition";
import { percent } from "./numbers";

/** Why no study can be like this, or cannot be planned. */
export const PLANNING_PROBLEMS = {
  impossible_paths: worded(
    "impossible_paths",
    ({ outcome, share, from }: { outcome: string; share: number; from: string[] }) =>
      `The paths from ${quoted(from)} would explain ${percent(share)} % of “${outcome}”. Together they have to stay below 100 %: make one of them, or the correlation of their predictors, smaller.`,
  ),
  impossible_correlation: worded(
    "impossible_correlations",
    ({ a, b, r }: { a: string; b: string; r: number }) =>
      `“${a}” and “${b}” cannot correlate ${r}: with these levels and shares the largest possible correlation is smaller.`,
  ),
  impossible_correlations: worded(
    "impossible_correlations",
    ({ names }: { names: string[] }) =>
      `The correlations of ${quoted(names)} contradict each other: no three variables can be related like this. Make one of them smaller.`,
  ),
  plan_shares: worded(
    "invalid_setting",
    ({ name, levels }: { name: string; levels: number }) =>
      `The shares of “${name}” have to be ${levels} numbers above 0 that add up to 1.`,
  ),
  plan_count_mean: worded(
    "invalid_setting",
    ({ name, mean }: { name: string; mean: number }) =>
      `The expected mean of “${name}” is ${mean}; a count needs one above 0 and up to 1000.`,
  ),
  plan_number: worded(
    "invalid_setting",
    ({ what, value, from, to }: { what: string; value: number; from: number; to: number }) =>
      `${what}: ${value}; it must be a number from ${from} to ${to}.`,
  ),
  plan_of_clusters: worded(
    "not_available",
    ({ column }: { column: string }) =>
      `A plan draws people one by one, so “${column}” cannot group them. Take clusters and strata out of the settings to plan.`,
  ),
  plan_of_exposures: worded(
    "not_available",
    ({ name }: { name: string }) =>
      `A plan counts over equal times, so nothing is relative to “${name}”. Take “with exposure ${name}” out to plan.`,
  ),
  plan_of_factors: worded(
    "not_available",
    ({ name }: { name: string }) =>
      `“${name}” is measured by other constructs; a plan can only be made for measures of items.`,
  ),
  target_not_reached: worded(
    "not_available",
    ({ most, power }: { most: number; power: number }) =>
      `Even with ${most} people the power is only ${percent(power)} %. Expect larger sizes, or ask for less.`,
  ),
};
