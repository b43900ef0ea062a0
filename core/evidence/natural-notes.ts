import type { NaturalEffect } from "../estimators";

type Told = Pick<NaturalEffect, "words" | "withheld">;

/** May an effect of a treatment be reported? */
export const isReported = ({ withheld }: Pick<NaturalEffect, "withheld">): boolean =>
  withheld === null;

/** Which effects of a treatment are missing from a table, and why: a sentence for each reason. */
export function withheldNotes(effects: readonly Told[]): string[] {
  const reasons = [...new Set(effects.flatMap((e) => e.withheld ?? []))];
  return reasons.map((reason) => {
    const [first, ...others] = effects.filter((e) => e.withheld === reason);
    const more =
      others.length === 0
        ? ""
        : ` and ${others.length} ${others.length === 1 ? "other" : "others"}`;
    return `Not reported: ${first!.words}${more}. ${reason}`;
  });
}
