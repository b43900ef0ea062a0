import { FormatProblem } from "../problem";
import type { Archive } from "./archive";
import { isDateFormat, isoDate, isPercentFormat } from "./dates";
import { readMarkup, streamMarkup, type MarkupHandler } from "./markup";
import {
  columnOf,
  isLong,
  MAX_COLUMNS,
  MAX_ROWS,
  numberText,
  type RowSink,
  type Sheet,
} from "./sheet";

interface Styles {
  date: boolean[];
  percent: boolean[];
}

interface Book {
  archive: Archive;
  shared: string[] | null;
  styles: Styles;
  since1904: boolean;
}

const ROOT = "xl/workbook.xml";

export const isXlsx = (archive: Archive): boolean => archive.has(ROOT);

/**
 * The sheets of an Office Open XML workbook (ISO/IEC 29500). Values come from the file; formulas
 * are never run.
 */
export function xlsxSheets(archive: Archive): Sheet[] {
  const targets = relations(archive);
  const named: { name: string; part: string }[] = [];
  const book: Book = { archive, shared: null, styles: stylesOf(archive), since1904: false };
  readMarkup(archive.text(ROOT), {
    open: (name, a) => {
      if (name === "workbookPr" && (a.date1904 === "1" || a.date1904 === "true"))
        book.since1904 = true;
      const part = name === "sheet" ? targets.get(a.id ?? "") : undefined;
      if (part && archive.has(part)) named.push({ name: a.name ?? part, part });
    },
    close: () => undefined,
    text: () => undefined,
  });
  if (named.length === 0) throw new FormatProblem("This workbook has no sheet with cells.");
  return named.map(({ name, part }) => ({
    name,
    read: (sink, progress) => readSheet(book, part, sink, progress),
  }));
}

/** Relation id -> part of the archive. */
function relations(archive: Archive): Map<string, string> {
  const targets = new Map<string, string>();
  if (!archive.has("xl/_rels/workbook.xml.rels")) return targets;
  readMarkup(archive.text("xl/_rels/workbook.xml.rels"), {
    open: (name, a) => {
      if (name !== "Relationship" || !a.Id || !a.Target) return;
      targets.set(
        a.Id,
        a.Target.startsWith("/") ? a.Target.slice(1) : `xl/${a.Target.replace(/^\.\//, "")}`,
      );
    },
    close: () => undefined,
    text: () => undefined,
  });
  return targets;
}

function stylesOf(archive: Archive): Styles {
  const styles: Styles = { date: [], percent: [] };
  if (!archive.has("xl/styles.xml")) return styles;
  const codes = new Map<number, string>();
  let inside = false;
  readMarkup(archive.text("xl/styles.xml"), {
    open: (name, a) => {
      if (name === "numFmt") codes.set(Number(a.numFmtId), a.formatCode ?? "");
      if (name === "cellXfs") inside = true;
      if (name !== "xf" || !inside) return;
      const id = Number(a.numFmtId ?? 0);
      styles.date.push(isDateFormat(id, codes.get(id)));
      styles.percent.push(isPercentFormat(id, codes.get(id)));
    },
    close: (name) => {
      if (name === "cellXfs") inside = false;
    },
    text: () => undefined,
  });
  return styles;
}

/** Texts that cells share, read when the first sheet is. Phonetic hints are no part of a text. */
function sharedTexts(archive: Archive): string[] {
  const texts: string[] = [];
  if (!archive.has("xl/sharedStrings.xml")) return texts;
  let text = "";
  let inText = false;
  let hint = false;
  streamMarkup(archive, "xl/sharedStrings.xml", {
    open: (name) => {
      if (name === "si") text = "";
      else if (name === "t") inText = true;
      else if (name === "rPh") hint = true;
    },
    close: (name) => {
      if (name === "si") texts.push(text);
      else if (name === "t") inText = false;
      else if (name === "rPh") hint = false;
    },
    text: (piece) => {
      if (inText && !hint) text += piece;
    },
  });
  return texts;
}

function readSheet(
  book: Book,
  part: string,
  sink: RowSink,
  progress?: (share: number) => void,
): void {
  book.shared ??= sharedTexts(book.archive);
  streamMarkup(book.archive, part, new SheetReader(book, sink), progress);
}

