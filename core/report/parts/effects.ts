import {
  inUnits,
  percent,
  referenceName,
  unitWords,
  wordsOf,
  type EffectEvidence,
} from "../../evidence";
import {
  heading,
  headingRow,
  limits,
  listed,
  number,
  row,
  sentence,
  table,
  word,
  type Part,
  type ReportContext,
} from "../context";
import type { Row, TableBlock } from "../document";

const UNIT_NAMES = {
  raw: "Unstandardised",
  partially_standardised: "Partially standardised",
  completely_standardised: "Completely standardised",
} as const;

/** Kinds that a table of conditional effects holds. */
const CONDITIONAL = new Set([
  "conditional_direct",
  "conditional_indirect",
  "conditional_contrast",
  "conditional_index",
  "index",
  "curve",
]);

/** Every effect that exists, by predictor and outcome; conditional ones have a table of their own. */
export const effects: Part = (context) => {
  const { evidence, style } = context;
  const main = evidence.effects.filter(
    (e) =>
      inUnits(e, style.units) &&
      !isConditional(e, evidence.effects) &&
      !saysTheSame(e, evidence.effects),
  );
  const sizes = evidence.effects.filter((e) => inUnits(e, "sizes"));
  if (main.length === 0 && sizes.length === 0) return [];
  return [
    heading("Direct, indirect and total effects"),
    ...(main.length > 0 ? [effectsTable("effects", titleOf(context), main, context)] : []),
    ...(sizes.length > 0
      ? [effectsTable("sizes", "Shares of effects and user-defined quantities", sizes, context)]
      : []),
  ];
};

/** Scores and responses are on no scale of measurement that could be standardised or not. */
const titleOf = ({ evidence, style }: ReportContext): string =>
  style.units === "raw" && evidence.units !== "raw"
    ? "Direct, indirect and total effects"
    : `${UNIT_NAMES[style.units]} direct, indirect and total effects`;

/** A comparison with the reference level is the effect of a code column itself. */
const saysTheSame = (effect: EffectEvidence, all: readonly EffectEvidence[]): boolean =>
  effect.kind === "comparison" &&
  all.some(
    (e) =>
      e.kind !== "comparison" &&
      e.to === effect.to &&
      e.label.split(" on ")[0] === effect.label.split(" on ")[0] &&
      e.via.join() === effect.via.join() &&
      e.estimate === effect.estimate,
  );

const isConditional = (effect: EffectEvidence, all: readonly EffectEvidence[]): boolean =>
  CONDITIONAL.has(effect.kind) ||
  (effect.of !== null && CONDITIONAL.has(all.find((e) => e.id === effect.of)?.kind ?? "")) ||
  (effect.kind === "comparison" && effect.label.includes(":"));

export const isShownAsConditional = isConditional;

/** Estimate, SE, limits and p in one row; a line above the effects of each predictor on each outcome. */
export function effectsTable(
  id: string,
  title: string,
  listedEffects: readonly EffectEvidence[],
  context: ReportContext,
): TableBlock {
  const { evidence, style, cell } = context;
  const level = percent(evidence.settings.level);
  const groups = new Map<string, EffectEvidence[]>();
  for (const effect of listedEffects) {
    const group =
      effect.from && effect.to ? `${effect.label.split(" on ")[0]} on ${effect.to}` : "";
    groups.set(group, [...(groups.get(group) ?? []), effect]);
  }
  const units = id === "sizes" ? "sizes" : style.units;
  const rows = [...groups].flatMap(([group, own]): Row[] => [
    ...(group === "" ? [] : [headingRow(group)]),
    ...inReadingOrder(own).map((e) =>
      row(
        cell.words(sentence(wordsOf(e, units, evidence))),
        e.shown ? cell.number(e.estimate) : cell.words("–"),
        cell.number(e.shown?.se),
        cell.limits(e.shown?.lower, e.shown?.upper),
        cell.p(e.shown?.p, e.shown?.pIsBound),
      ),
    ),
  ]);
  return table(
    id,
    title,
    [word("Effect"), number("Estimate"), number("SE"), limits(`${level} % CI`), number("p")],
    rows,
    [notesOf(listedEffects, units !== "sizes", context)],
  );
}

/** The whole before its parts, and those before what is made of them. */
const ORDER = ["total", "direct", "total_indirect", "combined_indirect", "specific_indirect"];

function inReadingOrder(effects: readonly EffectEvidence[]): EffectEvidence[] {
  const rank = ({ kind }: EffectEvidence): number =>
    ORDER.includes(kind) ? ORDER.indexOf(kind) : ORDER.length;
  return [...effects].sort((a, b) => rank(a) - rank(b));
}

/** In what units, by what intervals, and why some number is not there. */
function notesOf(
  shown: readonly EffectEvidence[],
  united: boolean,
  { evidence, style, write }: ReportContext,
): string {
  const kinds = new Set(
    shown.flatMap((e) =>
      e.shown ? [referenceName({ ...e.shown, df: null }).replace("(–)", "")] : [],
    ),
  );
  const { bootstrap } = evidence;
  const used = bootstrap ? bootstrap.done - bootstrap.failed : 0;
  const units = united && style.units === "raw" ? `Estimates in ${unitWords(evidence)}. ` : "";
  const how =
    kinds.size > 0
      ? `Intervals and p by ${listed([...kinds])}${kinds.has("bootstrap") ? ` (${write.count(used)} samples)` : ""}. `
      : "";
  const reasons = [
    ...new Set(shown.flatMap((e) => (e.withheld ? [`${e.label}: ${e.withheld}`] : []))),
  ];
  return `${units}${how}${reasons.map((r) => `Not reported: ${r}`).join(" ")}`.trim();
}
