import {
  percent,
  plain,
  pValue,
  type EffectEvidence,
  type Evidence,
  type HypothesisEvidence,
} from "../../../core";

/** Beneath a claim about three or more groups: every two of them, with p as it is and adjusted for their number. */
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
    <table className="numbers pairwise">
      <caption>Pairwise differences</caption>
      <thead>
        <tr>
          <th scope="col">difference</th>
          <th scope="col">estimate</th>
          <th scope="col">SE</th>
          <th scope="col">{percent(evidence.settings.level)} % CI</th>
          <th scope="col">p</th>
          <th scope="col">p, adjusted (Holm)</th>
        </tr>
      </thead>
      <tbody>
        {pairs.map((e) => (
          <tr key={e.id}>
            <td>{e.label}</td>
            <td>{plain(e.estimate)}</td>
            <td>{plain(e.shown?.se)}</td>
            <td>
              {plain(e.shown?.lower)}, {plain(e.shown?.upper)}
            </td>
            <td>{pValue(e.shown?.p, e.shown?.pIsBound)}</td>
            <td>{pValue(e.holmP)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The differences between levels of the effect that is claimed: of its predictor, or of a categorical moderator. */
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
  const direct = chains.length === 0 ? "direct" : "indirect";
  return effects.filter(
    (e) =>
      e.kind === kind &&
      same(e) &&
      (kind === "conditional_contrast"
        ? keys.includes(e.from ?? "")
        : e.from!.startsWith(`${from} (`) && e.id.includes(` ${direct} `)),
  );
}
