import { finiteOnly } from "../finite";
import type { Table } from "../../data";
import { buildDataset, type Dataset } from "../../dataset";
import type { Warning } from "../../problems";
import { repeatedIdentifiers, repeatedRows } from "../../screening";
import type { StudyDefinition } from "../../study";
import { NumberReader } from "./columns";
import { describeVariables } from "./describe-variables";
import { findingsOf } from "./findings";
import { measureEvidence, validityEvidence } from "./measures";
import { screeningSets, screenSet } from "./sets";
import { knownFromMoments } from "./moments-only";
import type { DataEvidence, MeasureEvidence } from "./types";
import { warning } from "../../wording";

export type * from "./types";
export { screeningSets } from "./sets";
export { explore, type Exploration, type ExploreQuestion } from "./explore";

/**
 * Describes, screens and checks the data and measures of a study, without any model.
 * @param raw the data as they were imported
 * @throws StudyProblem when a screening set names a variable that is not there or holds names
 */
export function dataEvidence(
  study: StudyDefinition,
  raw: Table,
  dataset: Dataset = buildDataset(study, raw),
): DataEvidence {
  const reader = new NumberReader(dataset);
  const { level } = study.settings;
  const measures = dataset.measures;
  const data = {
    rows: dataset.table.rows,
    n: dataset.included.length,
    excluded: dataset.excluded.map(({ filter, rows }) => ({
      filter,
      rows: rows.map((i) => i + 1),
    })),
    descriptives: describeVariables(reader),
    duplicates: duplicates(dataset, raw),
    sets: screeningSets(study, dataset).map((set) => screenSet(set, reader, level)),
    measures: measures.map((m) => measureEvidence(m, reader, level)),
    validity: validityEvidence(measures, reader),
  };
  const warnings = datasetWarnings(dataset);
  if (raw.moments)
    return finiteOnly({ ...knownFromMoments(data), findings: [], warnings }).evidence;
  const finite = finiteOnly(data).evidence;
  return { ...finite, findings: findingsOf(finite, dataset), warnings };
}

/** The measures alone, for a screen on which items come and go. */
export function measuresEvidence(study: StudyDefinition, dataset: Dataset): MeasureEvidence[] {
  const reader = new NumberReader(dataset);
  return finiteOnly(dataset.measures.map((m) => measureEvidence(m, reader, study.settings.level)))
    .evidence;
}

function duplicates(
  { table, variables, included, origins }: Dataset,
  raw: Table,
): DataEvidence["duplicates"] {
  if (raw.moments) return { rows: [], identifiers: [] };
  const own = table.columns.filter(
    (c, j) => origins.get(c.name) === "raw" && variables[j]!.level !== "identifier",
  );
  const ids = table.columns.filter((_, j) => variables[j]!.level === "identifier");
  const fromOne = (rows: number[]): number[] => rows.map((i) => i + 1);
  return {
    rows: repeatedRows(own, included).map((group) => fromOne(group.rows)),
    identifiers: ids.flatMap((column) =>
      repeatedIdentifiers(column, included).map(({ value, rows }) => ({
        variable: column.name,
        value: value!,
        rows: fromOne(rows),
      })),
    ),
  };
}

function datasetWarnings({ problems }: Dataset): Warning[] {
  return problems.map(({ name, message }) =>
    warning("not_made", { name, reason: message }, [name]),
  );
}
