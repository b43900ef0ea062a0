import {
  bandKind,
  zeroIndirectSentence,
  zeroSlopeSentence,
  type Evidence,
  type HypothesisEvidence,
} from "../../../core";

/**
 * Beneath a moderation: where the effect is zero along its moderator, and how well that is known.
 */
export function ZeroCrossing({
  hypothesis,
  evidence,
}: {
  hypothesis: HypothesisEvidence;
  evidence: Evidence;
}) {
  const text =
    hypothesis.chains.length > 0 ? ofIndirect(hypothesis, evidence) : ofSlope(hypothesis, evidence);
  return text && <p className="quiet">{text}</p>;
}

function ofSlope(
  { from, to, moderators }: HypothesisEvidence,
  { moderations, errors, settings }: Evidence,
): string | null {
  const moderation = moderations.find(
    (m) =>
      m.focal === from &&
      m.outcome === to &&
      m.moderators.length === 1 &&
      m.moderators[0]!.name === moderators[0],
  );
  const crossing = moderation?.crossings.find((c) => c.fieller !== null);
  const set = crossing?.fieller?.[errors];
  return crossing && set ? zeroSlopeSentence(crossing, set, moderators[0]!, settings.level) : null;
}

function ofIndirect(
  { from, to, chains, moderators }: HypothesisEvidence,
  { regions, settings }: Evidence,
): string | null {
  if (moderators.length !== 1) return null;
  const region = regions.find(
    (r) =>
      r.from === from &&
      r.to === to &&
      r.over === moderators[0] &&
      r.via.join(" ") === chains[0]!.join(" "),
  );
  return region?.bands
    ? zeroIndirectSentence(region, region.bands[bandKind(settings.interval)])
    : null;
}
