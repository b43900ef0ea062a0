import {
  naturalLimits,
  SHORT_NATURAL,
  shortNaturalWords,
  type NaturalEffect,
  type NaturalEffectsEvidence,
  type PotentialMean,
} from "../../estimators";
import { codingWords, isReported, percent, withheldNotes } from "../../evidence";
import {
  heading,
  limits,
  number,
  paragraph,
  row,
  sentence,
  subheading,
  table,
  word,
  type Part,
  type ReportContext,
} from "../context";
import type { Block, Row } from "../document";

const SCALES = {
  difference: "differences",
  risk_ratio: "risk ratios",
  mean_ratio: "ratios of means",
  odds_ratio: "odds ratios",
  excess_ratio: "excess relative risk",
} as const;

/** Means of what would have been, effects in words, and what has to hold for them to be causes. */
export const treatment: Part = (context) => {
  const sections = context.evidence.sections.filter((s) => s.kind === "responses");
  const natural = sections.flatMap((s) => s.natural);
  if (natural.length === 0) return [];
  const assumptions = [...new Set(sections.flatMap((s) => s.assumptions))];
  return [
    heading("Effects of the treatment"),
    ...natural.flatMap((n, i) => [
      subheading(
        `${n.treatment} (${n.contrast}) on ${n.outcome} through ${n.mediator}${n.at ? `, ${n.at.name} = ${n.at.level ?? context.write.number(n.at.value)}` : ""}`,
      ),
      ...n.words.map((words) => paragraph(words)),
      meansTable(n, i, context),
      ...Object.entries(n.effects).map(([scale, effects]) =>
        effectsTable(scale as keyof typeof SCALES, effects, n, i, context),
      ),
    ]),
    ...(assumptions.length > 0
      ? [
          paragraph("These are effects of the treatment only where the following holds:"),
          { kind: "list" as const, items: assumptions.map((text) => [text]) },
        ]
      : []),
  ];
};

function meansTable(n: NaturalEffectsEvidence, i: number, context: ReportContext): Block {
  return tableOf(
    `means ${i}`,
    `Mean outcomes under each treatment, with the mediator as under each`,
    "Mean",
    n.means,
    false,
    context,
  );
}

function effectsTable(
  scale: keyof typeof SCALES,
  effects: readonly NaturalEffect[],
  n: NaturalEffectsEvidence,
  i: number,
  context: ReportContext,
): Block {
  return tableOf(
    `natural ${scale} ${i}`,
    `Natural and controlled effects on ${n.outcome}, ${SCALES[scale]}`,
    "Effect",
    effects,
    // Resamples tell how far an effect is from zero, which is no null value of a ratio.
    scale === "difference" || scale === "excess_ratio",
    context,
  );
}

function tableOf(
  id: string,
  title: string,
  head: string,
  items: readonly (NaturalEffect | PotentialMean)[],
  tested: boolean,
  context: ReportContext,
): Block {
  const { cell, evidence } = context;
  const shortOf = (e: NaturalEffect | PotentialMean): string | undefined =>
    "kind" in e ? SHORT_NATURAL[e.kind] : undefined;
  const named = items.some((e) => shortOf(e) !== undefined);
  return table(
    id,
    title,
    [
      word(head),
      ...(named ? [word("Short")] : []),
      number("Estimate"),
      number("SE"),
      limits(`${percent(evidence.settings.level)} % CI`),
      number("p"),
    ],
    items
      .filter((e) => !("withheld" in e) || isReported(e))
      .map((e): Row => {
        const found = naturalLimits(e, {
          interval: evidence.settings.interval,
          errors: evidence.errors,
        });
        return row(
          cell.words(sentence(e.words)),
          ...(named ? [cell.words(shortOf(e) ?? null)] : []),
          cell.number(e.estimate, 3),
          cell.number(found?.se, 3),
          cell.limits(found?.lower, found?.upper),
          cell.p(tested ? found?.p : null, found?.pIsBound),
        );
      }),
    [
      shortNaturalWords(items.flatMap((e) => ("kind" in e ? [e.kind] : []))),
      codingWords(evidence),
      ...withheldNotes(items.filter((e) => "withheld" in e)),
    ].filter((note) => note !== ""),
  );
}
