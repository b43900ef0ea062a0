import { expose, transfer } from "comlink";
import {
  findColumn,
  needsBootstrap,
  parseTheory,
  prepare,
  Resampler,
  StudyProblem,
  summarise,
  type ColumnSummary,
  type Complaint,
  type Evidence,
  type Prepared,
  type ProblemPlace,
  type ReplicateBlock,
  type ResamplingProblem,
  type StudyDefinition,
  type Table,
} from "../../core";
import { assembleEvidence } from "../../core/evidence";
import {
  decodeText,
  FormatProblem,
  guessHeader,
  guessSeparator,
  readDelimited,
  readStudy,
  type DelimitedOptions,
  type DelimitedTable,
  type LoadedStudy,
} from "../../formats";

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

export type Read<T> = { ok: true; value: T } | { ok: false; message: string };

let data: { key: string; table: Table } | null = null;
let current: { token: number; prepared: Prepared; blocks: ReplicateBlock[]; jackknife: ReplicateBlock } | null = null;

/** Estimation and everything that reads whole columns, away from the thread that types and scrolls. */
const engine = {
  /** Keeps a table; later calls name it by its key. */
  setTable(key: string, table: Table): void {
    data = { key, table };
  },
  hasTable: (key: string): boolean => data?.key === key,

  /** Estimates without resampling. `token` names this state of the theory for `addReplicates`. */
  estimate(definition: StudyDefinition, token: number): Estimate {
    const table = data!.table;
    const { complaints } = parseTheory(
      definition.theory,
      table.columns.map((c) => c.name),
    );
    current = null;
    try {
      const prepared = prepare(definition, table, { tolerant: true });
      const evidence = assembleEvidence(prepared, null);
      const boot = needsBootstrap(definition);
      if (boot) current = { token, prepared, blocks: [], jackknife: new Resampler(prepared.resampling).jackknife() };
      return { evidence, problem: null, complaints, resampling: boot ? prepared.resampling : null };
    } catch (error) {
      if (!(error instanceof StudyProblem)) throw error;
      return { evidence: null, problem: { code: error.code, message: error.message, place: error.place }, complaints, resampling: null };
    }
  },

  /** Takes replicates over; returns the evidence with all so far where wanted, or null (also when the theory has moved on). */
  addReplicates(token: number, blocks: ReplicateBlock[], assemble: boolean): Evidence | PlainProblem | null {
    if (current?.token !== token) return null;
    current.blocks.push(...blocks);
    if (!assemble) return null;
    try {
      return assembleEvidence(current.prepared, { replicates: current.blocks, jackknife: current.jackknife });
    } catch (error) {
      if (!(error instanceof StudyProblem)) throw error;
      return { code: error.code, message: error.message, place: error.place };
    }
  },

  summaries(definition: StudyDefinition): ColumnSummary[] {
    return definition.variables.flatMap((variable) => {
      const column = findColumn(data!.table, variable.name);
      return column ? [summarise(column, variable)] : [];
    });
  },

  /** Decodes a file and guesses how it is laid out. */
  decode(bytes: Uint8Array): Read<{ text: string; options: DelimitedOptions }> {
    return reading(() => {
      const text = decodeText(bytes);
      const separator = guessSeparator(text);
      return { text, options: { separator, header: guessHeader(text, separator) } };
    });
  },
  readDelimited(text: string, options: DelimitedOptions): Read<DelimitedTable> {
    const result = reading(() => readDelimited(text, options));
    return result.ok
      ? transfer(
          result,
          result.value.table.columns.map((c) => c.codes.buffer as ArrayBuffer),
        )
      : result;
  },
  readStudy: (text: string): Read<LoadedStudy> => reading(() => readStudy(text)),
};

function reading<T>(task: () => T): Read<T> {
  try {
    return { ok: true, value: task() };
  } catch (error) {
    if (error instanceof FormatProblem || error instanceof StudyProblem) return { ok: false, message: error.message };
    throw error;
  }
}

export type Engine = typeof engine;
expose(engine);
