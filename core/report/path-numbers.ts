import { arrowScales, type EffectEvidence, type Evidence } from "../evidence";

/** More numbers than these find no room on one arrow; the tables have them. */
const MOST_NUMBERS = 4;

/**
 * A predictor of two values, or a contrast, has no SD that means anything: its effect is in SDs of
 * the outcome.
 */
const STANDARDISED = ["completely_standardised", "partially_standardised"] as const;

export type PathUnits = "raw" | "standardised";

/**
 * The effects whose numbers stand on an arrow of the path diagram: one, or one for each contrast of
 * a categorical predictor, or for each group where groups are estimated apart. In the order that
 * `arrowNote` says.
 * @returns none where they are too many
 */
export function pathEffects(
  evidence: Evidence,
  from: string,
  to: string,
  units: PathUnits,
): EffectEvidence[] {
  const { paths, effects } = evidence;
  const groups = groupsOf(evidence);
  const ids = paths.find((p) => p.from === from && p.to === to)?.effects ?? [];
  const byGroup = groups
    ? effects.filter(
        (e) =>
          e.kind === "conditional_direct" &&
          e.from === from &&
          e.to === to &&
          e.at?.[groups.by] !== undefined,
      )
    : [];
  const raw =
    groups && byGroup.length === groups.names.length
      ? byGroup
      : ids.flatMap((id) => effects.find((e) => e.id === id) ?? []);
  if (raw.length > MOST_NUMBERS) return [];
  if (units === "raw") return raw;
  const inSds = (own: EffectEvidence): EffectEvidence | undefined =>
    STANDARDISED.flatMap(
      (kind) => effects.find((e) => e.of === own.id && e.kind === kind && e.shown !== null) ?? [],
    )[0];
  return raw.map((own) => inSds(own) ?? own);
}

/** Groups that are estimated apart, by their names. */
function groupsOf({ sections }: Evidence): { by: string; names: string[] } | null {
  for (const section of sections) {
    if (section.kind !== "structure" && section.kind !== "composites") continue;
    const { groupVariable: by, groups } = section;
    const names = groups.map((g) => (typeof g === "string" ? g : g.group));
    if (by !== null && names.length > 1) return { by, names };
  }
  return null;
}

/**
 * Which of several numbers is which, and which are on a scale of their own, in sentences; empty
 * where every arrow has one.
 */
export function arrowNote(evidence: Evidence): string {
  const groups = groupsOf(evidence);
  const predictors = new Set(evidence.paths.map((p) => p.from));
  const several = evidence.codings.filter(
    (c) => c.columns.length > 1 && c.columns.length <= MOST_NUMBERS && predictors.has(c.variable),
  );
  return [
    ...several.map(
      (c) =>
        `Numbers on the arrows of ${c.variable}, in order: ${c.columns.map((col) => col.contrast).join("; ")}.`,
    ),
    ...(groups ? [`Numbers beneath each other, in order: ${groups.names.join("; ")}.`] : []),
    arrowScales(evidence),
  ]
    .filter((sentence) => sentence !== "")
    .join(" ");
}
