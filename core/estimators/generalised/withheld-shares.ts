import { WITHHELD } from "../../wording";
import type { SectionContext } from "../engine";
import { naturalLimits } from "../natural-limits";
import type { NaturalEffect } from "../response-types";

export const isShare = ({ name }: Pick<NaturalEffect, "name">): boolean =>
  /^(share|proportion)/.test(name);

/** Shares of four parts of which one is held at a value (VanderWeele 2014). */
const FOUR = [
  "share_controlled_direct",
  "share_reference_interaction",
  "share_mediated_interaction",
  "share_pure_indirect",
];

/**
 * Marks what must not be reported: shares of the total effect where its interval contains zero, or
 * where parts have opposite signs; and whatever lies outside its own interval. The numbers stay as
 * they are.
 *
 * @param effects of one treatment, on one scale
 * @param total its total effect as a difference
 */
export function withheldAmong(
  effects: readonly NaturalEffect[],
  total: NaturalEffect,
  context: Pick<SectionContext, "interval" | "errors">,
): NaturalEffect[] {
  const limits = naturalLimits(total, context);
  const zero = limits && !(limits.lower > 0 || limits.upper < 0) ? WITHHELD.zero("total") : null;
  const outside = (name: string): boolean => {
    const found = effects.find((e) => e.name === name);
    return found !== undefined && !(found.estimate >= 0 && found.estimate <= 1);
  };
  return effects.map((effect): NaturalEffect => {
    const interval = leavesOut(naturalLimits(effect, context), effect.estimate)
      ? WITHHELD.interval
      : null;
    if (!isShare(effect)) return { ...effect, withheld: interval };
    const held = /\[.*$/.exec(effect.name)?.[0] ?? "";
    const four = held !== "" && effect.name.startsWith("share");
    const opposite =
      outside(effect.name) || (four && FOUR.some((name) => outside(name + held) || outside(name)));
    return { ...effect, withheld: zero ?? (opposite ? WITHHELD.parts : interval) };
  });
}

const leavesOut = (limits: { lower: number; upper: number } | null, estimate: number): boolean =>
  limits !== null && (limits.lower > estimate || limits.upper < estimate);
