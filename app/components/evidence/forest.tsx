import { useRef } from "react";
import {
  intervalName,
  percent,
  thousands,
  unitWords,
  type EffectEvidence,
  type Evidence,
  type ShownInterval,
  wordsOf,
  type Units,
} from "../../../core";
import { FigureTools } from "../figure/figure-tools";
import { Plot } from "../figure/plot";
import { FOREST_ROW, forestPlot, type IntervalRow } from "./forest-plot";

/** A wide picture moves within its frame. */
export const FOREST_FRAME = {
  display: "grid",
  gap: 10,
  width: "fit-content",
  maxWidth: "100%",
  overflowX: "auto",
  marginBottom: 10,
} as const;
export const FOREST_WIDTH = 1120;

interface Props {
  effects: EffectEvidence[];
  evidence: Evidence;
  units: Units;
}

/**
 * All intervals to scale, one picture for each outcome, since only effects on the same outcome
 * share a unit.
 */
export function Forest({ effects, evidence, units }: Props) {
  const figure = useRef<HTMLDivElement>(null);
  const known = effects.filter(isDrawn);
  const outcomes = [...new Set(known.map((e) => e.to))];
  const [first] = known;
  if (!first) return null;
  const words = (e: EffectEvidence): string =>
    e.from === null || e.kind === "interaction"
      ? wordsOf(e, units, evidence)
      : `${e.from}: ${wordsOf(e, units, evidence)}`;
  const level = percent(evidence.settings.level);
  const run = evidence.bootstrap
    ? ` from ${thousands(evidence.bootstrap.done)} bootstrap samples`
    : "";
  return (
    <>
      <div ref={figure} style={FOREST_FRAME}>
        {outcomes.map((outcome) => (
          <ForestOf
            key={outcome ?? "stated"}
            outcome={outcome}
            rows={known.filter((e) => e.to === outcome).map((e) => rowOf(e, words(e)))}
          />
        ))}
      </div>
      <FigureTools
        target={figure}
        name={`${evidence.title}, intervals`}
        caption={`Estimates with ${level} % ${intervalName(first.shown)} intervals${run}, ${units === "raw" ? unitWords(evidence) : "standardised as named"}; hollow marks: zero lies inside. ${evidence.sample.n} ${evidence.unit}.`}
        numbers={() => [
          {
            title: "Intervals",
            head: ["effect", "estimate", "SE", `${level} % CI lower`, `${level} % CI upper`, "p"],
            rows: known.map((e) => [
              e.label,
              e.estimate,
              e.shown.se,
              e.shown.lower,
              e.shown.upper,
              e.shown.p,
            ]),
          },
        ]}
      />
    </>
  );
}

/** With an estimate and both limits, and nothing withheld. */
type DrawnEffect = EffectEvidence & { shown: ShownInterval };

const isDrawn = (e: EffectEvidence): e is DrawnEffect =>
  e.estimate !== null && e.shown !== null && e.shown.lower !== null && e.shown.upper !== null;

const rowOf = ({ estimate, shown }: DrawnEffect, words: string): IntervalRow => ({
  words,
  estimate: estimate!,
  lower: shown.lower!,
  upper: shown.upper!,
  provisional: shown.provisional,
  p: shown.p,
  pIsBound: shown.pIsBound,
});

function ForestOf({ outcome, rows }: { outcome: string | null; rows: IntervalRow[] }) {
  const title = outcome === null ? "Stated quantities" : `Effects on ${outcome}`;
  return (
    <div>
      <strong data-figure-text>{title}</strong>
      <Plot
        label={`${title}: ${rows.length} intervals`}
        width={FOREST_WIDTH}
        height={rows.length * FOREST_ROW + 44}
        make={forestPlot(rows)}
      />
    </div>
  );
}
