import type { DataEvidence, Evidence } from "../evidence";
import type { Specification } from "../robustness";
import type { StudyDefinition } from "../study";
import type { ReportChoices } from "../study";
import type { Block, Cell, Column, Row, TableBlock, Text } from "./document";
import type { Cells, Figures } from "./figures";

/** What the parts of a report are made from. */
export interface ReportContext {
  evidence: Evidence;
  /** What the data say before any model; null where they have not been looked at. */
  data: DataEvidence | null;
  definition: StudyDefinition;
  /** The verdicts with one thing changed at a time, where that has been tried. */
  robustness: readonly Specification[] | null;
  style: ReportChoices;
  write: Figures;
  cell: Cells;
}

/** One part of a report: nothing where there is nothing to say. */
export type Part = (context: ReportContext) => Block[];

export const heading = (text: string): Block => ({ kind: "heading", level: 1, text });
export const subheading = (text: string): Block => ({ kind: "heading", level: 2, text });
export const paragraph = (...text: Text): Block => ({ kind: "paragraph", text });

/** Nothing, where no text came together. */
export const paragraphs = (texts: readonly string[]): Block[] =>
  texts.filter((text) => text !== "").map((text) => paragraph(text));

/** A table with columns that its rows fill; columns in which nothing stands are left out. */
export function table(
  id: string,
  title: string,
  columns: readonly Column[],
  rows: readonly Row[],
  notes: readonly (Text | string)[] = [],
): TableBlock {
  const used = columns.map(
    (_, j) => j === 0 || rows.some(({ cells, heading: head }) => !head && cells[j]!.text !== ""),
  );
  const kept = <T>(list: readonly T[]): T[] => list.filter((_, j) => used[j]);
  return {
    kind: "table",
    id,
    number: 0,
    title,
    columns: kept(columns),
    rows: rows.map((row) => (row.heading ? row : { cells: kept(row.cells) })),
    notes: notes
      .filter((note) => note.length > 0)
      .map((note) => (typeof note === "string" ? [note] : note)),
  };
}

export const row = (...cells: Cell[]): Row => ({ cells });
export const headingRow = (text: string): Row => ({
  cells: [{ text, value: text }],
  heading: true,
});

export const word = (head: string): Column => ({ head, kind: "words" });
export const number = (head: string): Column => ({ head, kind: "number" });
export const limits = (head: string): Column => ({ head, kind: "limits" });

/** With a capital letter at its beginning. */
export const sentence = (text: string): string =>
  text === "" ? "" : `${text[0]!.toUpperCase()}${text.slice(1)}`;
