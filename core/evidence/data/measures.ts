import { listwise, pick } from "../../data";
import { findVariable, itemColumns } from "../../dataset";
import {
  correlationMatrix,
  DEFAULT_ANSWERED,
  heterotraitRatios,
  reliability,
  scaleScores,
  straightLining,
} from "../../measures";
import { StudyProblem } from "../../problems";
import type { Measure } from "../../theory";
import type { NumberReader } from "./columns";
import { attempt } from "./result";
import type { MeasureEvidence, Result, ValidityEvidence } from "./types";

/** Reliability, answering styles and scores of one measure. */
export function measureEvidence(
  measure: Measure,
  reader: NumberReader,
  level: number,
): MeasureEvidence {
  const items = measure.items.map((i) => i.ref.name);
  const answered = measure.answered === null ? DEFAULT_ANSWERED : measure.answered / 100;
  const { included } = reader.dataset;
  const { form } = measure;
  return {
    name: measure.name.name,
    form,
    items: measure.items.map(({ ref, reversed }) => ({ item: ref.name, reversed })),
    scale: measure.scale,
    answered,
    reliability: attempt(() => {
      const keyed = turned(measure, reader).map((values) => pick(values, included));
      const rows = listwise(keyed);
      return reliability(
        items,
        keyed.map((values) => pick(values, rows)),
        level,
      );
    }),
    straightLining: attempt(() => {
      const { flagged, ...perRow } = straightLining(
        items.map((item) => reader.included(item).values),
      );
      return { ...perRow, flaggedRows: flagged.map((i) => reader.fileRow(i)) };
    }),
    scores: attempt(() => {
      if (form !== "averages" && form !== "sums")
        throw new StudyProblem("no_scores_of_its_own", { name: measure.name.name, form });
      return Array.from(scaleScores(turned(measure, reader), { form, answered }), (v) =>
        Number.isNaN(v) ? null : v,
      );
    }),
  };
}

function turned(measure: Measure, reader: NumberReader): Float64Array[] {
  return itemColumns(
    measure,
    (item) => reader.everyRow(item),
    (item) => findVariable(reader.dataset, item)?.variable.range,
  );
}

/**
 * Discriminant validity of the measures from the correlations of all their items on common rows.
 */
export function validityEvidence(
  measures: Measure[],
  reader: NumberReader,
): Result<ValidityEvidence> | null {
  if (measures.length < 2) return null;
  return attempt(() => {
    const columns = measures.flatMap((m) =>
      turned(m, reader).map((values) => pick(values, reader.dataset.included)),
    );
    const rows = listwise(columns);
    if (rows.length < 3) {
      throw new StudyProblem("few_rows_for_measures", { n: rows.length }, { variables: [] });
    }
    let at = 0;
    const blocks = measures.map((m) => ({ name: m.name.name, items: m.items.map(() => at++) }));
    return {
      n: rows.length,
      ratios: heterotraitRatios(blocks, correlationMatrix(columns.map((c) => pick(c, rows)))),
    };
  });
}
