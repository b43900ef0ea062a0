import {
  cell,
  guessVariable,
  packTable,
  replaceData,
  StudyProblem,
  type PackedTable,
  type StudyDefinition,
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
      return {
        rows: table.rows,
        columns: table.columns.map((column) => ({
          name: column.name,
          cells: Array.from({ length: Math.min(PREVIEW_ROWS, table.rows) }, (_, i) =>
            cell(column, i),
          ),
        })),
        notes,
        variables: table.columns.map(guessVariable),
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
