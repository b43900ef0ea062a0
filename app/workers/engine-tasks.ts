import { expose } from "comlink";
import {
  Analysis,
  buildDataset,
  dataEvidence,
  explore,
  keepingEverybody,
  measuresEvidence,
  settingMends,
  summarise,
  unpackTable,
  type ColumnSummary,
  type DataEvidence,
  type Dataset,
  type Exploration,
  type ExploreQuestion,
  type MeasureEvidence,
  type PackedTable,
  type ResidualRows,
  type SettingMend,
  type StudyDefinition,
  type Table,
  type Variable,
} from "../../core";
import { evidenceKey } from "../storage/results";
import { attempt, type Attempt } from "./attempt";
import { browserPool } from "./browser-threads";
import { importing, misfitsOf } from "./importing";
import { LiveAnalysis, type Update } from "./live-analysis";
import { RoomForTyping } from "./room-for-typing";
import type { Port } from "./scope";

let data: { key: string; table: Table } | null = null;
let made: { key: string; dataset: Dataset } | null = null;
const room = new RoomForTyping();
const live = new LiveAnalysis(browserPool(room.free));

/** The dataset of a definition; typing a hypothesis does not make it anew. */
function datasetOf({ variables, derived, corrections, filters, theory }: StudyDefinition): Dataset {
  const key = JSON.stringify([data!.key, variables, derived, corrections, filters, theory]);
  if (made?.key !== key)
    made = {
      key,
      dataset: buildDataset({ variables, derived, corrections, filters, theory }, data!.table),
    };
  return made.dataset;
}

/** The analysis that a screen looks at; prepared anew where its evidence was kept from before. */
function analysisOf(definition: StudyDefinition): Analysis | null {
  const key = evidenceKey(definition, data!.key).text;
  if (live.latest?.key === key) return live.latest.analysis;
  const { value } = attempt(() =>
    Analysis.of(definition, data!.table, { tolerant: true, dataset: datasetOf(definition) }),
  );
  // While the theory cannot be estimated the screens keep the last one that could.
  if (value) live.latest = { key, analysis: value };
  return live.latest?.analysis ?? null;
}

/**
 * Estimation and everything that reads whole columns, away from the thread that types and scrolls.
 */
const engine = {
  ...importing,

  /** Keeps a table; later calls name it by its key. */
  setTable(key: string, table: PackedTable): void {
    data = { key, table: unpackTable(table) };
    made = null;
    live.latest = null;
  },
  hasTable: (key: string): boolean => data?.key === key,

  /**
   * Estimates, resamples, and tells as it goes; resolves when all is told or newer work has taken
   * over.
   */
  follow: (
    definition: StudyDefinition,
    wanted: { goOn: boolean; most?: number },
    tell: (update: Update) => void,
  ): Promise<void> =>
    live.follow(
      { definition, dataKey: data!.key, table: data!.table, dataset: datasetOf(definition) },
      wanted,
      tell,
    ),
  stop: (): void => live.stop(),
  /** Somebody types: what is resampled makes room. */
  typed: (): void => room.typed(),

  summaries(definition: StudyDefinition): ColumnSummary[] {
    const { table, variables } = datasetOf(definition);
    return table.columns.map((column, j) => summarise(column, variables[j]!));
  },

  screen: (definition: StudyDefinition): Attempt<DataEvidence> =>
    attempt(() => dataEvidence(definition, data!.table, datasetOf(definition))),
  measures: (definition: StudyDefinition): MeasureEvidence[] =>
    measuresEvidence(definition, datasetOf(definition)),

  /** What could be set otherwise, so that a study that is refused can be estimated. */
  mends: (definition: StudyDefinition): SettingMend[] =>
    settingMends(definition, data!.table, datasetOf(definition)),

  /** A way that leaves nobody out for missing answers; null where no engine has one. */
  keepingEverybody: (definition: StudyDefinition): SettingMend | null =>
    keepingEverybody(definition, data!.table, datasetOf(definition)),

  /** Which of these items belong together. */
  explore: (definition: StudyDefinition, question: ExploreQuestion): Attempt<Exploration> =>
    attempt(() => explore(datasetOf(definition), question)),

  /** Columns of the equation of an outcome, and the outcome itself, in the rows of the analysis. */
  points(
    definition: StudyDefinition,
    outcome: string,
    keys: string[],
  ): { y: Float64Array; columns: Record<string, Float64Array> } | null {
    const found = analysisOf(definition)?.prepared.fit.points?.(outcome);
    const columns = keys.map(
      (key) => [key, found?.columns.find((c) => c.key === key)?.values] as const,
    );
    if (!found || columns.some(([, values]) => !values)) return null;
    return { y: found.y, columns: Object.fromEntries(columns) as Record<string, Float64Array> };
  },

  residuals: (definition: StudyDefinition, outcome: string): ResidualRows | null =>
    analysisOf(definition)?.prepared.fit.residuals?.(outcome) ?? null,

  /** What would no longer fit if the previewed table replaced the data of this study. */
  misfits: (definition: StudyDefinition, variables: Variable[], asMatrix: boolean): string[] =>
    misfitsOf(definition, data!.table, variables, asMatrix),
};

export type Engine = typeof engine;

/** Answers what is asked at a port, in whatever thread this is run. */
export const serve = (port: Port): void => expose(engine, port);
