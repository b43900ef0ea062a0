import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import { limitsCell } from "../structure/cells";
import { useState } from "react";
import {
  percent,
  plain,
  pValue,
  testOf,
  type EffectEvidence,
  type Evidence,
  type ModerationEvidence,
  type ProbeChoice,
} from "../../../core";
import { Segments } from "../ui/segments";
import { placeOf, slopeHere, type Units } from "./lever-model";
import { TextInput } from "../ui/text-input";
import { Labelled } from "../ui/layout";
import { NumberTable } from "../ui/number-table";

interface OwnProps {
  probes: ProbeChoice[];
  units: string;
  set: (probes: ProbeChoice[]) => void;
}

const NAMED = ["mean_sd", "quartiles", "tenths", "percentile"] as const;
type Named = (typeof NAMED)[number];

/** Values and percentages from what was typed: “2; 3.5; 20 %”. At most six, each once. */
export function typedProbes(text: string): ProbeChoice[] {
  const found = text
    .replace(/\s+%/g, "%")
    .split(/[;\s]+/)
    .filter((t) => t !== "")
    .map((t): ProbeChoice | null => {
      const value = Number(t.replace("%", "").replace(",", "."));
      if (!Number.isFinite(value)) return null;
      if (!t.endsWith("%")) return value;
      return value > 0 && value < 100 ? `${value} %` : null;
    })
    .filter((v, i, all): v is ProbeChoice => v !== null && all.indexOf(v) === i);
  const order = (v: ProbeChoice): number => (typeof v === "number" ? v : Number.parseFloat(v));
  return found.slice(0, 6).sort((a, b) => order(a) - order(b));
}

/**
 * Where the comparison lines stand: mean and SDs, percentiles, or values and percentages of one's
 * own.
 */
export function OwnProbes({ probes, units, set }: OwnProps) {
  const own = probes.filter((p) => !NAMED.includes(p as Named));
  const [open, setOpen] = useState(own.length > 0);
  const [text, setText] = useState(own.join("; "));
  const rule: Named | "own" =
    own.length > 0 || open ? "own" : (NAMED.find((name) => probes.includes(name)) ?? "mean_sd");
  const keep = (): void => {
    const values = typedProbes(text);
    if (values.length > 0) set(values);
  };
  return (
    <>
      <Segments
        label="Comparison values"
        value={rule}
        choices={[
          ["mean_sd", "mean ± SD"],
          ["quartiles", "quartiles"],
          ["tenths", "10 · 50 · 90 %"],
          ...(rule === "percentile" ? [["percentile", "16 · 50 · 84 %"] as [Named, string]] : []),
          ["own", "my own"],
        ]}
        choose={(next) => {
          setOpen(next === "own");
          if (next !== "own") set([next]);
        }}
      />
      {rule === "own" && (
        <Labelled style={{ width: 200 }}>
          <span>Values in {units}, or percentages</span>
          <TextInput
            value={text}
            placeholder="2; 3.5; 80 %"
            onChange={(e) => setText(e.target.value)}
            onBlur={keep}
            onKeyDown={(e) => e.key === "Enter" && keep()}
          />
        </Labelled>
      )}
    </>
  );
}

type Moderator = ModerationEvidence["moderators"][number];

interface TableProps {
  moderation: ModerationEvidence;
  evidence: Evidence;
  moderator: Moderator;
  units: Units;
  heldPlace: [string, number][];
  pinned: ReadonlySet<string>;
  pin: (label: string) => void;
  go: (probe: Moderator["probes"][number], i: number) => void;
}

const LOW_TO_HIGH: Record<string, string> = {
  "mean-sd": "low",
  mean: "middle",
  "mean+sd": "high",
  p50: "middle",
};

/**
 * What a comparison value is called: low, middle, high; “20 %”; a level. Values of one's own speak
 * for themselves.
 */
function probeName({ label, value }: Moderator["probes"][number]): string {
  if (LOW_TO_HIGH[label]) return LOW_TO_HIGH[label];
  if (/^p[\d.]+$/.test(label) && value !== null) return `${label.slice(1)} %`;
  return value === null || !label.startsWith("=") ? label : "";
}

/**
 * The standardised slope at a comparison value with its own interval, which allows for the
 * estimated SDs.
 */
function standardisedSlope(
  moderation: ModerationEvidence,
  { effects }: Evidence,
  moderator: Moderator,
  probe: Moderator["probes"][number],
  held: [string, number][],
): EffectEvidence | null {
  const wanted = new Map([...held, ...placeOf(moderation, probe)]);
  const slope = moderation.slopes.find(({ at }) =>
    moderation.moderators.every((m) => {
      const here = m.probes.find((p) => (p.value ?? p.label) === at[m.name]);
      return (
        here !== undefined &&
        placeOf(moderation, here).every(([key, value]) => wanted.get(key) === value)
      );
    }),
  );
  if (!slope || slope.effect === null || !moderation.moderators.includes(moderator)) return null;
  return effects.find((e) => e.of === slope.effect && e.kind === "completely_standardised") ?? null;
}

/** The slopes at the comparison values; each can be pinned as a line and gone to. */
export function ProbeTable({
  moderation,
  evidence,
  moderator,
  units,
  heldPlace,
  pinned,
  pin,
  go,
}: TableProps) {
  return (
    <NumberTable
      title={`Simple slopes by ${moderator.name}`}
      columns={[
        moderator.name,
        "slope",
        "SE",
        `${percent(evidence.settings.level)} % CI`,
        "p",
        "line",
      ]}
      rows={moderator.probes.map((probe, i) => {
        const place = new Map([...heldPlace, ...placeOf(moderation, probe)]);
        const reading = slopeHere(moderation, place);
        const shown = units.standardised
          ? (standardisedSlope(moderation, evidence, moderator, probe, heldPlace)?.shown ?? null)
          : asShown(testOf(reading, moderation.model, evidence.settings.level));
        const words = probeWords(probe, moderator, units);
        return {
          key: probe.label,
          cells: [
            {
              shown: (
                <Button variant="text" size="small" sx={{ px: 0.5 }} onClick={() => go(probe, i)}>
                  {words}
                </Button>
              ),
              value: words,
            },
            units.standardised ? reading.estimate * units.slope : reading.estimate,
            shown?.se ?? null,
            shown ? limitsCell(shown.lower, shown.upper, 2) : null,
            { shown: pValue(shown?.p, shown?.pIsBound), value: shown?.p ?? null },
            {
              shown: (
                <Checkbox
                  sx={{ p: 0 }}
                  slotProps={{ input: { "aria-label": `Pin the line at ${probe.label}` } }}
                  checked={pinned.has(probe.label)}
                  onChange={() => pin(probe.label)}
                />
              ),
              value: null,
            },
          ],
        };
      })}
    />
  );
}

/** “low, 2.40”: what a comparison value is called, and its value. */
function probeWords(probe: Moderator["probes"][number], { kind }: Moderator, units: Units): string {
  const name = probeName(probe);
  const value = probe.value !== null && kind === "numeric" ? plain(units.w(probe.value), 2) : "";
  return [name, value].filter((part) => part !== "").join(", ");
}

const asShown = (test: ReturnType<typeof testOf>) => test && { ...test, pIsBound: false };
