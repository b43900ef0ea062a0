import { analyse, cell, StudyProblem, type Table } from "../../core";
import { FormatProblem, openData, readData, type LoadedStudy } from "../../formats";
import type { Cells } from "./tables";

/** How reading a file ended. */
export interface Outcome {
  kind: "read" | "refused" | "fault";
  /** The message of a refusal; what went wrong in a fault. */
  words: string;
}

/**
 * Reads a file as the import does, a study as far as its evidence; compares the cells where they
 * are known.
 */
export function readFile(bytes: Uint8Array, cells: Cells | null): Outcome {
  try {
    const opened = openData(bytes);
    let table: Table;
    if (opened.kind === "study") {
      table = opened.study.table;
      if (!cells) analysed(opened.study);
    } else table = readData(opened.source, opened.layout).table;
    const wrong = cells && difference(table, cells);
    return wrong ? { kind: "fault", words: wrong } : { kind: "read", words: "" };
  } catch (error) {
    const { message } = error as Error;
    if (!(error instanceof FormatProblem) && !(error instanceof StudyProblem))
      return { kind: "fault", words: `${(error as Error).name}: ${(error as Error).stack}` };
    if (cells) return { kind: "fault", words: `refused, though well formed: ${message}` };
    return message.length > 20
      ? { kind: "refused", words: message }
      : { kind: "fault", words: `a refusal without words: ${message}` };
  }
}

function analysed({ definition, table }: LoadedStudy): void {
  try {
    const settings = {
      ...definition.settings,
      replications: Math.min(20, definition.settings.replications),
    };
    JSON.stringify(analyse({ ...definition, settings }, table));
  } catch (error) {
    if (!(error instanceof StudyProblem)) throw error;
  }
}

function difference(table: Table, { names, rows }: Cells): string | null {
  const found = table.columns.map((c) => c.name);
  if (JSON.stringify(found) !== JSON.stringify(names))
    return `names ${JSON.stringify(found)} instead of ${JSON.stringify(names)}`;
  if (table.rows !== rows.length) return `${table.rows} rows instead of ${rows.length}`;
  for (let i = 0; i < rows.length; i++)
    for (let j = 0; j < names.length; j++) {
      const text = cell(table.columns[j]!, i);
      if (text !== rows[i]![j])
        return `row ${i + 1}, ${names[j]}: ${JSON.stringify(text)} instead of ${JSON.stringify(rows[i]![j])}`;
    }
  return null;
}
