import { exp } from "../../numerics/elementary";
import { zQuantile } from "../../numerics/distributions";
import type { NaturalEffect, NaturalEffectsEvidence, UnmeasuredCause } from "../response-types";

const EFFECTS = ["pure_natural_direct", "total_natural_indirect", "total_effect"] as const;
/** Turns a difference in SDs into a ratio (VanderWeele & Ding 2017). */
const PER_SD = 0.91;

/** The least ratio by which something left out has to be related to both to make a ratio of all chance. */
export function eValue(ratio: number): number {
  const own = ratio >= 1 ? ratio : 1 / ratio;
  return own + Math.sqrt(own * (own - 1));
}

/** Of an interval: that of the limit nearer to one; one where it holds one. */
const limitValue = (lower: number, upper: number): number =>
  lower <= 1 && upper >= 1 ? 1 : eValue(lower > 1 ? lower : upper);

/**
 * How strong a cause that was left out would have to be to explain an effect away (VanderWeele & Ding 2017, Ann Intern Med 167;
 * Smith & VanderWeele 2019, Epidemiology 30).
 * @param sd of the outcome, where it has differences of means only
 */
export function unmeasuredCauses(
  effects: NaturalEffectsEvidence["effects"],
  sd: number,
  level: number,
): UnmeasuredCause[] {
  const ratios = effects.risk_ratio ?? effects.mean_ratio;
  const find = (list: readonly NaturalEffect[], name: string) => list.find((e) => e.name === name);
  return EFFECTS.flatMap((name): UnmeasuredCause[] => {
    if (ratios) {
      const own = find(ratios, name);
      if (!own?.model) return [];
      const { lower, upper } = own.model;
      return [told(name, own.estimate, lower, upper)];
    }
    const own = find(effects.difference ?? [], name);
    if (!own?.model) return [];
    const d = own.estimate / sd;
    const reach = (zQuantile(1 - (1 - level) / 2) * own.model.se) / sd;
    return [told(name, exp(PER_SD * d), exp(PER_SD * (d - reach)), exp(PER_SD * (d + reach)))];
  });
}

const told = (effect: string, ratio: number, lower: number, upper: number): UnmeasuredCause => ({
  effect,
  ratio,
  lower,
  upper,
  eValue: eValue(ratio),
  eValueOfLimit: limitValue(lower, upper),
});
