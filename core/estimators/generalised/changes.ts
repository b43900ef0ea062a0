import { subtract, type Expression } from "../../model";
import type { HeldAt, NaturalEffectKind } from "./types";
import type { Triad } from "./causal-model";
import type { FittedResponses } from "./fitted-responses";

/** Effects whose differences between values of a moderator are told. */
const CHANGING: readonly NaturalEffectKind[] = [
  "total_effect",
  "pure_natural_direct",
  "total_natural_indirect",
  "total_natural_direct",
  "pure_natural_indirect",
  "average_natural_indirect",
];

/** Effects at one value of a moderator less those at another. */
export interface Change {
  triad: Triad;
  upper: HeldAt;
  lower: HeldAt;
  formulas: { kind: NaturalEffectKind; expression: Expression }[];
  /** Which triads, the upper first. */
  places: [number, number];
}

/** Every two values of the moderator of a triad, the higher less the lower. */
export function changesOf({
  plan,
  formulas,
}: Pick<FittedResponses, "plan" | "formulas">): Change[] {
  const list: Change[] = [];
  plan.triads.forEach(({ triad }, hi) =>
    plan.triads.forEach(({ triad: other }, lo) => {
      if (!triad.at || !other.at || triad.at.value <= other.at.value) return;
      const same =
        triad.contrast === other.contrast &&
        triad.outcome === other.outcome &&
        triad.at.name === other.at.name;
      if (!same) return;
      const of = (t: number, kind: NaturalEffectKind): Expression =>
        formulas[t]!.find((f) => f.scale === "difference" && f.kind === kind)!.expression;
      list.push({
        triad,
        upper: triad.at,
        lower: other.at,
        formulas: CHANGING.map((kind) => ({
          kind,
          expression: subtract(of(hi, kind), of(lo, kind)),
        })),
        places: [hi, lo],
      });
    }),
  );
  return list;
}

/** How the resamples of a change are found again. */
export const changeLabel = ({ places }: Change, kind: NaturalEffectKind): string =>
  `${places[0] + 1} less ${places[1] + 1} ${kind}`;
