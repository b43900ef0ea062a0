import {
  cell,
  guessLevel,
  guessVariable,
  packTable,
  replaceData,
  StudyProblem,
  suspectedCodes,
  type PackedTable,
  type StudyDefinition,
  type SuspectedCode,
  type Table,
  type Variable,
} from "../../core";
import {
  chooseSheet,
  FormatProblem,
  matrixOf,
  openData,
  readData,
  type DataLayout,
  type DataSource,
  type LoadedStudy,
} from "../../formats";

export type Read<T> = { ok: true; value: T } | { ok: false; message: string };

/** The beginning of a table that is about to be imported, with a first guess at every column. */
export interface ImportPreview {
  rows: number;
  columns: { name: string; cells: string[] }[];
  notes: string[];
  variables: Variable[];
  /** Numbers that may be codes for “no answer”, and the guess if they are. */
  suspected: { codes: SuspectedCode[]; variables: Variable[] };
  /** The table is a printed covariance or correlation matrix of so many variables. */
  matrix: number | null;
}

const PREVIEW_ROWS = 12;

let openedStudy: LoadedStudy | null = null;
let source: DataSource | null = null;
let read: { table: Table; matrix: Table | null } | null = null;

/** The part of the worker that opens files; what was read stays here until it is taken. */
export const importing = {
  /** Opens a file by its content and guesses how it is laid out. */
  openFile(bytes: Uint8Array): Read<{ kind: "data"; layout: DataLayout } | { kind: "study" }> {
    return reading(() => {
      const opened = openData(bytes);
      if (opened.kind === "study") {
        openedStudy = opened.study;
        return { kind: "study" };
      }
      source = opened.source;
      return { kind: "data", layout: opened.layout };
    });
  },
  /** The layout with another sheet, its row of names guessed anew. */
  chooseSheet: (layout: DataLayout, sheet: number): Read<DataLayout> =>
    reading(() => chooseSheet(source!, layout, sheet)),
  /** Hands the opened study over. */
  takeStudy(): { definition: StudyDefinition; table: PackedTable } {
    const { definition, table } = openedStudy!;
    openedStudy = null;
    return { definition, table: packTable(table) };
  },
  /** Reads the opened data as a table and shows its beginning. */
  preview(layout: DataLayout, progress: (share: number) => void): Read<ImportPreview> {
    return reading(() => {
      const { table, notes } = readData(source!, layout, progress);
      const matrix = matrixOf(table);
      read = { table, matrix };
      const variables = table.columns.map(guessVariable);
      return {
        rows: table.rows,
        columns: table.columns.map((column) => ({
          name: column.name,
          cells: Array.from({ length: Math.min(PREVIEW_ROWS, table.rows) }, (_, i) =>
            cell(column, i),
          ),
        })),
        notes,
        variables,
        suspected: suspectedIn(table, variables),
        matrix: matrix ? matrix.columns.length : null,
      };
    });
  },
  /** Hands the previewed table over, as a matrix where it is one and is meant so. */
  takeTable(asMatrix: boolean): PackedTable {
    const packed = packTable(asMatrix ? read!.matrix! : read!.table);
    source = null;
    read = null;
    return packed;
  },
};

function suspectedIn(table: Table, variables: Variable[]): ImportPreview["suspected"] {
  const codes = suspectedCodes(table.columns, variables);
  return {
    codes,
    variables: table.columns.map((column, j) => {
      const own = codes.filter((c) => c.columns.includes(column.name)).map((c) => c.code);
      if (own.length === 0) return variables[j]!;
      const variable = { ...variables[j]!, missing: [...(variables[j]!.missing ?? []), ...own] };
      return { ...variable, level: guessLevel(column, variable) };
    }),
  };
}

/** What would no longer fit if the previewed table replaced these data. */
export function misfitsOf(
  definition: StudyDefinition,
  before: Table,
  variables: Variable[],
  asMatrix: boolean,
): string[] {
  const after = asMatrix ? read!.matrix! : read!.table;
  return replaceData(definition, before, after, variables).misfits;
}

function reading<T>(task: () => T): Read<T> {
  try {
    return { ok: true, value: task() };
  } catch (error) {
    if (error instanceof FormatProblem || error instanceof StudyProblem)
      return { ok: false, message: error.message };
    throw error;
  }
}
