import { printable } from "../markup";
import {
  AlignmentType,
  Bookmark,
  BorderStyle,
  Document,
  HeadingLevel,
  ImageRun,
  LineRuleType,
  Packer,
  Paragraph,
  SimpleField,
  Table,
  TableCell,
  TableLayoutType,
  TableRow,
  TextRun,
  VerticalAlign,
  WidthType,
  type FileChild,
  type ParagraphChild,
} from "docx";
import {
  captionNames,
  referenceText,
  type Block,
  type FigureBlock,
  type ReportDocument,
  type TableBlock,
  type Text,
} from "../../core";

/** A picture for a word processor: as vectors, and as points for those that draw no SVG. */
export interface Picture {
  svg: string;
  png: Uint8Array;
  /** On paper. */
  widthMm: number;
  heightMm: number;
}

/** Half points. */
const TABLE_SIZE = 19;
const SMALL_SIZE = 16;
/** Tables with more columns are set smaller. */
const MANY_COLUMNS = 8;
/** Pixels that the writer counts to a millimetre. */
const PER_MM = 96 / 25.4;

const bookmark = (id: string): string => `b_${id.replace(/[^A-Za-z0-9]+/g, "_").slice(0, 36)}`;

function textRuns(text: Text, names: ReadonlyMap<string, string>, size?: number): ParagraphChild[] {
  const look = size === undefined ? {} : { size };
  return text.map((run) => {
    if (typeof run === "string") return new TextRun({ text: printable(run), ...look });
    if ("italic" in run)
      return new TextRun({ text: printable(run.italic), italics: true, ...look });
    const name = names.get(run.see);
    return name
      ? new SimpleField(`REF ${bookmark(run.see)} \\h`, name)
      : new TextRun({ text: "the table", ...look });
  });
}

/** “Table 1” as a field that counts itself, under a name that sentences refer to. */
const captionOf = (kind: "Table" | "Figure", block: TableBlock | FigureBlock): Bookmark =>
  new Bookmark({
    id: bookmark(block.id),
    children: [
      new TextRun({ text: `${kind} `, bold: true }),
      new SimpleField(`SEQ ${kind} \\* ARABIC`, String(block.number)),
    ],
  });

/** Between the margins of the page, in twentieths of a point. */
const PAGE = 9026;
/** Letters of words that need not be broken into several lines. */
const MOST_LETTERS = 40;

/** What a letter of a table takes, in twentieths of a point, and the share that numbers may take. */
const PER_LETTER = 108;
const MOST_NUMBERS = 0.84;
/** Words of so many letters are not broken either. */
const SHORT = 20;

/** Widths of columns after what stands in them; words share what numbers leave. */
function columnWidths({ columns, rows }: TableBlock): number[] {
  const letters = columns.map(({ head, kind }, j) => {
    const own = rows.flatMap(({ cells, heading }) => (heading ? [] : [cells[j]!.text.length]));
    const longest = Math.max(0, ...own);
    return kind === "words"
      ? Math.min(MOST_LETTERS, Math.max(longest, head.length)) + 2
      : Math.max(longest, ...head.split(/\s/).map((w) => w.length)) + 3;
  });
  const all = letters.reduce((sum, n) => sum + n, 0);
  // A number that is broken into two lines is none; words are told in as many as they need.
  const whole = (j: number): boolean => columns[j]!.kind !== "words" || letters[j]! <= SHORT;
  const numbers = letters.reduce((sum, n, j) => sum + (whole(j) ? n : 0), 0);
  const each = Math.min(PER_LETTER, (MOST_NUMBERS * PAGE) / numbers);
  if (PAGE / all >= PER_LETTER || numbers === all)
    return letters.map((n) => Math.floor((PAGE * n) / all));
  const rest = (PAGE - each * numbers) / (all - numbers);
  return letters.map((n, j) => Math.floor((whole(j) ? each : rest) * n));
}

/** Tables of so many rows are not broken over pages. */
const ROWS_TOGETHER = 14;
/** After a table with its notes, in twentieths of a point. */
const GAP = 200;

const RULE = { style: BorderStyle.SINGLE, size: 6, color: "000000" };
const NONE = { style: BorderStyle.NONE, size: 0, color: "auto" };

