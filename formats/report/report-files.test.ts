import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import ExcelJs from "exceljs";
import { strFromU8, unzipSync } from "fflate";
import { describe, expect, it } from "vitest";
import {
  analyse,
  completeChoices,
  composeReport,
  dataEvidence,
  type ReportChoices,
  type ReportDocument,
  type TableBlock,
} from "../../core";
import { demoLeverStudy, demoStudy } from "../../demo/study";
import { DEFAULT_FIGURE, drawFigure } from "../figures";
import {
  bibTex,
  cslJson,
  docxReport,
  htmlReport,
  latexTables,
  markdownReport,
  xlsxReport,
} from ".";

function reportOf(
  { definition, table } = demoStudy(),
  chosen: Partial<ReportChoices> = {},
): { report: ReportDocument; pictures: Map<string, string> } {
  const study = { ...definition, settings: { ...definition.settings, replications: 200 } };
  const evidence = analyse(study, table);
  const data = dataEvidence(study, table);
  const report = composeReport({ evidence, data, definition: study }, completeChoices(chosen));
  const pictures = new Map(
    report.blocks.flatMap((b) =>
      b.kind === "figure"
        ? [
            [
              b.id,
              drawFigure(b, evidence, { ...DEFAULT_FIGURE, decimal: report.decimal })!.svg,
            ] as const,
          ]
        : [],
    ),
  );
  return { report, pictures };
}

/** A study whose names try to break every format. */
function hostile() {
  const study = demoStudy();
  const rename = (text: string): string =>
    text.replace(/\bfriends\b/g, '"fr|ie<n>ds & \\% {x}"').replaceAll("belonging", "belonging");
  const name = "fr|ie<n>ds & \\% {x}";
  return {
    definition: {
      ...study.definition,
      title: "=Café <b>&amp; | \u0001",
      theory: rename(study.definition.theory),
      variables: study.definition.variables.map((v) => (v.name === "friends" ? { ...v, name } : v)),
    },
    table: {
      ...study.table,
      columns: study.table.columns.map((c) => (c.name === "friends" ? { ...c, name } : c)),
    },
  };
}

const usual = reportOf();
const comma = reportOf(demoLeverStudy(), {
  decimal: ",",
  journal: "medical",
  spelling: "american",
});
const odd = reportOf(hostile());
const all = [usual, comma, odd];

const tablesOf = ({ blocks }: ReportDocument): TableBlock[] =>
  blocks.filter((b) => b.kind === "table");
/** What every reader of a table has to find: cells as text, row by row. */
const cellsOf = (table: TableBlock): string[][] => [
  table.columns.map((c) => c.head),
  ...table.rows.map((r) => r.cells.map((c) => c.text)),
];
const visible = (text: string): string => text.replaceAll("\u0001", "");

/** A pixel, where a picture is only carried along. */
const PIXEL = Uint8Array.from(
  Buffer.from(
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==",
    "base64",
  ),
);
const docx = ({ report, pictures }: typeof usual) =>
  docxReport(
    report,
    new Map(
      [...pictures].map(([id, svg]) => [id, { svg, png: PIXEL, widthMm: 120, heightMm: 60 }]),
    ),
  );

const unescaped = (text: string): string =>
  text
    .replaceAll("&lt;", "<")
    .replaceAll("&gt;", ">")
    .replaceAll("&quot;", '"')
    .replaceAll("&apos;", "'")
    .replaceAll("&amp;", "&");

/** Cells of every table in a page. */
function htmlCells(html: string): string[][][] {
  return [...html.matchAll(/<table[\s\S]*?<\/table>/g)].map(([table]) =>
    [...table.matchAll(/<tr>([\s\S]*?)<\/tr>/g)].map(([, line]) =>
      [...line!.matchAll(/<t[hd][^>]*>([\s\S]*?)<\/t[hd]>/g)].map(([, cell]) =>
        unescaped(cell!.replace(/<\/?i>/g, "")),
      ),
    ),
  );
}

