import { useMemo, useRef, useState, type RefObject } from "react";
import {
  pClause,
  percent,
  plain,
  pointwiseCritical,
  regionSentence,
  regionWords,
  testOf,
  unitWords,
  type Evidence,
  type JohnsonNeyman,
  type ModerationEvidence,
  type ProbeChoice,
} from "../../../core";
import { EffectStrip, type StripRegion } from "./effect-strip";
import { FigureTools } from "../figure/figure-tools";
import { placeOf, slopeHere, unitsOf } from "./lever-model";
import { LeverPlot, type Pinned } from "./lever-plot";
import type { ShownPoints } from "./people-layer";
import { slopeTables, stripTable } from "./probe-numbers";
import { Segments } from "../segments";
import { OwnProbes, ProbeTable } from "./probe-controls";
import { usePoints } from "./use-points";

export type Rule = "pointwise" | "simultaneous" | "falseDiscovery";

interface Props {
  moderation: ModerationEvidence;
  evidence: Evidence;
  probes: ProbeChoice[];
  setProbes: (over: string, probes: ProbeChoice[]) => void;
}

/** The lever: move the moderator, and the line of predictor and outcome tilts; beneath, where its slope differs from zero. */
export function Lever(props: Props) {
  const { moderation, evidence } = props;
  const lever = useLever(moderation, evidence);
  const { first, numeric, found, points, place, critical, pinned, units, label, at } = lever;
  const [shown, setShown] = useState<ShownPoints>("near");
  const { test, reading } = lever;
  const figure = useRef<HTMLDivElement>(null);
  return (
    <div className="lever">
      <div className="lever-figures" ref={figure}>
        <LeverPlot {...{ moderation, points, place, critical, pinned, shown, units, label }} height={numeric ? 372 : 480} />
        {numeric && found && (
          <Strip
            {...{ moderation, found, points, units, critical }}
            heldPlace={lever.heldPlace}
            over={first.name}
            value={at}
            change={lever.setValue}
            valueWords={`${first.name} ${plain(at, 2)}: slope ${plain(reading.estimate)}, ${test ? pClause(test.p) : ""}`}
            marks={first.probes.map((p) => ({ value: p.value!, label: p.label }))}
            columnKey={first.columns[0]!}
          />
        )}
      </div>
      <LeverSide {...props} {...{ lever, shown, setShown, figure }} />
    </div>
  );
}

/** Where the handle stands, what is held, and what is read there. */
function useLever(moderation: ModerationEvidence, evidence: Evidence) {
  const [first, ...others] = moderation.moderators as [Moderator, ...Moderator[]];
  const [rule, setRule] = useState<Rule>("pointwise");
  const [standardised, setStandardised] = useState(false);
  const [held, setHeld] = useState<Record<string, number>>({});
  const [pins, setPins] = useState<ReadonlySet<string> | null>(null);
  const [value, setValue] = useState<number | null>(null);
  const [level, setLevel] = useState(first.probes.length - 1);
  const points = usePoints(moderation, evidence);
  const numeric = first.kind === "numeric";
  const key = first.columns[0]!;
  const middle = Math.floor((first.probes.length - 1) / 2);
  const heldProbes = others.map((m) => ({ moderator: m, probe: m.probes[held[m.name] ?? Math.floor((m.probes.length - 1) / 2)]! }));
  const heldPlace = heldProbes.flatMap(({ probe }) => placeOf(moderation, probe));
  const at = value ?? first.probes.at(-1)!.value ?? 0;
  const place = new Map([...heldPlace, ...(numeric ? [[key, at] as [string, number]] : placeOf(moderation, first.probes[level]!))]);
  const reading = slopeHere(moderation, place);
  const found = regionsOf(moderation, first.name, heldProbes, evidence)?.[rule] ?? null;
  const units = useMemo(() => unitsOf(moderation, key, points?.y ?? null, standardised), [moderation, key, points, standardised]);
  const shownPins = pins ?? new Set(first.probes.filter((_, i) => i !== middle || !numeric).map((p) => p.label));
  const pinned: Pinned[] = first.probes
    // A pinned line under the moving one would only hide its label.
    .filter((p) => shownPins.has(p.label) && (!numeric || Math.abs(p.value! - at) > 1e-9))
    .map((p) => ({
      probe: p.label,
      label: p.value === null || !numeric ? p.label : plain(units.w(p.value), 2),
      place: new Map([...heldPlace, ...placeOf(moderation, p)]),
    }));
  const pin = (name: string): void => {
    const next = new Set(shownPins);
    if (!next.delete(name)) next.add(name);
    setPins(next);
  };
  return {
    first,
    numeric,
    points,
    heldProbes,
    heldPlace,
    at,
    place,
    reading,
    test: testOf(reading, moderation.model, evidence.settings.level),
    found,
    critical: found?.critical ?? pointwiseCritical(moderation.model.df, evidence.settings.level),
    units,
    label: numeric ? plain(units.w(at), 2) : first.probes[level]!.label,
    pinned,
    shownPins,
    pin,
    rule,
    setRule,
    standardised,
    setStandardised,
    setHeld: (name: string, i: number) => setHeld({ ...held, [name]: i }),
    setValue,
    level,
    setLevel,
  };
}

