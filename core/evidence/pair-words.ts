import type { EffectEvidence, Evidence } from "./types";

type Named = Pick<EffectEvidence, "kind" | "label" | "from" | "to">;
type Coded = Pick<Evidence, "codings">;

/** A predictor for people: of a categorical one with the two levels that an effect compares. */
function predictorWords({ codings }: Coded, from: string): string {
  for (const { variable, columns } of codings) {
    const column = columns.find((c) => c.key === from);
    if (column) return `${variable} (${column.contrast})`;
  }
  return from;
}

/**
 * Which predictor's effect on which outcome, for the head of a group of effects: the same for all
 * that leads from the one to the other.
 * @returns empty for quantities of the user's own, which lead from nothing
 */
export function pairWords(evidence: Coded, { kind, label, from, to }: Named): string {
  if (!from || !to) return "";
  return kind === "interaction" ? label : `${predictorWords(evidence, from)} on ${to}`;
}

/**
 * Is an effect a comparison with the reference level, which is the effect of a code column under
 * another name?
 */
export function repeatsCodeColumn(evidence: Evidence, effect: EffectEvidence): boolean {
  if (effect.kind !== "comparison") return false;
  const pair = pairWords(evidence, effect);
  return evidence.effects.some(
    (e) =>
      e.kind !== "comparison" &&
      e.estimate === effect.estimate &&
      e.via.join() === effect.via.join() &&
      pairWords(evidence, e) === pair,
  );
}
