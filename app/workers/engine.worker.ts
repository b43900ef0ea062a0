import { expose, transfer } from "comlink";
import {
  cell,
  findColumn,
  guessVariable,
  needsBootstrap,
  packTable,
  parseTheory,
  prepare,
  Resampler,
  StudyProblem,
  summarise,
  unpackTable,
  type ColumnSummary,
  type Complaint,
  type Evidence,
  type PackedTable,
  type Prepared,
  type ProblemPlace,
  type ReplicateBlock,
  type ResamplingProblem,
  type StudyDefinition,
  type Table,
  type Variable,
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

const PREVIEW_ROWS = 12;

/** The beginning of a table that is about to be imported, with a first guess at every column. */
export interface ImportPreview {
  rows: number;
  columns: { name: string; cells: string[] }[];
  notes: string[];
  variables: Variable[];
}

let openedStudy: LoadedStudy | null = null;
let importing: { text: string; table: Table | null } | null = null;

/** Estimation and everything that reads whole columns, away from the thread that types and scrolls. */
const engine = {
  /** Keeps a table; later calls name it by its key. */
  setTable(key: string, table: PackedTable): void {
    data = { key, table: unpackTable(table) };
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

  /** Decodes a file and guesses how it is laid out; what was read stays here until it is taken. */
  openFile(bytes: Uint8Array): Read<{ kind: "table"; options: DelimitedOptions } | { kind: "study" }> {
    return reading(() => {
      const text = decodeText(bytes);
      if (/^\ufeff?\s*[{[]/.test(text)) {
        openedStudy = readStudy(text);
        return { kind: "study" };
      }
      const separator = guessSeparator(text);
      importing = { text, table: null };
      return { kind: "table", options: { separator, header: guessHeader(text, separator) } };
    });
  },
  /** Hands the opened study over. */
  takeStudy(): { definition: StudyDefinition; table: PackedTable } {
    const { definition, table } = openedStudy!;
    openedStudy = null;
    return { definition, table: packTable(table) };
  },
  /** Reads the opened text as a table and shows its beginning; the table stays here until it is taken. */
  preview(options: DelimitedOptions): Read<ImportPreview> {
    return reading(() => {
      const { table, notes } = readDelimited(importing!.text, options);
      importing!.table = table;
      return {
        rows: table.rows,
        columns: table.columns.map((column) => ({
          name: column.name,
          cells: Array.from({ length: Math.min(PREVIEW_ROWS, table.rows) }, (_, i) => cell(column, i)),
        })),
        notes,
        variables: table.columns.map(guessVariable),
      };
    });
  },
  /** Hands the previewed table over. */
  takeTable(): PackedTable {
    const packed = packTable(importing!.table!);
    importing = null;
    return transfer(
      packed,
      packed.columns.flatMap((c) => [c.codes.buffer as ArrayBuffer, c.ends.buffer as ArrayBuffer]),
    );
  },
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