type Moderator = ModerationEvidence["moderators"][number];
type LeverState = ReturnType<typeof useLever>;
type SideProps = Props & {
  lever: LeverState;
  shown: ShownPoints;
  setShown: (shown: ShownPoints) => void;
  figure: RefObject<HTMLDivElement | null>;
};

function LeverSide({ moderation, evidence, probes, setProbes, lever, shown, setShown, figure }: SideProps) {
  const { first, numeric, found, units, heldProbes, heldPlace, rule } = lever;
  return (
    <aside className="lever-side" aria-label="Reading at the handle">
      {!numeric && (
        <Segments
          label={`Level of ${first.name}`}
          value={String(lever.level)}
          choices={first.probes.map((p, i) => [String(i), p.label])}
          choose={(i) => lever.setLevel(Number(i))}
        />
      )}
      <ReadingHere moderation={moderation} evidence={evidence} lever={lever} />
      {heldProbes.map(({ moderator, probe }) => (
        <Held
          key={moderator.name}
          moderator={moderator}
          at={moderator.probes.indexOf(probe)}
          choose={(i) => lever.setHeld(moderator.name, i)}
        />
      ))}
      <ProbeTable
        {...{ moderation, evidence, units, heldPlace }}
        moderator={first}
        pinned={lever.shownPins}
        pin={lever.pin}
        go={(probe, i) => (numeric ? lever.setValue(probe.value) : lever.setLevel(i))}
      />
      <Explained moderation={moderation} evidence={evidence} />
      <div className="lever-controls">
        <Segments
          label="Units"
          value={lever.standardised ? "sd" : "raw"}
          choices={[
            ["raw", unitWords(evidence.settings)],
            ["sd", "standardised"],
          ]}
          choose={(v) => lever.setStandardised(v === "sd")}
        />
        <Segments
          label="People"
          value={shown}
          choices={[
            ["none", "no points"],
            ["near", "near"],
            ["all", "all"],
          ]}
          choose={setShown}
        />
        {numeric && (
          <OwnProbes
            key={JSON.stringify(probes)}
            probes={probes}
            units={unitWords(evidence.settings)}
            set={(next) => setProbes(first.name, next)}
          />
        )}
        {numeric && found && (
          <Segments
            label="Region"
            value={rule}
            choices={[
              ["pointwise", "pointwise"],
              ["simultaneous", "simultaneous"],
              ["falseDiscovery", "false discovery"],
            ]}
            choose={lever.setRule}
          />
        )}
      </div>
      {found && (
        <blockquote className="lever-sentence serif">
          {regionSentence(found, moderation.focalLabel, moderation.outcome, first.name, evidence.sample.n, evidence.unit)}
        </blockquote>
      )}
      <FigureTools
        target={figure}
        name={`${moderation.focal} on ${moderation.outcome} by ${first.name}`}
        caption={captionOf(moderation, evidence, lever)}
        numbers={() => [
          ...slopeTables(moderation, evidence),
          ...(numeric && found
            ? [stripTable(moderation, evidence, { name: first.name, column: first.columns[0]!, range: found.range }, heldPlace)]
            : []),
        ]}
      />
    </aside>
  );
}

const RULE_WORDS: Record<Rule, string> = {
  pointwise: "pointwise",
  simultaneous: "simultaneous",
  falseDiscovery: "false-discovery controlled",
};

/** What a reader of the picture alone has to know. */
function captionOf(moderation: ModerationEvidence, { settings, sample, unit }: Evidence, lever: LeverState): string {
  const { first, heldProbes, found, label, rule } = lever;
  const held = heldProbes.map(
    ({ moderator, probe }) => `${moderator.name} at ${probe.value === null ? probe.label : plain(probe.value, 2)}`,
  );
  const above = `${moderation.outcome} against ${moderation.focalLabel} at ${[`${first.name} ${label}`, ...held].join(", ")}, with the ${percent(settings.level)} % band; other predictors at their means.`;
  const beneath = found
    ? ` Beneath: the effect of ${moderation.focalLabel} along ${first.name} with its ${RULE_WORDS[rule]} band; hatched where it cannot be told from zero.`
    : "";
  return `${above}${beneath} ${sample.n} ${unit}, ${settings.errors} errors.`;
}

