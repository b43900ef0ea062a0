import { useRef } from "react";
import {
  intervalName,
  percent,
  plain,
  pValue,
  thousands,
  unitWords,
  type EffectEvidence,
  type Evidence,
  type ShownInterval,
} from "../../../core";
import { FigureTools } from "../figure/figure-tools";
import { linear, padded, labelledTicks } from "../figure/scale";
import styles from "./forest.module.css";
import { wordsOf, type Units } from "./effect-words";

const FRAME = {
  display: "grid",
  gap: 10,
  width: "fit-content",
  maxWidth: "100%",
  overflowX: "auto",
  marginBottom: 10,
} as const;
const WIDTH = 1120;
const ROW = 25;
const PLOT = { left: 500, right: 880 };
/** Letters of a label that have room. */
const MOST = 74;

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
      <div ref={figure} className={styles.forest} style={FRAME}>
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
        caption={`Estimates with ${level} % ${intervalName(first.shown)} intervals${run}, ${units === "raw" ? unitWords(evidence.settings) : "standardised as named"}; hollow marks: zero lies inside. ${evidence.sample.n} ${evidence.unit}.`}
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

type DrawnEffect = EffectEvidence & { shown: ShownInterval };

/** With an estimate and both limits, and nothing withheld. */
const isDrawn = (e: EffectEvidence): e is DrawnEffect =>
  e.estimate !== null && e.shown !== null && e.shown.lower !== null && e.shown.upper !== null;

interface OneProps {
  outcome: string | null;
  effects: DrawnEffect[];
  words: (effect: EffectEvidence) => string;
}

function ForestOf({ outcome, effects, words }: OneProps) {
  const x = linear(padded([...effects.flatMap((e) => [e.shown.lower!, e.shown.upper!]), 0]), [
    PLOT.left,
    PLOT.right,
  ]);
  const top = 30;
  const bottom = top + effects.length * ROW;
  const title = outcome === null ? "Stated quantities" : `Effects on ${outcome}`;
  return (
    <svg
      width={WIDTH}
      height={bottom + 34}
      role="img"
      aria-label={`${title}: ${effects.length} intervals`}
    >
      <text x={0} y={18} className={styles.title}>
        {title}
      </text>
      {labelledTicks(x.domain, 6).map(([v, text]) => (
        <g key={v}>
          <path className={styles.grid} d={`M${x(v)} ${top}V${bottom}`} />
          <text x={x(v)} y={bottom + 18} textAnchor="middle" className={styles.tick}>
            {text}
          </text>
        </g>
      ))}
      <path className={styles.zero} d={`M${x(0)} ${top - 6}V${bottom + 4}`} />
      {effects.map((e, i) => {
        const { lower, upper, p, pIsBound, provisional } = e.shown;
        const y = top + (i + 0.5) * ROW;
        const inside = lower! <= 0 && upper! >= 0;
        const label = words(e);
        return (
          <g key={e.id} className={`${styles.row} ${inside ? styles.unclear : ""}`}>
            <text x={0} y={y + 4}>
              {label.length > MOST ? `${label.slice(0, MOST - 1)}…` : label}
              <title>{label}</title>
            </text>
            <path
              className={styles.reach}
              d={`M${x(lower!)} ${y}H${x(upper!)}`}
              strokeDasharray={provisional ? "4 3" : undefined}
            />
            <path className={styles.reach} d={`M${x(lower!)} ${y - 4}v8M${x(upper!)} ${y - 4}v8`} />
            <path className={styles.dot} d={`M${x(e.estimate!)} ${y - 5}l5 5-5 5-5-5z`} />
            <text x={PLOT.right + 24} y={y + 4}>
              {plain(e.estimate)} [{plain(lower)}, {plain(upper)}]
            </text>
            <text x={WIDTH - 4} y={y + 4} textAnchor="end">
              {p === null ? "" : `p ${pIsBound || p < 0.001 ? "" : "= "}${pValue(p, pIsBound)}`}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
