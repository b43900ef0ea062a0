import Typography from "@mui/material/Typography";
import { useRef } from "react";
import {
  heldWords,
  percent,
  type Evidence,
  type HeldAt,
  type NaturalEffect,
  type NaturalEffectsEvidence,
} from "../../../core";
import { FOREST_FRAME, FOREST_WIDTH } from "../evidence/forest";
import { FOREST_ROW, forestPlot, type IntervalRow } from "../evidence/forest-plot";
import { FigureTools } from "../figure/figure-tools";
import { Plot } from "../figure/plot";

/** The parts of an effect that are looked at over a moderator. */
const PARTS = ["total_natural_indirect", "pure_natural_direct", "total_effect"];

/** One effect of a treatment at several values of a moderator. */
interface Moved {
  treatment: string;
  mediator: string;
  outcome: string;
  contrast: string;
  moderator: string;
  rows: (IntervalRow & { at: number | string; se: number })[];
}

/**
 * What goes through a mediator, past it, and in all, at each value of a moderator at which it was
 * told.
 */
export function movedEffects(list: readonly NaturalEffectsEvidence[]): Moved[] {
  const told = list.filter((n) => n.at !== null);
  const keyOf = (n: NaturalEffectsEvidence): string =>
    [n.contrast, n.mediator, n.outcome, n.at!.name].join("\u0000");
  return [...new Set(told.map(keyOf))].flatMap((key) => {
    const own = told.filter((n) => keyOf(n) === key).sort((a, b) => a.at!.value - b.at!.value);
    const [first] = own;
    if (!first || own.length < 2) return [];
    const { treatment, mediator, outcome, contrast } = first;
    const rows = PARTS.flatMap((name) =>
      own.flatMap(({ at, effects }) => {
        const effect = effects.difference?.find((e) => e.name === name);
        return effect?.model ? [rowOf(effect, effect.model, at!)] : [];
      }),
    );
    return [{ treatment, mediator, outcome, contrast, moderator: first.at!.name, rows }];
  });
}

const rowOf = (
  { words, estimate }: NaturalEffect,
  { se, lower, upper, p }: NonNullable<NaturalEffect["model"]>,
  at: HeldAt,
): Moved["rows"][number] => ({
  words: `${words}, where ${at.name} is ${heldWords(at)}`,
  estimate,
  se,
  lower,
  upper,
  provisional: false,
  p,
  pIsBound: false,
  at: at.level ?? at.value,
});

/**
 * How effects move with a moderator: intervals to one scale, those of one effect below each other.
 */
export function EffectsOver({ moved, evidence }: { moved: Moved; evidence: Evidence }) {
  const figure = useRef<HTMLDivElement>(null);
  const { treatment, mediator, outcome, contrast, moderator, rows } = moved;
  const level = percent(evidence.settings.level);
  const title = `${treatment} through ${mediator} to ${outcome} as ${moderator} moves: ${contrast}`;
  return (
    <section aria-label={title}>
      <Typography variant="h2">{title}</Typography>
      <div ref={figure} style={FOREST_FRAME}>
        <Plot
          label={`${title}, ${rows.length} intervals`}
          width={FOREST_WIDTH}
          height={rows.length * FOREST_ROW + 44}
          make={forestPlot(rows)}
        />
      </div>
      <FigureTools
        target={figure}
        name={title}
        caption={`Differences with ${level} % intervals of the models, at each value of ${moderator}; hollow marks: zero lies inside. Whether they differ stands in the tables below.`}
        numbers={() => [
          {
            title,
            head: ["effect", moderator, "estimate", "SE", `${level} % CI lower`, "upper", "p"],
            rows: rows.map((r) => [r.words, r.at, r.estimate, r.se, r.lower, r.upper, r.p]),
          },
        ]}
      />
    </section>
  );
}
