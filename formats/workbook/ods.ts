import { FormatProblem } from "../problem";
import type { Archive } from "./archive";
import { streamMarkup } from "./markup";
import { isLong, MAX_COLUMNS, MAX_ROWS, numberText, type RowSink, type Sheet } from "./sheet";

const CONTENT = "content.xml";

export const isOds = (archive: Archive): boolean => archive.has(CONTENT);

/** The sheets of an OpenDocument spreadsheet (ISO/IEC 26300). */
export function odsSheets(archive: Archive): Sheet[] {
  if (
    archive.has("META-INF/manifest.xml") &&
    /encryption-data/.test(archive.text("META-INF/manifest.xml"))
  ) {
    throw new FormatProblem(
      "This workbook is protected by a password. Save a copy without it, and import that.",
    );
  }
  const names: string[] = [];
  streamMarkup(archive, CONTENT, {
    open: (name, a) => {
      if (name === "table") names.push(a.name ?? `Sheet ${names.length + 1}`);
    },
    close: () => undefined,
    text: () => undefined,
  });
  if (names.length === 0)
    throw new FormatProblem(
      "This document holds no sheet. Save the sheet as XLSX, ODS or CSV and import that.",
    );
  return names.map((name, at) => ({
    name,
    read: (sink, progress) => readSheet(archive, at, sink, progress),
  }));
}

function readSheet(
  archive: Archive,
  sheet: number,
  sink: RowSink,
  progress?: (share: number) => void,
): void {
  streamMarkup(archive, CONTENT, new SheetReader(sheet, sink), progress);
}

/** Cells of a sheet that are not written out but said to be the same as one that is. */
const MOST_COPIES = 2_000_000;

const tooMany = (): FormatProblem =>
  new FormatProblem(
    "This sheet claims more rows or columns than a sheet can have, so it is damaged. Save it again in a spreadsheet program, and import that.",
  );

/**
 * How often something is repeated, once where nothing is said; an empty rest of a sheet may be
 * claimed beyond its end.
 */
function countOf(text: string | undefined, most: number): number {
  if (text === undefined) return 1;
  const count = Number(text);
  if (!Number.isInteger(count) || count < 1) throw tooMany();
  return Math.min(count, 2 * most);
}

/** Repetitions of a blank that a cell may claim. */
const MOST_BLANKS = 1000;
/** Blanks that a document writes as elements, so that they count. */
const WRITTEN_OUT = new Map([
  ["s", " "],
  ["tab", "\t"],
  ["line-break", "\n"],
]);

class SheetReader {
  goesOn = true;
  private sheet = -1;
  private row = 0;
  private rowRepeat = 1;
  private cells: string[] = [];
  /** Empty cells that only count when a filled one follows. */
  private gap = 0;
  /** Cells so far that stand for others. */
  private copies = 0;
  private attributes: Record<string, string> = {};
  private value = "";
  private paragraphs = 0;
  private depth = 0;
  private inParagraph = 0;
  private inNote = 0;

  constructor(
    private readonly wanted: number,
    private readonly sink: RowSink,
  ) {}

  private get here(): boolean {
    return this.sheet === this.wanted;
  }

  readonly open = (name: string, a: Record<string, string>): void => {
    if (name === "table") {
      this.sheet += 1;
      return;
    }
    if (!this.here || !this.goesOn) return;
    if (name === "table-row") {
      this.rowRepeat = countOf(a["number-rows-repeated"], MAX_ROWS);
      this.cells = [];
      this.gap = 0;
    } else if (name === "table-cell" || name === "covered-table-cell") {
      this.attributes = a;
      this.value = "";
      this.paragraphs = 0;
      this.depth += 1;
    } else if (name === "annotation") this.inNote += 1;
    else if (name === "p" && this.depth > 0 && this.inNote === 0) {
      if (this.paragraphs > 0) this.value += "\n";
      this.paragraphs += 1;
      this.inParagraph += 1;
    } else if (this.inParagraph > 0 && WRITTEN_OUT.has(name))
      this.value += WRITTEN_OUT.get(name)!.repeat(
        Math.min(MOST_BLANKS, Math.max(0, Math.trunc(Number(a.c ?? 1)) || 0)),
      );
  };

  readonly text = (piece: string): void => {
    if (this.inParagraph > 0) this.value += piece;
  };

  readonly close = (name: string): void => {
    if (!this.here || !this.goesOn) return;
    if (name === "p" && this.inParagraph > 0) this.inParagraph -= 1;
    else if (name === "annotation") this.inNote -= 1;
    else if (name === "table-cell" || name === "covered-table-cell") {
      this.depth -= 1;
      this.endCell();
    } else if (name === "table-row") this.endRow();
    else if (name === "table") this.goesOn = false;
  };

  private endCell(): void {
    const a = this.attributes;
    const repeat = countOf(a["number-columns-repeated"], MAX_COLUMNS);
    const column = this.cells.length + this.gap;
    const [across, down] = [
      countOf(a["number-columns-spanned"], MAX_COLUMNS),
      countOf(a["number-rows-spanned"], MAX_ROWS),
    ];
    if (across > 1 || down > 1)
      this.sink.merged(this.row, column, this.row + down - 1, column + across - 1);
    const text = this.cellText(a, column);
    if (text === "") {
      this.gap += repeat;
      return;
    }
    if (column + repeat > MAX_COLUMNS) throw tooMany();
    this.repeated(repeat - 1);
    for (; this.gap > 0; this.gap--) this.cells.push("");
    for (let i = 0; i < repeat; i++) this.cells.push(text);
  }

  private cellText(a: Record<string, string>, column: number): string {
    switch (a["value-type"]) {
      case "percentage":
        this.sink.note("percent", this.row, column);
        return numberText(a.value ?? "");
      case "float":
      case "currency":
        if (isLong(a.value ?? "")) this.sink.note("long", this.row, column);
        return numberText(a.value ?? "");
      case "date":
        this.sink.note("date", this.row, column);
        return (a["date-value"] ?? "").replace(/T00:00:00(\.0+)?$/, "");
      case "boolean":
        return (a["boolean-value"] ?? "").toUpperCase();
      default:
        return this.value;
    }
  }

  /** Counts cells that the file does not write out. @throws FormatProblem beyond all measure */
  private repeated(count: number): void {
    this.copies += count;
    if (this.copies > MOST_COPIES)
      throw new FormatProblem(
        `Up to row ${this.row + 1} this sheet repeats cells more than ${MOST_COPIES / 1e6} million times, which no sheet of answers does. Save it again in a spreadsheet program, or as CSV.`,
      );
  }

  private endRow(): void {
    const filled = this.cells.length > 0;
    if (filled && this.row + this.rowRepeat > MAX_ROWS) throw tooMany();
    if (filled) this.repeated(this.cells.length * (this.rowRepeat - 1));
    // A sheet ends in about a million empty rows; a filled row is repeated as often as it says.
    if (filled)
      for (let i = 0; i < this.rowRepeat && this.goesOn; i++)
        this.goesOn = this.sink.row(this.row + i, [...this.cells]);
    this.row += this.rowRepeat;
  }
}
