import { LINK_SCALE_WORDS } from "../effects";
import { listed } from "../wording";
import type { EffectKind } from "../model";
import type { EffectEvidence, Evidence } from "./types";
import { unitWords } from "./wording";

export type Units = "raw" | "partially_standardised" | "completely_standardised" | "sizes";

/** What a standardised effect counts in. */
export const IN_SDS: Partial<Record<EffectKind, string>> = {
  partially_standardised: "outcome in SDs",
  completely_standardised: "both in SDs",
};

/** The choices of units; with z-scores throughout, “raw” units are those. */
export const unitChoices = (evidence: Evidence): [Units, string][] => [
  ["raw", unitWords(evidence)],
  ["partially_standardised", IN_SDS.partially_standardised!],
  ["completely_standardised", IN_SDS.completely_standardised!],
  ["sizes", "shares and user-defined quantities"],
];

const SIZES: EffectKind[] = [
  "proportion_mediated",
  "ratio_to_direct",
  "explained_variance",
  "own",
  "curve",
];
const STANDARDISED: EffectKind[] = ["partially_standardised", "completely_standardised"];

const KIND_WORDS: Record<EffectKind, string> = {
  direct: "direct",
  specific_indirect: "specific indirect",
  total_indirect: "total indirect",
  total: "total",
  contrast: "contrast",
  proportion_mediated: "proportion mediated",
  ratio_to_direct: "indirect / direct",
  partially_standardised: "partially standardised",
  completely_standardised: "completely standardised",
  explained_variance: "explained variance",
  combined_indirect: "combined indirect",
  average_direct: "average direct",
  average_indirect: "average indirect",
  average_total: "average total",
  average_change: "average change",
  comparison: "difference between levels",
  interaction: "interaction",
  conditional_direct: "conditional direct",
  conditional_indirect: "conditional indirect",
  conditional_contrast: "difference of conditional effects",
  conditional_index: "conditional index",
  index: "index",
  curve: "curve",
  own: "user-defined quantity",
};

/** Does an effect belong to what is shown in these units? */
export function inUnits(effect: EffectEvidence, units: Units): boolean {
  if (units === "sizes")
    return SIZES.includes(effect.kind) || (effect.kind === "contrast" && effect.from === null);
  if (units === "raw") return !SIZES.includes(effect.kind) && !STANDARDISED.includes(effect.kind);
  return effect.kind === units;
}

/** Kinds of which there may be several between two variables. */
const NAMED_BY_DETAIL = new Set<EffectKind>([
  "contrast",
  "conditional_direct",
  "conditional_indirect",
  "conditional_contrast",
  "conditional_index",
  "index",
  "curve",
  "interaction",
  "average_direct",
  "average_indirect",
  "average_change",
  "combined_indirect",
]);

/** What is compared stands in the group's caption already; left is which of the effects it is. */
function comparedWords({ compared, via, detail }: EffectEvidence): string {
  const { kind } = compared!;
  const average = kind.startsWith("average_") && kind !== "average_change" ? "average " : "";
  if (kind === "specific_indirect" || kind === "average_indirect")
    return `${average}indirect, through ${via.join(", then ")}`;
  const own = COMPARED_WORDS[kind];
  return own ? `${average}${own}` : `${KIND_WORDS[kind]}${detail ?? ""}`;
}

const COMPARED_WORDS: Partial<Record<EffectKind, string>> = {
  direct: "direct",
  average_direct: "direct",
  total_indirect: "total indirect",
  total: "total",
  average_total: "total",
  combined_indirect: "combined indirect",
};

/**
 * In brackets: the scale of an effect that is told on another one than its table, and between which
 * values of a number it stands where it is no change per unit.
 */
export const onScale = ({ scale, between }: Pick<EffectEvidence, "scale" | "between">): string => {
  const said = [scale, between].filter((words) => words !== null);
  return said.length === 0 ? "" : ` (${said.join("; ")})`;
};

/** An effect in words, within the group of its predictor and outcome. */
export const wordsOf = (effect: EffectEvidence, units: Units, evidence: Evidence): string =>
  `${kindWords(effect, units, evidence)}${onScale(effect)}`;

function kindWords(effect: EffectEvidence, units: Units, evidence: Evidence): string {
  const kind =
    STANDARDISED.includes(effect.kind) && units !== "raw"
      ? (evidence.effects.find((e) => e.id === effect.of)?.kind ?? effect.kind)
      : effect.kind;
  const { from, label, via, detail = "", linkScale } = effect;
  if (from === null) return label;
  if (kind === "comparison") return comparedWords(effect);
  if (kind === "specific_indirect")
    return `${KIND_WORDS[kind]}, through ${via.join(", then ")}${linkScale ? LINK_SCALE_WORDS : ""}`;
  return NAMED_BY_DETAIL.has(kind) ? `${KIND_WORDS[kind]}${detail}` : KIND_WORDS[kind];
}

/**
 * Which arrows bear numbers on another scale than the others, or between which values of a number;
 * nothing where none does.
 */
export function arrowScales({ paths, effects }: Pick<Evidence, "paths" | "effects">): string {
  const scales = paths.flatMap(({ from, to, effects: ids }) => {
    const own = effects.find((e) => ids.includes(e.id));
    return [
      ...(own?.scale ? [`${from} to ${to} in ${own.scale}`] : []),
      ...(own?.between ? [`${from} to ${to} for ${own.between}`] : []),
    ];
  });
  return scales.length === 0 ? "" : `On the arrows: ${listed(scales)}.`;
}
