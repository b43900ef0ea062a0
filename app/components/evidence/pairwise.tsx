import {
  effectWorking,
  percent,
  pValue,
  type EffectEvidence,
  type EffectKind,
  type Evidence,
  type HypothesisEvidence,
} from "../../../core";
import { NumberTable } from "../ui/number-table";
import { limitsPair } from "../structure/cells";

/**
 * Beneath a claim about three or more groups: every two of them, with p as it is and adjusted for
 * their number.
 */
export function Pairwise({
  hypothesis,
  evidence,
}: {
  hypothesis: HypothesisEvidence;
  evidence: Evidence;
}) {
  const pairs = differencesOf(hypothesis, evidence);
  if (pairs.length < 2) return null;
  return (
    <NumberTable
      title={`Pairwise differences, ${hypothesis.label}`}
      heading={<strong>Pairwise differences</strong>}
      columns={[
        "difference",
        "estimate",
        "SE",
        `${percent(evidence.settings.level)} % CI`,
        "p",
        "p, adjusted (Holm)",
      ]}
      rows={pairs.map((e) => ({
        key: e.id,
        working: () => effectWorking(e, evidence),
        cells: [
          e.label,
          e.estimate,
          e.shown?.se ?? null,
          limitsPair(e.shown?.lower ?? null, e.shown?.upper ?? null),
          { shown: pValue(e.shown?.p, e.shown?.pIsBound), value: e.shown?.p ?? null },
          { shown: pValue(e.holmP), value: e.holmP },
        ],
      }))}
    />
  );
}

const DIRECT: readonly EffectKind[] = ["direct", "average_direct"];
const INDIRECT: readonly EffectKind[] = [
  "specific_indirect",
  "combined_indirect",
  "total_indirect",
  "average_indirect",
];

/**
 * The differences between levels of the effect that is claimed: of its predictor, or of a
 * categorical moderator.
 */
function differencesOf(
  { claim, from, to, chains, moderators }: HypothesisEvidence,
  { effects, codings }: Evidence,
): EffectEvidence[] {
  if (!claim || claim.joint === null) return [];
  const via = (chains[0] ?? []).join(" ");
  const same = (e: EffectEvidence): boolean =>
    e.to === to && (chains.length > 1 || e.via.join(" ") === via) && e.holmP !== null;
  const keys = codings.find((c) => c.variable === moderators[0])
    ? [from]
    : codings.filter((c) => c.variable === from).map((c) => c.variable);
  const kind =
    moderators.length > 0 && !codings.some((c) => c.variable === from)
      ? "conditional_contrast"
      : "comparison";
  const kinds = chains.length === 0 ? DIRECT : INDIRECT;
  return effects.filter(
    (e) =>
      e.kind === kind &&
      same(e) &&
      (kind === "conditional_contrast"
        ? keys.includes(e.from ?? "")
        : e.compared?.variable === from && kinds.includes(e.compared.kind)),
  );
}
