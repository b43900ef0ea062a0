/**
 * A stretch of text: as it is, in italics, or the name of a table or figure by its id (“Table 2”).
 */
export type Run = string | { italic: string } | { see: string };

/** A paragraph, or a part of one. */
export type Text = readonly Run[];

/** What a cell shows, and the number or words that it holds in full. */
export interface Cell {
  text: string;
  value: number | string | null;
  /** Both limits of an interval, where it holds one. */
  limits?: readonly [number | null, number | null];
}

export interface Column {
  head: string;
  /** Words stand to the left; numbers to the right, on their decimal points. */
  kind: "words" | "number" | "limits";
}

export interface Row {
  cells: readonly Cell[];
  /** A line over several rows that says what they are; its first cell spans the table. */
  heading?: boolean;
}

export interface TableBlock {
  kind: "table";
  id: string;
  /** Counted through the document; 0 before that. */
  number: number;
  title: string;
  columns: readonly Column[];
  rows: readonly Row[];
  notes: readonly Text[];
}

/** Pictures a report can hold; drawn by formats/figures from the evidence. */
export type FigureSpec =
  | {
      kind: "path";
      estimates: "none" | "raw" | "standardised";
      beside: "interval" | "p" | "nothing";
      /** Constructs with their items. */
      items?: boolean;
    }
  | { kind: "slopes"; moderation: string }
  | { kind: "region"; moderation: string; set: number }
  | { kind: "surface"; moderation: string }
  | { kind: "indirect"; region: string }
  | { kind: "forest"; effects: readonly string[] };

export interface FigureBlock {
  kind: "figure";
  id: string;
  number: number;
  title: string;
  figure: FigureSpec;
  notes: readonly Text[];
}

export interface Reference {
  id: string;
  type: "article-journal" | "book" | "chapter";
  authors: readonly { family: string; given: string }[];
  year: number;
  title: string;
  /** Journal, or the book that a chapter is in. */
  container: string | null;
  volume: string | null;
  issue: string | null;
  pages: string | null;
  publisher: string | null;
}

export type Block =
  | { kind: "heading"; level: 1 | 2; text: string }
  | { kind: "paragraph"; text: Text }
  | { kind: "list"; items: readonly Text[] }
  | { kind: "references"; items: readonly Reference[] }
  | TableBlock
  | FigureBlock;

/**
 * A report: what stands on its pages, in order, with every number in the chosen style and in full.
 */
export interface ReportDocument {
  title: string;
  question: string;
  /** BCP 47. */
  language: "en-GB" | "en-US";
  decimal: "." | ",";
  /** What takes part in no number, or has not settled, for files of tables alone. */
  leftOut: readonly string[];
  blocks: readonly Block[];
}
