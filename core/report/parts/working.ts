import type {
  CompositeSection,
  ResponseSection,
  Section,
  StructureSection,
} from "../../estimators";
import type { Evidence } from "../../evidence";
import {
  alphaWorking,
  arrowWorking,
  claimWorking,
  coefficientWorking,
  compositeMeasurementWorking,
  compositePathsWorking,
  effectWorking,
  equationWorking,
  exactFitWorking,
  fitWorking,
  invarianceWorking,
  measurementWorking,
  naturalWorking,
  predictionWorking,
  sensitivityWorking,
  type Working,
} from "../../working";
import { heading, row, table, word, type Part, type ReportContext } from "../context";
import type { Block } from "../document";

/**
 * Reliabilities, models, every decision and the paths it is made of, with formula, numbers and
 * source.
 */
export const working: Part = (context) => {
  const { evidence, data } = context;
  const parts = new Set(evidence.hypotheses.flatMap((h) => h.components));
  const found: Working[] = [
    ...(data?.measures ?? []).flatMap((m) => alphaWorking(m) ?? []),
    ...evidence.sections.flatMap((section) => sectionWorkings(section, evidence)),
    ...evidence.hypotheses.map((h) => claimWorking(h, evidence)),
    ...evidence.effects.filter((e) => parts.has(e.id)).map((e) => effectWorking(e, evidence)),
  ];
  return found.length === 0
    ? []
    : [
        heading("Appendix: where the numbers come from"),
        ...found.map((w, i) => workingTable(w, i, context)),
      ];
};

/** Of what only one engine says. */
function sectionWorkings(section: Section, evidence: Evidence): Working[] {
  switch (section.kind) {
    case "equations":
      return section.equations.map((e) => equationWorking(e, evidence));
    case "structure":
      return ofStructure(section);
    case "composites":
      return ofComposites(section);
    case "responses":
      return ofResponses(section, evidence);
    case "sensitivity":
      return section.effects.flatMap(
        (effect) => sensitivityWorking(effect, 0, evidence.settings.level) ?? [],
      );
    default:
      return [];
  }
}

const ofStructure = (section: StructureSection): Working[] =>
  [
    ...section.measurement.map(measurementWorking),
    fitWorking(section),
    ...section.invariance.map((_, at) => invarianceWorking(section, at)),
    ...section.arrows.filter((a) => a.role === "path").map((a) => arrowWorking(a, section)),
  ].flatMap((found) => (found && found.steps.length > 0 ? [found] : []));

const ofComposites = ({ groups, prediction, exactFit }: CompositeSection): Working[] => [
  ...groups.flatMap((g) => [compositeMeasurementWorking(g), compositePathsWorking(g)]),
  ...(exactFit?.measures ?? []).map((m) => exactFitWorking(exactFit!, m)),
  ...(prediction?.items ?? []).flatMap(({ item }) => predictionWorking(prediction!, item) ?? []),
];

const ofResponses = ({ models, natural }: ResponseSection, evidence: Evidence): Working[] => [
  ...models.flatMap((model) =>
    model.coefficients.flatMap((c) => coefficientWorking(model, c.term, evidence) ?? []),
  ),
  ...natural.map(naturalWorking),
];

const workingTable = (w: Working, i: number, { cell }: ReportContext): Block =>
  table(
    `working ${i}`,
    w.title,
    [word("What"), word("Formula"), word("Numbers"), word("Source")],
    w.steps.map((s) =>
      row(cell.words(s.what), cell.words(s.formula), cell.words(s.numbers), cell.words(s.source)),
    ),
    [`Rows: ${w.rows}`],
  );
