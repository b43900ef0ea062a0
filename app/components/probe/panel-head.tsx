import { pClause, plain, testOf, type Evidence, type ModerationEvidence } from "../../../core";
import { slopeHere } from "./lever-model";
import type { Points } from "./use-points";

export interface PanelsProps {
  moderation: ModerationEvidence;
  evidence: Evidence;
  points: Points | null;
}

interface HeadProps {
  moderation: ModerationEvidence;
  evidence: Evidence;
  words: string;
  place: ReadonlyMap<string, number>;
}

/** Where a panel stands, and the slope there. */
export function PanelHead({ moderation, evidence, words, place }: HeadProps) {
  const reading = slopeHere(moderation, place);
  const test = testOf(reading, moderation.model, evidence.settings.level);
  return (
    <figcaption>
      <strong data-figure-text>{words}</strong>
      <span className="quiet" data-figure-text>
        {`slope ${plain(reading.estimate)}${test ? `, ${plain(test.lower, 2)} to ${plain(test.upper, 2)}, ${pClause(test.p)}` : ""}`}
      </span>
    </figcaption>
  );
}
