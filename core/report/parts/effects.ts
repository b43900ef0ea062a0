import {
  codingWords,
  inUnits,
  pairWords,
  percent,
  referenceName,
  repeatsCodeColumn,
  unitWords,
  wordsOf,
  type EffectEvidence,
  type Evidence,
} from "../../evidence";
import {
  heading,
  headingRow,
  limits,
  number,
  paragraph,
  row,
  sentence,
  table,
  word,
  type Part,
  type ReportContext,
} from "../context";
import { listed } from "../../wording";
import type { Row, TableBlock } from "../document";

const UNIT_NAMES = {
  raw: "Unstandardised",
  partially_standardised: "Partially standardised",
  completely_standardised: "Completely standardised",
} as const;

/** Kinds that a table of conditional effects holds. */
const IN_CONDITIONAL_TABLE = new Set([
  "conditional_direct",
  "conditional_indirect",
  "conditional_contrast",
  "conditional_index",
  "index",
  "curve",
]);

/** What a comparison of levels belongs in that table for. */
const OF_MODERATORS = new Set([...IN_CONDITIONAL_TABLE, "interaction", "average_change"]);

/**
 * More effects than these are no table of a paper: then those of the hypotheses stand in it, and
 * the file of all effects has the rest.
 */
const MOST = 120;

/**
 * Every effect that exists, by predictor and outcome; conditional ones have a table of their own.
 */
export const effects: Part = (context) => {
  const { evidence, style } = context;
  const conditional = conditionalIds(evidence);
  const ofUnits = (units: Parameters<typeof inUnits>[1]): EffectEvidence[] =>
    evidence.effects.filter((e) => inUnits(e, units));
  const main = ofUnits(style.units).filter(
    (e) => !conditional.has(e.id) && !repeatsCodeColumn(evidence, e),
  );
  return [
    ["effects", titleOf(context), main] as const,
    ["sizes", "Shares of effects and user-defined quantities", ofUnits("sizes")] as const,
  ].flatMap(([id, title, found], i) => {
    if (found.length === 0) return [];
    if (found.every((e) => !e.shown)) {
      const why = withheldWords(found);
      return why === "" ? [] : [paragraph(why)];
    }
    const shown = found.length > MOST ? claimedAmong(found, evidence) : found;
    return [
      ...(i === 0 || main.length === 0 ? [heading("Direct, indirect and total effects")] : []),
      effectsTable(id, title, shown, context, found.length - shown.length),
    ];
  });
};

/** What hypotheses claim, what that is made of, and the whole of the pairs that they are about. */
function claimedAmong(
  found: readonly EffectEvidence[],
  { hypotheses, effects: all }: Evidence,
): EffectEvidence[] {
  const claimed = new Set(hypotheses.flatMap((h) => [...h.effects, ...h.components]));
  const pairs = new Set(all.filter((e) => claimed.has(e.id)).map((e) => `${e.from} ${e.to}`));
  return found.filter(
    (e) =>
      claimed.has(e.id) ||
      claimed.has(e.of ?? "") ||
      e.kind === "own" ||
      (WHOLES.has(e.kind) && pairs.has(`${e.from} ${e.to}`)),
  );
}

const WHOLES = new Set(["total", "direct", "total_indirect"]);

/** Scores and responses are on no scale of measurement that could be standardised or not. */
const titleOf = ({ evidence, style }: ReportContext): string =>
  style.units === "raw" && evidence.units !== "raw"
    ? "Direct, indirect and total effects"
    : `${UNIT_NAMES[style.units]} direct, indirect and total effects`;

/** Ids of effects at values of moderators, of their differences, and of what rescales them. */
export function conditionalIds({ effects: all }: Evidence): ReadonlySet<string> {
  const own = new Set(
    all
      .filter(
        (e) =>
          IN_CONDITIONAL_TABLE.has(e.kind) || (e.compared && OF_MODERATORS.has(e.compared.kind)),
      )
      .map((e) => e.id),
  );
  for (const e of all) if (e.of !== null && own.has(e.of)) own.add(e.id);
  return own;
}

/**
 * Estimate, SE, limits and p in one row; a line above the effects of each predictor on each
 * outcome.
 */
export function effectsTable(
  id: string,
  title: string,
  listedEffects: readonly EffectEvidence[],
  context: ReportContext,
  leftOut = 0,
): TableBlock {
  const { evidence, style, cell } = context;
  const level = percent(evidence.settings.level);
  const groups = new Map<string, EffectEvidence[]>();
  for (const effect of listedEffects) {
    const group = pairWords(evidence, effect);
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
    [
      `${[notesOf(listedEffects, units !== "sizes", context), codingWords(evidence)].filter(Boolean).join(" ")}${leftOut > 0 ? ` ${context.write.count(leftOut)} further effects are not claimed by any hypothesis; they stand on Evidence and in the file of all effects.` : ""}`,
    ],
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
  return `${units}${how}${withheldWords(shown)}`.trim();
}

/** What is not reported, and why: by reason, since one often holds for many. */
function withheldWords(effects: readonly EffectEvidence[]): string {
  const byReason = new Map<string, Set<string>>();
  for (const { label, withheld } of effects)
    if (withheld) byReason.set(withheld, (byReason.get(withheld) ?? new Set()).add(label));
  return [...byReason]
    .map(([reason, labels]) => `Not reported: ${[...labels].join("; ")}. ${reason}`)
    .join(" ");
}