class SheetReader implements MarkupHandler {
  goesOn = true;
  private row = -1;
  private column = -1;
  private cells: string[] = [];
  /** Columns of the row that have a cell. */
  private taken: number[] = [];
  private type = "n";
  private style = 0;
  private value = "";
  private hasValue = false;
  private hasFormula = false;
  private inValue = false;

  constructor(
    private readonly book: Book,
    private readonly sink: RowSink,
  ) {}

  readonly open = (name: string, a: Record<string, string>): void => {
    if (name === "c") {
      this.column = this.placeOf(a.r);
      this.type = a.t ?? "n";
      this.style = Number(a.s ?? 0);
      this.value = "";
      this.hasValue = false;
      this.hasFormula = false;
    } else if (name === "v" || (name === "t" && this.type === "inlineStr")) {
      this.inValue = true;
      this.hasValue = true;
    } else if (name === "f") this.hasFormula = true;
    else if (name === "row") {
      const row = a.r === undefined ? this.row + 1 : Number(a.r) - 1;
      if (!Number.isInteger(row) || row <= this.row || row >= MAX_ROWS)
        throw new FormatProblem(
          `This sheet is damaged: after row ${this.row + 1} stands a row “${a.r}”. Save it again in a spreadsheet program.`,
        );
      this.row = row;
      this.column = -1;
      this.taken = [];
      this.cells = [];
    } else if (name === "mergeCell") this.merge(a.ref ?? "");
  };

  /** The column of a cell, which has to stand in its row and nowhere twice. */
  private placeOf(reference: string | undefined): number {
    const column = reference === undefined ? this.column + 1 : columnOf(reference);
    const [, row] = /^[A-Z]{1,3}([1-9]\d*)$/.exec(reference ?? `A${this.row + 1}`) ?? [];
    if (column >= MAX_COLUMNS || column < 0 || Number(row) !== this.row + 1)
      throw new FormatProblem(
        `A cell in row ${this.row + 1} of this sheet claims to stand at “${reference}”, where no cell of that row can be. Save it again in a spreadsheet program.`,
      );
    // Cells stand in order nearly always, and then none can be there already.
    if (column <= this.column && this.taken.includes(column))
      throw new FormatProblem(
        `The cell “${reference}” stands twice in this sheet, so nobody knows which holds. Save it again in a spreadsheet program.`,
      );
    this.taken.push(column);
    return column;
  }

  readonly where = (): string => (this.row < 0 ? "before its first row" : `in row ${this.row + 1}`);

  readonly text = (piece: string): void => {
    if (this.inValue) this.value += piece;
  };

  readonly close = (name: string): void => {
    if (name === "v" || name === "t") this.inValue = false;
    else if (name === "c") this.endCell();
    else if (name === "row" && this.goesOn && this.cells.length > 0)
      this.goesOn = this.sink.row(this.row, this.cells);
  };

  private endCell(): void {
    // What is left of a piece after enough has been seen is not looked at.
    if (!this.goesOn) return;
    if (!this.hasValue) {
      if (this.hasFormula) this.sink.note("no_value", this.row, this.column);
      return;
    }
    while (this.cells.length < this.column) this.cells.push("");
    this.cells[this.column] = this.cellText();
  }

  private cellText(): string {
    const { value, type, book } = this;
    if (type === "s") {
      const text = value.trim() === "" ? undefined : book.shared![Number(value)];
      if (text === undefined)
        throw new FormatProblem(
          `A cell in row ${this.row + 1} of this sheet refers to a text (number “${value}”) that the workbook does not hold. Save it again in a spreadsheet program.`,
        );
      return text;
    }
    if (type === "b") return /^(1|true)$/i.test(value.trim()) ? "TRUE" : "FALSE";
    if (type !== "n") return value;
    if (book.styles.date[this.style]) {
      this.sink.note("date", this.row, this.column);
      return isoDate(Number(value), book.since1904);
    }
    if (isLong(value)) this.sink.note("long", this.row, this.column);
    if (book.styles.percent[this.style]) this.sink.note("percent", this.row, this.column);
    return numberText(value);
  }

  private merge(reference: string): void {
    const [from, to] = reference.split(":");
    if (!from || !to) return;
    const rowOf = (text: string): number => Number(text.replace(/^[A-Z]+/, "")) - 1;
    this.sink.merged(rowOf(from), columnOf(from), rowOf(to), columnOf(to));
  }
}