describe("every report", () => {
  it("gives each head of a table one meaning, and each note once", () => {
    for (const { report } of all)
      for (const table of tablesOf(report)) {
        const heads = table.columns.map((c) => c.head).filter((head) => head !== "");
        expect(new Set(heads).size, table.title).toBe(heads.length);
        const notes = table.notes.map((note) => JSON.stringify(note));
        expect(new Set(notes).size, table.title).toBe(notes.length);
      }
  });

  it("says of a figure what is on it", () => {
    for (const { report, pictures } of all)
      for (const block of report.blocks) {
        if (block.kind !== "figure" || block.figure.kind !== "path") continue;
        const numbers = pictures.get(block.id)!.match(/>[−-]?\d*[.,]\d+</g) ?? [];
        const told = JSON.stringify([block.title, block.notes]);
        expect(/estimates|coefficients/i.test(told), told).toBe(numbers.length > 0);
        if (/interval/i.test(told))
          expect(pictures.get(block.id)).toMatch(
            />\[[−-]?\d*[.,]\d+[,;] |Intervals have no room at this width/,
          );
      }
  });
});

describe("a report as a page", () => {
  it("holds every cell of every table, and every figure", () => {
    for (const { report, pictures } of all) {
      const html = htmlReport(report, pictures);
      expect(htmlCells(html)).toEqual(tablesOf(report).map(cellsOf));
      expect(html.match(/<svg /g)?.length).toBe(pictures.size);
      expect(html).toContain(`lang="${report.language}"`);
      // Nothing from elsewhere, and no names that act as markup.
      expect(html).not.toMatch(/<(script|link|img)|(?:src|href)="(?!#)/);
    }
  });

  it("refers to its tables by links that lead there", () => {
    const html = htmlReport(usual.report, usual.pictures);
    const links = [...html.matchAll(/href="#([^"]+)"/g)].map((m) => m[1]!);
    expect(links.length).toBeGreaterThan(0);
    for (const link of links) expect(html).toContain(`id="${link}"`);
  });
});

describe("a report as Markdown", () => {
  it("holds every cell of every table", () => {
    for (const { report } of all) {
      const lines = markdownReport(report).split("\n");
      const rows = lines.filter((l) => l.startsWith("| ") && !l.startsWith("| :--"));
      const cells = rows.map((l) =>
        l
          .slice(2, -2)
          .split(/(?<!\\)(?:\\\\)* \| /)
          .map((c) => c.replace(/^\*\*|\*\*$/g, "").replace(/\\([\\`*_{}[\]<>|#])/g, "$1")),
      );
      const expected = tablesOf(report).flatMap((t) =>
        cellsOf(t).map((row) => [
          ...row,
          ...Array.from({ length: t.columns.length - row.length }, () => ""),
        ]),
      );
      expect(cells).toEqual(expected);
    }
  });
});

describe("a report as a workbook", () => {
  it("holds numbers as numbers, in full, both limits apart, whatever the style", async () => {
    for (const { report } of all) {
      const book = new ExcelJs.Workbook();
      await book.xlsx.load((await xlsxReport(report)).buffer as ArrayBuffer);
      const tables = tablesOf(report);
      expect(book.worksheets.length).toBe(tables.length);
      tables.forEach((table, k) => {
        const sheet = book.worksheets[k]!;
        table.rows.forEach((row, i) => {
          if (row.heading) return;
          const values = row.cells.flatMap((c, j) =>
            table.columns[j]!.kind === "limits" ? [...(c.limits ?? [null, null])] : [c.value],
          );
          values.forEach((value, j) => {
            const cell = sheet.getRow(i + 3).getCell(j + 1).value;
            if (typeof value === "number") expect(cell).toBe(value);
            else if (value === null) expect(cell ?? null).toBeNull();
            else expect(cell).toBe(/^[=+\-@]/.test(value) ? `'${value}` : value);
          });
        });
      });
    }
  });
});

describe("a report as LaTeX", () => {
  it("has every table, balanced, with its cells", () => {
    for (const { report } of all) {
      const tex = latexTables(report);
      expect(tex.match(/\\begin\{(?:tabular|longtable)\}/g)?.length).toBe(tablesOf(report).length);
      const plainBraces = tex.replace(/\\[\\{}]/g, "");
      expect(plainBraces.split("{").length).toBe(plainBraces.split("}").length);
      for (const table of tablesOf(report))
        for (const row of table.rows)
          if (!row.heading)
            // As many columns in each line as in the table.
            expect(row.cells.length).toBe(table.columns.length);
      const lines = tex
        .split("\n")
        .filter((l) => l.endsWith("\\\\") && !l.includes("\\multicolumn"));
      const widths = tablesOf(report).flatMap((t) =>
        cellsOf(t)
          .filter((r) => r.length === t.columns.length)
          .map((r) => r.length),
      );
      expect(lines.map((l) => l.split(/(?<!\\)&/).length)).toEqual(widths);
    }
  });
});

describe("references", () => {
  const items = usual.report.blocks.flatMap((b) => (b.kind === "references" ? b.items : []));

  it("are read by reference managers", () => {
    const csl = JSON.parse(cslJson(items)) as { id: string; author: { family: string }[] }[];
    expect(csl.map((c) => c.id)).toEqual(items.map((r) => r.id));
    expect(csl[0]!.author[0]!.family).toBe(items[0]!.authors[0]!.family);
    const bib = bibTex(items);
    expect(bib.match(/^@/gm)?.length).toBe(items.length);
    expect(bib).toContain("author = {Efron, B. and Tibshirani, R. J.}");
    expect(bib).toContain("pages = {171--185}");
  });
});

const office = process.env.OFFICE;
/** Above the first line of a page, in points. */
const MARGIN = 72;

/** Has files of a folder converted by the word processor, which must not complain. */
const convertIn =
  (folder: string) =>
  (to: string, names: string[]): void => {
    const { status, stderr } = spawnSync(
      office!,
      [
        `-env:UserInstallation=file://${folder}/profile`,
        "--headless",
        "--convert-to",
        to,
        "--outdir",
        folder,
        ...names.map((name) => join(folder, name)),
      ],
      { encoding: "utf8", timeout: 150_000 },
    );
    expect(stderr).not.toMatch(/repair|corrupt|Error:/i);
    expect(status).toBe(0);
  };

/** Where words stand on the pages of a PDF, in points from the top; null without the program. */
function wordsOnPages(path: string): { word: string; top: number; bottom: number }[][] | null {
  const { status, stdout } = spawnSync("pdftotext", ["-bbox", path, "-"], { encoding: "utf8" });
  if (status !== 0) return null;
  return stdout
    .split("<page ")
    .slice(1)
    .map((page) =>
      [...page.matchAll(/yMin="([\d.]+)" xMax="[\d.]+" yMax="([\d.]+)">([^<]*)</g)].map(
        ([, top, bottom, word]) => ({ word: word!, top: Number(top), bottom: Number(bottom) }),
      ),
    );
}

describe("a report as a word-processor document", () => {
  it("has headings, captions that count themselves, references to them, and pictures as vectors and points", async () => {
    for (const made of all) {
      const parts = unzipSync(await docx(made));
      const xml = strFromU8(parts["word/document.xml"]!);
      expect(xml.match(/<w:tbl>/g)?.length).toBe(tablesOf(made.report).length);
      expect(xml).toContain('w:val="Heading1"');
      expect(xml).toContain("SEQ Table");
      const refs = [...xml.matchAll(/REF (\w+) \\h/g)].map((m) => m[1]!);
      expect(refs.length).toBeGreaterThan(0);
      for (const ref of refs) expect(xml).toContain(`w:name="${ref}"`);
      expect(Object.keys(parts).filter((p) => p.endsWith(".svg")).length).toBe(made.pictures.size);
      // Cells in their order, one paragraph each.
      const rows = [...xml.matchAll(/<w:tr>[\s\S]*?<\/w:tr>|<w:tr [\s\S]*?<\/w:tr>/g)].map(
        ([line]) =>
          [...line.matchAll(/<w:tc>[\s\S]*?<\/w:tc>/g)].map(([cell]) =>
            unescaped(
              [...cell.matchAll(/<w:t(?: [^>]*)?>([\s\S]*?)<\/w:t>/g)].map((m) => m[1]).join(""),
            ),
          ),
      );
      expect(rows).toEqual(
        tablesOf(made.report)
          .flatMap(cellsOf)
          .map((r) => r.map(visible)),
      );
    }
  });

  it.skipIf(!office)(
    "is opened by a word processor with the same cells",
    async () => {
      const folder = mkdtempSync(join(tmpdir(), "hebel-report-"));
      for (const [i, made] of all.entries()) {
        writeFileSync(join(folder, `report${i}.docx`), await docx(made));
        writeFileSync(join(folder, `book${i}.xlsx`), await xlsxReport(made.report));
      }
      const convert = convertIn(folder);
      convert(
        "fodt",
        all.map((_, i) => `report${i}.docx`),
      );
      all.forEach((made, i) => {
        const odt = readFileSync(join(folder, `report${i}.fodt`), "utf8");
        const tables = [...odt.matchAll(/<table:table [\s\S]*?<\/table:table>/g)].map(([t]) =>
          [...t.matchAll(/<table:table-row[\s\S]*?<\/table:table-row>/g)].map(([line]) =>
            [...line.matchAll(/<table:table-cell[\s\S]*?<\/table:table-cell>/g)].map(([cell]) =>
              unescaped(
                cell
                  .replace(/<text:s text:c="(\d+)"\/>/g, (_, c) => " ".repeat(Number(c)))
                  .replace(/<text:s\/>/g, " ")
                  .replace(/<[^>]*>/g, ""),
              ).trim(),
            ),
          ),
        );
        expect(tables).toEqual(
          tablesOf(made.report).map((t) => cellsOf(t).map((r) => r.map((c) => visible(c).trim()))),
        );
        // The picture and the caption's number are there.
        expect(odt.match(/<draw:image/g)?.length ?? 0).toBeGreaterThanOrEqual(made.pictures.size);
      });
      convert(
        "csv",
        all.map((_, i) => `book${i}.xlsx`),
      );
      const csv = readFileSync(join(folder, "book0.csv"), "utf8");
      expect(csv).toContain(tablesOf(usual.report)[0]!.title);
    },
    200_000,
  );

  it.skipIf(!office || spawnSync("pdftotext", ["-v"]).status !== 0)(
    "has figures on paper as high as they were drawn",
    async () => {
      const folder = mkdtempSync(join(tmpdir(), "hebel-report-"));
      // Without letters of their own, so that what stands above a caption is its figure.
      const blank = `<svg xmlns="http://www.w3.org/2000/svg" width="120mm" height="60mm"><rect width="120mm" height="60mm" fill="#888"/></svg>`;
      const pictures = new Map(
        [...usual.pictures.keys()].map(
          (id) => [id, { svg: blank, png: PIXEL, widthMm: 120, heightMm: 60 }] as const,
        ),
      );
      writeFileSync(join(folder, "report.docx"), await docxReport(usual.report, pictures));
      convertIn(folder)("pdf", ["report.docx"]);
      const room = wordsOnPages(join(folder, "report.pdf"))!.flatMap((words) =>
        words.flatMap(({ word, top }, i) => {
          if (word !== "Figure" || !/^\d+\.$/.test(words[i + 1]?.word ?? "")) return [];
          const above = words.slice(0, i).map((w) => w.bottom);
          return [top - Math.max(MARGIN, ...above)];
        }),
      );
      expect(room.length).toBe(pictures.size);
      for (const points of room) expect(points).toBeGreaterThan((60 / 25.4) * 72 - 2);
    },
    200_000,
  );
});
