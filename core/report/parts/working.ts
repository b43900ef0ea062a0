import type { Section } from "../../estimators";
import {
  alphaWorking,
  compositeMeasurementWorking,
  compositePathsWorking,
  effectWorking,
  fitWorking,
  measurementWorking,
  type Working,
} from "../../working";
import { heading, row, table, word, type Part, type ReportContext } from "../context";
import type { Block } from "../document";

/** Every hypothesised effect, the fit and the reliabilities with formula, numbers and source. */
export const working: Part = (context) => {
  const { evidence, data } = context;
  const claimed = new Set(evidence.hypotheses.flatMap((h) => [...h.effects, ...h.components]));
  const found: Working[] = [
    ...(data?.measures ?? []).flatMap((m) => alphaWorking(m) ?? []),
    ...evidence.sections.flatMap(sectionWorkings),
    ...evidence.effects.filter((e) => claimed.has(e.id)).map((e) => effectWorking(e, evidence)),
  ];
  return found.length === 0
    ? []
    : [
        heading("Appendix: where the numbers come from"),
        ...found.map((w, i) => workingTable(w, i, context)),
      ];
};

/** Of measurement, fit and sizes of paths. */
function sectionWorkings(section: Section): Working[] {
  switch (section.kind) {
    case "structure":
      return [...section.measurement.map(measurementWorking), fitWorking(section)].flatMap(
        (found) => (found && found.steps.length > 0 ? [found] : []),
      );
    case "composites":
      return section.groups.flatMap((g) => [
        compositeMeasurementWorking(g),
        compositePathsWorking(g),
      ]);
    default:
      return [];
  }
}

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
