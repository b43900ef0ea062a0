import { useRef } from "react";
import {
  intervalName,
  percent,
  thousands,
  unitWords,
  type EffectEvidence,
  type Evidence,
  wordsOf,
  type Units,
} from "../../../core";
import { FigureTools } from "../figure/figure-tools";
import { Plot } from "../figure/plot";
import { FOREST_ROW, forestPlot, type DrawnEffect } from "./forest-plot";

const FRAME = {
  display: "grid",
  gap: 10,
  width: "fit-content",
  maxWidth: "100%",
  overflowX: "auto",
  marginBottom: 10,
} as const;
const WIDTH = 1120;

interface Props {
  effects: EffectEvidence[];
  evidence: Evidence;
  units: Units;
}

/** All intervals to scale, one picture for each outcome, since only effects on the same outcome share a unit. */
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
      <div ref={figure} style={FRAME}>
        {outcomes.map((outcome) => (
          <ForestOf
            key={outcome ?? "stated"}
            outcome={outcome}
            effects={known.filter((e) => e.to === outcome)}
            words={words}
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

const isDrawn = (e: EffectEvidence): e is DrawnEffect =>
  e.estimate !== null && e.shown !== null && e.shown.lower !== null && e.shown.upper !== null;

interface OneProps {
  outcome: string | null;
  effects: DrawnEffect[];
  words: (effect: EffectEvidence) => string;
}

function ForestOf({ outcome, effects, words }: OneProps) {
  const title = outcome === null ? "Stated quantities" : `Effects on ${outcome}`;
  return (
    <div>
      <strong data-figure-text>{title}</strong>
      <Plot
        label={`${title}: ${effects.length} intervals`}
        width={WIDTH}
        height={effects.length * FOREST_ROW + 44}
        make={forestPlot(effects, words)}
      />
    </div>
  );
}
