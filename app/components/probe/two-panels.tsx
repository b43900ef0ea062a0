import Box from "@mui/material/Box";
import Slider from "@mui/material/Slider";
import { useRef, useState } from "react";
import {
  errorsName,
  percent,
  plain,
  pointwiseCritical,
  type ModerationEvidence,
} from "../../../core";
import { FigureTools } from "../figure/figure-tools";
import { padded } from "../../../formats/figures";
import { Segments } from "../ui/segments";
import { placeOf, unitsOf, type Place } from "./lever-model";
import { LeverPlot, type Pinned } from "./lever-plot";
import { PanelHead, type PanelsProps } from "./panel-head";
import type { ShownPoints } from "./people-layer";
import { panelTable } from "./probe-numbers";
import { Check } from "../ui/check";
import { Select } from "../ui/select";
import { Labelled } from "../ui/layout";
import { Controls, PanelGrid } from "./layout";

type Moderator = ModerationEvidence["moderators"][number];

/**
 * What one panel shows: every moderator at a probe (by its position) or at a value, with other
 * lines and people or not.
 */
interface PanelChoice {
  at: Record<string, { probe: number } | { value: number }>;
  lines: boolean;
  shown: ShownPoints;
}

const placeIn = (moderation: ModerationEvidence, { at }: PanelChoice): Place =>
  new Map(
    moderation.moderators.flatMap((m): [string, number][] => {
      const chosen = at[m.name]!;
      return "value" in chosen
        ? [[m.columns[0]!, chosen.value]]
        : placeOf(moderation, m.probes[chosen.probe]!);
    }),
  );

const wordsIn = ({ moderators }: ModerationEvidence, { at }: PanelChoice): string =>
  moderators
    .map((m) => {
      const chosen = at[m.name]!;
      const probe = "probe" in chosen ? m.probes[chosen.probe]! : null;
      const value = "value" in chosen ? chosen.value : probe!.value;
      return `${m.name} ${value === null || m.kind !== "numeric" ? probe!.label : plain(value, 2)}`;
    })
    .join(", ");

/** Two panels of one's own: the same lines without and with the people, two groups, two values. */
export function TwoPanels({ moderation, evidence, points }: PanelsProps) {
  const figure = useRef<HTMLDivElement>(null);
  const start = (shown: ShownPoints, end: "first" | "last"): PanelChoice => ({
    at: Object.fromEntries(
      moderation.moderators.map((m) => [
        m.name,
        { probe: end === "first" ? 0 : m.probes.length - 1 },
      ]),
    ),
    lines: true,
    shown,
  });
  const [left, setLeft] = useState(() => start("near", "first"));
  const [right, setRight] = useState(() => start("near", "last"));
  const units = unitsOf(moderation, null, false);
  const { level } = evidence.settings;
  const errors = errorsName(evidence.errors);
  const panels = [
    { choice: left, set: setLeft, side: "left" },
    { choice: right, set: setRight, side: "right" },
  ].map((panel) => ({
    ...panel,
    place: placeIn(moderation, panel.choice),
    words: wordsIn(moderation, panel.choice),
  }));
  return (
    <>
      <PanelGrid className="two" ref={figure}>
        {panels.map(({ choice, side, place, words }) => (
          <figure key={side}>
            <PanelHead {...{ moderation, evidence, words, place }} />
            <LeverPlot
              {...{ moderation, points, place, units }}
              critical={pointwiseCritical(moderation.model.df ?? Infinity, level)}
              pinned={choice.lines ? otherLines(moderation, place) : []}
              shown={choice.shown}
              label={endOf(moderation, choice)}
              width={556}
              height={360}
            />
          </figure>
        ))}
      </PanelGrid>
      <PanelGrid className="two">
        {panels.map(({ choice, set, side }) => (
          <PanelControls
            key={side}
            {...{ moderation, choice, set, side }}
            values={points?.columns ?? null}
          />
        ))}
      </PanelGrid>
      <FigureTools
        target={figure}
        name={`${moderation.focal} on ${moderation.outcome}, two panels`}
        caption={`${moderation.outcome} against ${moderation.focalLabel}; left: ${panels[0]!.words}, right: ${panels[1]!.words}; pointwise ${percent(level)} % bands (${errors} errors). ${evidence.sample.n} ${evidence.unit}, other predictors at their means.`}
        numbers={() => [panelTable(moderation, evidence, panels)]}
      />
    </>
  );
}