function tableBlocks(table: TableBlock, names: ReadonlyMap<string, string>): FileChild[] {
  const size = table.columns.length > MANY_COLUMNS ? SMALL_SIZE : TABLE_SIZE;
  const widths = columnWidths(table);
  const together = table.rows.length <= ROWS_TOGETHER;
  const cell = (
    text: string,
    j: number,
    { span = 1, italics = false, top = false, bottom = false } = {},
  ): TableCell =>
    new TableCell({
      columnSpan: span,
      width: { size: span > 1 ? PAGE : widths[j]!, type: WidthType.DXA },
      verticalAlign: VerticalAlign.TOP,
      margins: { top: 30, bottom: 30, left: 60, right: 60 },
      borders: { top: top ? RULE : NONE, bottom: bottom ? RULE : NONE, left: NONE, right: NONE },
      children: [
        new Paragraph({
          alignment: table.columns[j]!.kind === "words" ? AlignmentType.LEFT : AlignmentType.RIGHT,
          // A line over several rows goes with the first of them, a short table stays whole.
          keepNext: span > 1 || (together && !bottom),
          spacing: { before: 0, after: 0 },
          children: [new TextRun({ text: printable(text), size, italics })],
        }),
      ],
    });
  const head = new TableRow({
    tableHeader: true,
    cantSplit: true,
    children: table.columns.map((c, j) => cell(c.head, j, { top: true, bottom: true })),
  });
  const body = table.rows.map(({ cells, heading }, i) => {
    const bottom = i === table.rows.length - 1;
    return new TableRow({
      cantSplit: true,
      children: heading
        ? [cell(cells[0]!.text, 0, { span: table.columns.length, italics: true, bottom })]
        : cells.map((c, j) => cell(c.text, j, { bottom })),
    });
  });
  return [
    new Paragraph({ style: "Caption", keepNext: true, children: [captionOf("Table", table)] }),
    new Paragraph({
      keepNext: true,
      spacing: { after: 80 },
      children: [new TextRun({ text: printable(table.title), italics: true })],
    }),
    new Table({
      width: { size: PAGE, type: WidthType.DXA },
      columnWidths: widths,
      layout: TableLayoutType.FIXED,
      rows: [head, ...body],
    }),
    ...table.notes.map(
      (n, i) =>
        new Paragraph({
          spacing: { before: 60, after: i === table.notes.length - 1 ? GAP : 0 },
          children: [
            new TextRun({ text: "Note. ", italics: true, size: TABLE_SIZE }),
            ...textRuns(n, names, TABLE_SIZE),
          ],
        }),
    ),
    // Two tables that touch would be one; a line as low as can be keeps them apart.
    ...(table.notes.length === 0
      ? [
          new Paragraph({
            spacing: { after: GAP, line: 20, lineRule: LineRuleType.EXACT },
            children: [],
          }),
        ]
      : []),
  ];
}

function figureBlocks(
  figure: FigureBlock,
  picture: Picture | undefined,
  names: ReadonlyMap<string, string>,
): FileChild[] {
  const caption = new Paragraph({
    style: "Caption",
    children: [
      captionOf("Figure", figure),
      new TextRun({ text: `. ${printable(figure.title)}. ` }),
      ...figure.notes.flatMap((n) => textRuns(n, names)),
    ],
  });
  if (!picture) return [caption];
  const transformation = {
    width: Math.round(picture.widthMm * PER_MM),
    height: Math.round(picture.heightMm * PER_MM),
  };
  const image = new ImageRun({
    type: "svg",
    data: new TextEncoder().encode(picture.svg),
    transformation,
    fallback: { type: "png", data: picture.png },
    altText: {
      name: figure.id,
      title: printable(figure.title),
      description: printable(figure.title),
    },
  });
  return [new Paragraph({ keepNext: true, children: [image] }), caption];
}

function blocksOf(
  block: Block,
  names: ReadonlyMap<string, string>,
  pictures: ReadonlyMap<string, Picture>,
): FileChild[] {
  switch (block.kind) {
    case "heading":
      return [
        new Paragraph({
          keepNext: true,
          heading: block.level === 1 ? HeadingLevel.HEADING_1 : HeadingLevel.HEADING_2,
          children: [new TextRun({ text: printable(block.text) })],
        }),
      ];
    case "paragraph":
      return [new Paragraph({ children: textRuns(block.text, names) })];
    case "list":
      return block.items.map(
        (item) => new Paragraph({ bullet: { level: 0 }, children: textRuns(item, names) }),
      );
    case "references":
      return block.items.map(
        (r) =>
          new Paragraph({
            indent: { left: 480, hanging: 480 },
            children: referenceText(r).map(
              ({ text, italic }) => new TextRun({ text, italics: italic }),
            ),
          }),
      );
    case "table":
      return tableBlocks(block, names);
    case "figure":
      return figureBlocks(block, pictures.get(block.id), names);
  }
}

const FONT = "Times New Roman";

/**
 * A report as a word-processor document: headings, tables and captions as such, numbers of tables
 * and figures as fields that sentences refer to.
 * @param pictures by the id of their figures @returns the bytes of a .docx file
 */
export async function docxReport(
  document: ReportDocument,
  pictures: ReadonlyMap<string, Picture> = new Map(),
): Promise<Uint8Array> {
  const names = captionNames(document.blocks);
  const black = { color: "000000", font: FONT };
  const file = new Document({
    title: printable(document.title),
    creator: "Hebel",
    styles: {
      default: {
        document: {
          run: { font: FONT, size: 24, language: { value: document.language } },
          // Without its rule a word processor may take the height of lines as exact, and cut figures.
          paragraph: { spacing: { after: 120, line: 276, lineRule: LineRuleType.AUTO } },
        },
        title: { run: { ...black, size: 36 }, paragraph: { spacing: { after: 120 } } },
        heading1: {
          run: { ...black, size: 28, bold: true },
          paragraph: { spacing: { before: 280, after: 100 } },
        },
        heading2: {
          run: { ...black, size: 24, italics: true },
          paragraph: { spacing: { before: 200, after: 80 } },
        },
      },
      paragraphStyles: [
        {
          id: "Caption",
          name: "caption",
          basedOn: "Normal",
          next: "Normal",
          run: { size: 22 },
          paragraph: { spacing: { before: 160, after: 40 } },
        },
      ],
    },
    sections: [
      {
        children: [
          new Paragraph({
            heading: HeadingLevel.TITLE,
            children: [new TextRun({ text: printable(document.title) })],
          }),
          ...(document.question
            ? [
                new Paragraph({
                  children: [new TextRun({ text: printable(document.question), italics: true })],
                }),
              ]
            : []),
          ...document.blocks.flatMap((block) => blocksOf(block, names, pictures)),
        ],
      },
    ],
  });
  return new Uint8Array(await Packer.toArrayBuffer(file));
}
