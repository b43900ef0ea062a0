import { useMemo, useState } from "react";
import {
  own,
  plain,
  pointwiseCritical,
  testOf,
  type Evidence,
  type ModerationEvidence,
} from "../../../core";
import { placeOf, slopeHere, unitsOf } from "./lever-model";
import type { Pinned } from "./lever-plot";
import { usePoints } from "./use-points";

export type Rule = "pointwise" | "simultaneous" | "falseDiscovery";
export type Moderator = ModerationEvidence["moderators"][number];
export type LeverState = ReturnType<typeof useLever>;
/** Where the handle stands, what is held, and what is read there. */
export function useLever(moderation: ModerationEvidence, evidence: Evidence) {
  const [first, ...others] = moderation.moderators as [Moderator, ...Moderator[]];
  const [rule, setRule] = useState<Rule>("pointwise");
  const [standardised, setStandardised] = useState(false);
  const [response, setResponse] = useState(true);
  const [held, setHeld] = useState<Record<string, number>>({});
  const [pins, setPins] = useState<ReadonlySet<string> | null>(null);
  const [value, setValue] = useState<number | null>(null);
  const [level, setLevel] = useState(first.probes.length - 1);
  const points = usePoints(moderation, evidence);
  const numeric = first.kind === "numeric";
  const key = first.columns[0]!;
  const middle = Math.floor((first.probes.length - 1) / 2);
  const heldProbes = others.map((m) => ({
    moderator: m,
    probe: m.probes[own(held, m.name) ?? Math.floor((m.probes.length - 1) / 2)]!,
  }));
  const heldPlace = heldProbes.flatMap(({ probe }) => placeOf(moderation, probe));
  const at = value ?? first.probes.at(-1)!.value ?? 0;
  const place = new Map([
    ...heldPlace,
    ...(numeric ? [[key, at] as [string, number]] : placeOf(moderation, first.probes[level]!)),
  ]);
  const reading = slopeHere(moderation, place);
  const found = regionsOf(moderation, first.name, heldProbes, evidence)?.[rule] ?? null;
  const units = useMemo(
    () => unitsOf(moderation, key, standardised, response),
    [moderation, key, standardised, response],
  );
  const shownPins =
    pins ?? new Set(first.probes.filter((_, i) => i !== middle || !numeric).map((p) => p.label));
  // A variable that moderates its own effect has one curve; lines at other values of it do not
  // exist.
  const itself = key === moderation.focal;
  const pinned: Pinned[] = (itself ? [] : first.probes)
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
    /** Of the line's band, which is pointwise whatever rule the regions follow. */
    critical: pointwiseCritical(moderation.model.df ?? Infinity, evidence.settings.level),
    units,
    label: numeric ? plain(units.w(at), 2) : first.probes[level]!.label,
    pinned,
    shownPins,
    pin,
    rule,
    setRule,
    standardised,
    setStandardised,
    response,
    setResponse,
    setHeld: (name: string, i: number) => setHeld({ ...held, [name]: i }),
    setValue,
    level,
    setLevel,
  };
}

interface HeldProbe {
  moderator: Moderator;
  probe: Moderator["probes"][number];
}

/** The regions along one moderator, the others held where they are. */
function regionsOf(
  moderation: ModerationEvidence,
  over: string,
  held: HeldProbe[],
  evidence: Evidence,
) {
  const set = moderation.johnsonNeyman.find(
    (j) =>
      j.over === over &&
      held.every(
        ({ moderator, probe }) => own(j.fixed, moderator.name) === (probe.value ?? probe.label),
      ),
  );
  return set?.tests[evidence.errors] ?? set?.tests.classical ?? null;
}
