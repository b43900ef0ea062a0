import { useMemo } from "react";
import { regionWords, linkName, type JohnsonNeyman, type ModerationEvidence } from "../../../core";
import { EffectStrip, type StripRegion } from "./effect-strip";
import { slopeHere, type unitsOf } from "./lever-model";
import type { usePoints } from "./use-points";

interface StripProps {
  /** What a case is called, in the plural. */
  unit: string;
  moderation: ModerationEvidence;
  found: JohnsonNeyman;
  points: ReturnType<typeof usePoints>;
  units: ReturnType<typeof unitsOf>;
  heldPlace: [string, number][];
  critical: number;
  over: string;
  columnKey: string;
  value: number;
  valueWords: string;
  marks: { value: number; label: string }[];
  change: (value: number) => void;
}

const STRIP_STEPS = 80;

/** The slope along the moderator, with the regions where it differs from zero. */
export function SlopeStrip({
  moderation,
  found,
  points,
  units,
  heldPlace,
  critical,
  over,
  columnKey,
  unit,
  value,
  valueWords,
  marks,
  change,
}: StripProps) {
  const curve = useMemo(() => {
    const [min, max] = found.range;
    const grid = Array.from(
      { length: STRIP_STEPS + 1 },
      (_, i) => min + ((max - min) * i) / STRIP_STEPS,
    );
    const readings = grid.map((w) =>
      slopeHere(moderation, new Map([...heldPlace, [columnKey, w]])),
    );
    return {
      grid,
      estimate: readings.map((r) => r.estimate * units.slope),
      // A band of standardised slopes would have to allow for the estimated SDs, so none is drawn
      // in those units.
      lower: readings.map((r) =>
        r.se === null || units.standardised ? null : r.estimate - critical * r.se,
      ),
      upper: readings.map((r) =>
        r.se === null || units.standardised ? null : r.estimate + critical * r.se,
      ),
    };
    // The held places are named by their values.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [moderation, found, units, critical, JSON.stringify(heldPlace), columnKey]);
  const regions = found.regions.map((r): StripRegion => ({
    from: r.from,
    to: r.to,
    look: !r.significant ? "unclear" : r.sign > 0 ? "more" : "less",
    words: regionWords(r, moderation),
    percent: r.percent,
  }));
  return (
    <EffectStrip
      unit={unit}
      {...curve}
      {...{ over, regions, marks, value, valueWords, change }}
      effectName={
        moderation.model.link === "identity"
          ? `effect of ${moderation.focalLabel}`
          : `effect of ${moderation.focalLabel} (${linkName(moderation.model.link)})`
      }
      values={points?.columns[columnKey] ?? null}
      show={units.w}
    />
  );
}
