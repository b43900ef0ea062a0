import { useState } from "react";
import { percent, plain, pValue, testOf, type Evidence, type ModerationEvidence, type ProbeChoice } from "../../../core";
import { Segments } from "../segments";
import { placeOf, slopeHere, type Units } from "./lever-model";

interface OwnProps {
  probes: ProbeChoice[];
  units: string;
  set: (probes: ProbeChoice[]) => void;
}

/** Where the comparison lines stand: mean and SDs, percentiles, or values of one's own. */
export function OwnProbes({ probes, units, set }: OwnProps) {
  const own = probes.filter((p) => typeof p === "number");
  const [open, setOpen] = useState(own.length > 0);
  const [text, setText] = useState(own.join("; "));
  const rule = own.length > 0 || open ? "own" : probes.includes("percentile") ? "percentile" : "mean_sd";
  const keep = (): void => {
    const values = text
      .split(/[;\s]+/)
      .map((t) => Number(t.replace(",", ".")))
      .filter((v, i, all) => Number.isFinite(v) && all.indexOf(v) === i)
      .slice(0, 6)
      .sort((a, b) => a - b);
    if (text.trim() !== "" && values.length > 0) set(values);
  };
  return (
    <>
      <Segments
        label="Comparison values"
        value={rule}
        choices={[
          ["mean_sd", "mean ± SD"],
          ["percentile", "16 · 50 · 84 %"],
          ["own", "my own"],
        ]}
        choose={(next) => {
          setOpen(next === "own");
          if (next !== "own") set([next]);
        }}
      />
      {rule === "own" && (
        <label className="field own-probes">
          <span>Values in {units}</span>
          <input
            value={text}
            placeholder="2; 3.5; 5"
            onChange={(e) => setText(e.target.value)}
            onBlur={keep}
            onKeyDown={(e) => e.key === "Enter" && keep()}
          />
        </label>
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

const LOW_TO_HIGH: Record<string, string> = { "mean-sd": "low", mean: "middle", "mean+sd": "high", p16: "low", p50: "middle", p84: "high" };

/** The slopes at the comparison values; each can be pinned as a line and gone to. */
export function ProbeTable({ moderation, evidence, moderator, units, heldPlace, pinned, pin, go }: TableProps) {
  return (
    <table className="numbers probe-table">
      <thead>
        <tr>
          <th scope="col">{moderator.name}</th>
          <th scope="col">slope</th>
          <th scope="col">SE</th>
          <th scope="col">{percent(evidence.settings.level)} % CI</th>
          <th scope="col">p</th>
          <th scope="col">line</th>
        </tr>
      </thead>
      <tbody>
        {moderator.probes.map((probe, i) => {
          const reading = slopeHere(moderation, new Map([...heldPlace, ...placeOf(moderation, probe)]));
          const test = testOf(reading, moderation.model, evidence.settings.level);
          const name = LOW_TO_HIGH[probe.label] ?? (probe.value === null || !probe.label.startsWith("=") ? probe.label : "");
          return (
            <tr key={probe.label}>
              <td>
                <button type="button" className="button bare" onClick={() => go(probe, i)}>
                  {name}
                  {probe.value !== null && moderator.kind === "numeric" && `${name ? ", " : ""}${plain(units.w(probe.value), 2)}`}
                </button>
              </td>
              <td>{plain(reading.estimate * units.slope)}</td>
              <td>{plain(test && test.se * units.slope)}</td>
              <td>{test ? `${plain(test.lower * units.slope, 2)}, ${plain(test.upper * units.slope, 2)}` : "–"}</td>
              <td>{pValue(test?.p)}</td>
              <td>
                <input
                  type="checkbox"
                  aria-label={`Pin the line at ${probe.label}`}
                  checked={pinned.has(probe.label)}
                  onChange={() => pin(probe.label)}
                />
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
