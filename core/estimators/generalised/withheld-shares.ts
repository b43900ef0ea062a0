import { WITHHELD } from "../../wording";
import type { SectionContext } from "../engine";
import { naturalLimits } from "./natural-limits";
import type { NaturalEffect, NaturalEffectKind } from "./types";

/** Shares of four parts, of which those with the mediator held differ by where (VanderWeele 2014). */
const FOUR: ReadonlySet<NaturalEffectKind> = new Set([
  "share_controlled_direct",
  "share_reference_interaction",
  "share_mediated_interaction",
  "share_pure_indirect",
]);

const SHARES: ReadonlySet<NaturalEffectKind> = new Set([
  ...FOUR,
  "share_interaction_total",
  "proportion_mediated",
  "proportion_mediated_average",
  "proportion_mediated_odds",
  "proportion_eliminated",
]);

export const isShare = ({ kind }: Pick<NaturalEffect, "kind">): boolean => SHARES.has(kind);

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
  const outside = (share: NaturalEffect): boolean => !(share.estimate >= 0 && share.estimate <= 1);
  return effects.map((effect): NaturalEffect => {
    const interval = leavesOut(naturalLimits(effect, context), effect.estimate)
      ? WITHHELD.interval
      : null;
    if (!isShare(effect)) return { ...effect, withheld: interval };
    const { held } = effect;
    // One of four parts, or two of them together, is judged with the others at the same value.
    const four = held !== null && effect.kind !== "proportion_eliminated";
    const beside = (part: NaturalEffect): boolean =>
      FOUR.has(part.kind) && (part.held === null || part.held.join() === held?.join());
    const opposite = outside(effect) || (four && effects.some((e) => beside(e) && outside(e)));
    return { ...effect, withheld: zero ?? (opposite ? WITHHELD.parts : interval) };
  });
}

const leavesOut = (limits: { lower: number; upper: number } | null, estimate: number): boolean =>
  limits !== null && (limits.lower > estimate || limits.upper < estimate);
