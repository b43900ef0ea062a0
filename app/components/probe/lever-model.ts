import {
  effectAt,
  predictAt,
  responseOf,
  type ModerationEvidence,
  type Reading,
} from "../../../core";

/** How raw values are shown: as they are, or in standard deviations from the mean. */
export interface Units {
  x: (raw: number) => number;
  y: (raw: number) => number;
  w: (raw: number) => number;
  /** From what a line predicts to what is drawn: a probability, say, from log odds. */
  mean: (predicted: number) => number;
  /** What a slope is multiplied by. */
  slope: number;
  standardised: boolean;
  /**
   * Predictions are means of the outcome, on its own scale; else they are on that of a linear
   * predictor.
   */
  response: boolean;
}

const same = (raw: number): number => raw;

const RAW: Units = {
  x: same,
  y: same,
  w: same,
  mean: same,
  slope: 1,
  standardised: false,
  response: true,
};

/**
 * @param over the moderator column that moves, where there is one
 * @param response draw means of the outcome where its model has a link; else its linear predictor
 */
export function unitsOf(
  { model, focal }: ModerationEvidence,
  over: string | null,
  standardised: boolean,
  response = true,
): Units {
  if (model.link !== "identity")
    return response
      ? { ...RAW, mean: (predicted) => responseOf(model, predicted) }
      : { ...RAW, response: false };
  if (!standardised) return RAW;
  const column = (key: string | null) => model.columns.find((c) => c.key === key);
  const x = column(focal)!;
  const w = column(over);
  return {
    x: (v) => (v - x.mean) / x.sd,
    y: (v) => (v - model.outcomeMean) / model.outcomeSd,
    w: (v) => (w ? (v - w.mean) / w.sd : v),
    mean: same,
    slope: x.sd / model.outcomeSd,
    standardised: true,
    response: true,
  };
}

/** Raw values of every moderator column. */
export type Place = ReadonlyMap<string, number>;

/** The raw column values of a probe. */
export function placeOf(
  moderation: ModerationEvidence,
  probe: { centred: Record<string, number> },
): [string, number][] {
  return Object.entries(probe.centred).map(([key, value]) => [
    key,
    value + (moderation.model.columns.find((c) => c.key === key)?.centre ?? 0),
  ]);
}

export const slopeHere = (moderation: ModerationEvidence, place: Place): Reading =>
  effectAt(moderation.model, moderation.focal, place);

/** Points of the fitted line from one end of the predictor to the other. */
export function lineHere(
  moderation: ModerationEvidence,
  place: Place,
  ends: [number, number],
  steps = 24,
): { x: number; reading: Reading }[] {
  return Array.from({ length: steps + 1 }, (_, i) => {
    const x = ends[0] + ((ends[1] - ends[0]) * i) / steps;
    return { x, reading: predictAt(moderation.model, new Map([...place, [moderation.focal, x]])) };
  });
}
