import { unmeasuredCause, unmeasuredDifference, type UnmeasuredCause } from "../../sensitivity";
import type { NaturalEffect, NaturalEffectsEvidence } from "./types";

const EFFECTS = ["pure_natural_direct", "total_natural_indirect", "total_effect"] as const;

/**
 * E-values of the natural effects and the total, from ratios where the outcome has them.
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
    const own = find(ratios ?? effects.difference ?? [], name);
    if (!own?.model) return [];
    const { lower, upper, se } = own.model;
    return [
      ratios
        ? unmeasuredCause(name, own.estimate, lower, upper)
        : unmeasuredDifference(name, own.estimate, se, sd, level),
    ];
  });
}
