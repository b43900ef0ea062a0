import { expose } from "comlink";
import {
  buildDataset,
  dataEvidence,
  measuresEvidence,
  prepare,
  residualRows,
  robustness,
  Resampler,
  StudyProblem,
  summarise,
  unpackTable,
  type ColumnSummary,
  type Complaint,
  type DataEvidence,
  type Dataset,
  type Evidence,
  type MeasureEvidence,
  type PackedTable,
  type Prepared,
  type ProblemPlace,
  type ReplicateBlock,
  type ResamplingProblem,
  type ResidualRows,
  type Specification,
  type StudyDefinition,
  type Table,
  type Variable,
} from "../../core";
import { assembleEvidence } from "../../core/evidence";
import { importing, misfitsOf } from "./importing";

/** What stops an analysis, as plain data. */
export interface PlainProblem {
  code: string;
  message: string;
  place: ProblemPlace;
}

export interface Estimate {
  evidence: Evidence | null;
  problem: PlainProblem | null;
  complaints: Complaint[];
  /** What the replicate workers need; null when no bootstrap is wanted or possible. */
  resampling: ResamplingProblem | null;
}

export type Attempt<T> = { value: T; problem: null } | { value: null; problem: PlainProblem };

let data: { key: string; table: Table } | null = null;
let current: { token: number; prepared: Prepared; blocks: ReplicateBlock[]; jackknife: ReplicateBlock } | null = null;
let latest: Prepared | null = null;
let made: { key: string; dataset: Dataset } | null = null;

/** The dataset of a definition; typing a hypothesis does not make it anew. */
function datasetOf({ variables, derived, corrections, filters, theory }: StudyDefinition): Dataset {
  const key = JSON.stringify([data!.key, variables, derived, corrections, filters, theory]);
  if (made?.key !== key) made = { key, dataset: buildDataset({ variables, derived, corrections, filters, theory }, data!.table) };
  return made.dataset;
}

const plainProblem = ({ code, message, place }: StudyProblem): PlainProblem => ({ code, message, place });

function attempt<T>(task: () => T): Attempt<T> {
  try {
    return { value: task(), problem: null };
  } catch (error) {
    if (!(error instanceof StudyProblem)) throw error;
    return { value: null, problem: plainProblem(error) };
  }
}

/** Estimation and everything that reads whole columns, away from the thread that types and scrolls. */
const engine = {
  ...importing,

  /** Keeps a table; later calls name it by its key. */
  setTable(key: string, table: PackedTable): void {
    data = { key, table: unpackTable(table) };
    made = null;
  },
  hasTable: (key: string): boolean => data?.key === key,

  /** Estimates without resampling. `token` names this state of the theory for `addReplicates`. */
  estimate(definition: StudyDefinition, token: number): Estimate {
    const dataset = datasetOf(definition);
    const { complaints } = dataset.theory;
    current = null;
    const { value, problem } = attempt(() => {
      const prepared = prepare(definition, data!.table, { tolerant: true, dataset });
      return { prepared, evidence: assembleEvidence(prepared, null) };
    });
    if (problem) return { evidence: null, problem, complaints, resampling: null };
    const { prepared, evidence } = value;
    latest = prepared;
    const boot = prepared.study.settings.replications > 0;
    if (boot) current = { token, prepared, blocks: [], jackknife: new Resampler(prepared.resampling).jackknife() };
    return { evidence, problem: null, complaints, resampling: boot ? prepared.resampling : null };
  },

  /** Takes replicates over; returns the evidence with all so far where wanted, or null (also when the theory has moved on). */
  addReplicates(token: number, blocks: ReplicateBlock[], assemble: boolean): Evidence | PlainProblem | null {
    if (current?.token !== token) return null;
    current.blocks.push(...blocks);
    if (!assemble) return null;
    const { prepared, blocks: all, jackknife } = current;
    const { value, problem } = attempt(() => assembleEvidence(prepared, { replicates: all, jackknife }));
    return value ?? problem;
  },

  summaries(definition: StudyDefinition): ColumnSummary[] {
    const { table, variables } = datasetOf(definition);
    return table.columns.map((column, j) => summarise(column, variables[j]!));
  },

  screen: (definition: StudyDefinition): Attempt<DataEvidence> =>
    attempt(() => dataEvidence(definition, data!.table, datasetOf(definition))),
  measures: (definition: StudyDefinition): MeasureEvidence[] => measuresEvidence(definition, datasetOf(definition)),

  /** Columns of the equation of an outcome, and the outcome itself, in the rows of the latest analysis. */
  points(outcome: string, keys: string[]): { y: Float64Array; columns: Record<string, Float64Array> } | null {
    const equation = latest?.design.equations.find((e) => e.outcome === outcome);
    const columns = keys.map((key) => [key, equation?.columns.find((c) => c.key === key)?.values] as const);
    if (!equation || columns.some(([, values]) => !values)) return null;
    return { y: equation.y, columns: Object.fromEntries(columns) as Record<string, Float64Array> };
  },

  residuals: (outcome: string): ResidualRows | null => (latest ? residualRows(latest, outcome) : null),
  robustness: (definition: StudyDefinition): Attempt<Specification[]> => attempt(() => robustness(definition, data!.table)),

  /** What would no longer fit if the previewed table replaced the data of this study. */
  misfits: (definition: StudyDefinition, variables: Variable[], asMatrix: boolean): string[] =>
    misfitsOf(definition, data!.table, variables, asMatrix),
};

export type Engine = typeof engine;
expose(engine);