/** What stands at the end of the line: the first moderator's place. */
function endOf({ moderators }: ModerationEvidence, { at }: PanelChoice): string {
  const [first] = moderators as [Moderator];
  const chosen = at[first.name]!;
  const probe = "probe" in chosen ? first.probes[chosen.probe]! : null;
  const value = "value" in chosen ? chosen.value : probe!.value;
  return value === null || first.kind !== "numeric" ? probe!.label : plain(value, 2);
}

/** Lines at the other probes of the first moderator, the outermost of many. */
function otherLines(moderation: ModerationEvidence, place: Place): Pinned[] {
  const [first] = moderation.moderators as [Moderator];
  const outer = first.kind === "numeric" ? [first.probes[0]!, first.probes.at(-1)!] : first.probes;
  return outer
    .map((probe) => ({ probe, own: placeOf(moderation, probe) }))
    .filter(({ own }) =>
      own.some(([key, value]) => Math.abs(value - (place.get(key) ?? value)) > 1e-9),
    )
    .map(({ probe, own }) => ({
      probe: probe.label,
      label: probe.value === null || first.kind !== "numeric" ? probe.label : plain(probe.value, 2),
      place: new Map([...place, ...own]),
    }));
}

interface ControlProps {
  moderation: ModerationEvidence;
  choice: PanelChoice;
  set: (choice: PanelChoice) => void;
  side: string;
  values: Record<string, Float64Array> | null;
}

function PanelControls({ moderation, choice, set, side, values }: ControlProps) {
  return (
    <Controls role="group" aria-label={`The ${side} panel`} sx={{ maxWidth: 556 }}>
      {moderation.moderators.map((m) => (
        <ModeratorPlace
          key={m.name}
          moderator={m}
          at={choice.at[m.name]!}
          range={values?.[m.columns[0]!] ? padded(values[m.columns[0]!]!, 0) : null}
          choose={(at) => set({ ...choice, at: { ...choice.at, [m.name]: at } })}
          side={side}
        />
      ))}
      <Segments
        label={`Cases, ${side}`}
        value={choice.shown}
        choices={[
          ["none", "no points"],
          ["near", "near"],
          ["all", "all"],
        ]}
        choose={(shown) => set({ ...choice, shown })}
      />
      <Check
        label="comparison lines"
        checked={choice.lines}
        onChange={(lines) => set({ ...choice, lines })}
      />
    </Controls>
  );
}

interface PlaceProps {
  moderator: Moderator;
  at: PanelChoice["at"][string];
  range: [number, number] | null;
  choose: (at: PanelChoice["at"][string]) => void;
  side: string;
}

/** A slider for a number, a list for groups. */
function ModeratorPlace({ moderator, at, range, choose, side }: PlaceProps) {
  if (moderator.kind === "numeric" && range) {
    const value = "value" in at ? at.value : moderator.probes[at.probe]!.value!;
    return (
      <Box sx={{ display: "grid", fontSize: 14 }}>
        <span>
          {moderator.name} {plain(value, 2)}
        </span>
        <Slider
          aria-label={`${moderator.name}, ${side}`}
          min={range[0]}
          max={range[1]}
          step={(range[1] - range[0]) / 100}
          value={value}
          onChange={(_, next) => choose({ value: next as number })}
          sx={{ width: 190 }}
        />
      </Box>
    );
  }
  return (
    <Labelled>
      <span>{moderator.name}</span>
      <Select
        value={"probe" in at ? at.probe : 0}
        onChange={(e) => choose({ probe: Number(e.target.value) })}
      >
        {moderator.probes.map((probe, i) => (
          <option key={probe.label} value={i}>
            {probe.label}
          </option>
        ))}
      </Select>
    </Labelled>
  );
}