/** The slope at the handle, in a sentence and in numbers. */
function ReadingHere({ moderation, evidence, lever }: { moderation: ModerationEvidence; evidence: Evidence; lever: LeverState }) {
  const { reading, test, units, first, label, standardised } = lever;
  return (
    <div className="lever-reading" role="status" aria-live="off">
      <p className="quiet">where {first.name} is</p>
      <p className="lever-value">{label}</p>
      <p className="serif">
        {standardised ? "one SD" : "one unit"} more of {moderation.focalLabel} goes with{" "}
        <strong>{plain(Math.abs(reading.estimate * units.slope), 2)}</strong> {standardised ? "SDs " : ""}
        {reading.estimate >= 0 ? "more" : "less"} {moderation.outcome}
      </p>
      <p className="quiet">
        slope {plain(reading.estimate * units.slope)}
        {test &&
          ` · SE ${plain(test.se * units.slope)} · ${percent(evidence.settings.level)} % CI ${plain(test.lower * units.slope, 2)} to ${plain(test.upper * units.slope, 2)} · ${pClause(test.p)}`}
      </p>
    </div>
  );
}

interface HeldProbe {
  moderator: Moderator;
  probe: Moderator["probes"][number];
}

/** The regions along one moderator, the others held where they are. */
function regionsOf(moderation: ModerationEvidence, over: string, held: HeldProbe[], evidence: Evidence) {
  const set = moderation.johnsonNeyman.find(
    (j) => j.over === over && held.every(({ moderator, probe }) => j.fixed[moderator.name] === (probe.value ?? probe.label)),
  );
  return set?.tests[evidence.settings.errors] ?? set?.tests.classical ?? null;
}

interface StripProps {
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

function Strip({ moderation, found, points, units, heldPlace, critical, over, columnKey, value, valueWords, marks, change }: StripProps) {
  const curve = useMemo(() => {
    const [min, max] = found.range;
    const grid = Array.from({ length: STRIP_STEPS + 1 }, (_, i) => min + ((max - min) * i) / STRIP_STEPS);
    const readings = grid.map((w) => slopeHere(moderation, new Map([...heldPlace, [columnKey, w]])));
    return {
      grid,
      estimate: readings.map((r) => r.estimate * units.slope),
      lower: readings.map((r) => (r.se === null ? null : (r.estimate - critical * r.se) * units.slope)),
      upper: readings.map((r) => (r.se === null ? null : (r.estimate + critical * r.se) * units.slope)),
    };
    // The held places are named by their values.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [moderation, found, units, critical, JSON.stringify(heldPlace), columnKey]);
  const regions = found.regions.map((r): StripRegion => ({
    from: r.from,
    to: r.to,
    look: !r.significant ? "unclear" : r.sign > 0 ? "more" : "less",
    words: regionWords(r, moderation.focalLabel, moderation.outcome),
    percent: r.percent,
  }));
  return (
    <EffectStrip
      {...curve}
      {...{ over, regions, marks, value, valueWords, change }}
      effectName={`effect of ${moderation.focalLabel}`}
      values={points?.columns[columnKey] ?? null}
      show={units.w}
    />
  );
}

/** Another moderator, kept at one of its probes while the first one moves. */
function Held({ moderator, at, choose }: { moderator: Moderator; at: number; choose: (i: number) => void }) {
  const words = ({ label, value }: Moderator["probes"][number]): string =>
    value === null ? label : label.startsWith("=") ? label.slice(1) : `${label} (${plain(value, 2)})`;
  return (
    <label className="field held">
      <span>while {moderator.name} is held at</span>
      <select value={at} onChange={(e) => choose(Number(e.target.value))}>
        {moderator.probes.map((probe, i) => (
          <option key={probe.label} value={i}>
            {words(probe)}
          </option>
        ))}
      </select>
    </label>
  );
}

/** What the products explain, and whether different lines are more than chance. */
function Explained({ moderation, evidence }: { moderation: ModerationEvidence; evidence: Evidence }) {
  const equation = evidence.equations.find((e) => e.outcome === moderation.outcome)!;
  const partsOf = (term: string): string[] =>
    equation.coefficients.find((c) => c.term === term)?.components?.map((part) => part.variable) ?? [];
  const change = equation.r2Change.find((r) => r.terms.every((term) => partsOf(term).includes(moderation.focalVariable)));
  const test = change && (change.tests[evidence.settings.errors] ?? change.tests.classical);
  if (!change || !test) return null;
  const names = [...new Set(change.terms.map((term) => partsOf(term).join(" × ")))].join(", ");
  return (
    <p className="quiet explained">
      The product <strong>{names}</strong> adds <strong>{plain(100 * change.r2Change, 1)} %</strong> of explained variance (F({test.df1},{" "}
      {test.df2}) = {plain(test.F, 2)}, {pClause(test.p)}). Other predictors are held at their means.
      {test.p >= 1 - evidence.settings.level &&
        " That is not distinguishable from nothing: lines that differ here may differ by chance, and a figure of several slopes would say little."}
    </p>
  );
}
