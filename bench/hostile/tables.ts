import { strToU8, zipSync, type Zippable } from "fflate";
import type { RandomStream } from "../../core/numerics/random";

/** What a file holds: names above, texts beneath. */
export interface Cells {
  names: string[];
  rows: string[][];
}

const WORDS = [
  "yes",
  "no",
  "",
  "3",
  "-2.5",
  "1e5",
  "007",
  "12,5",
  "NA",
  "=1+1",
  "@sum",
  "<b>x</b>",
  "a;b",
  'say "so"',
  "ä ö ü ß",
  "日本",
  "🙂",
  "constructor",
  "__proto__",
  "two\nlines",
  "tab\there",
  "1/2/2024",
  "12345678901234567890",
];
const NAMES = [
  "id",
  "hours",
  "mood",
  "constructor",
  "toString",
  "__proto__",
  "a b",
  "größe",
  "<i>",
  "x,y",
  'q"',
  "=cmd",
];

const pick = <T>(random: RandomStream, from: readonly T[]): T =>
  from[Math.floor(random.uniform() * from.length)]!;

/** A small table with everything in its cells that people and programs put there. */
export function randomCells(random: RandomStream, plain = false): Cells {
  const columns = 2 + Math.floor(random.uniform() * 6);
  const names = [...NAMES].sort(() => random.uniform() - 0.5).slice(0, columns);
  const rows = Array.from({ length: 3 + Math.floor(random.uniform() * 12) }, (_, i) =>
    names.map((_name, j) =>
      // The first row is words, so that a header is known for one; the first column is never empty,
      // so no row is.
      j === 0
        ? `r${i + 1}`
        : plain
          ? String(Math.floor(random.uniform() * 100))
          : pick(random, WORDS),
    ),
  );
  return { names, rows };
}

const quoted = (text: string, separator: string): string =>
  /["\n\r\t]/.test(text) || text.includes(separator) || /^\s|\s$/.test(text)
    ? `"${text.replaceAll('"', '""')}"`
    : text;

export const csvOf = ({ names, rows }: Cells, separator = ",", end = "\n"): string =>
  [names, ...rows].map((row) => row.map((t) => quoted(t, separator)).join(separator)).join(end) +
  end;

export const recordsOf = ({ names, rows }: Cells): string =>
  JSON.stringify(rows.map((row) => Object.fromEntries(names.map((name, j) => [name, row[j]]))));

const escaped = (text: string): string =>
  text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;");

const letter = (j: number): string => String.fromCharCode(65 + j);

/** A workbook of one sheet; texts inline. */
export function xlsxParts({ names, rows }: Cells): Record<string, string> {
  const sheet = [names, ...rows]
    .map(
      (row, i) =>
        `<row r="${i + 1}">${row
          .map((text, j) =>
            text === ""
              ? ""
              : `<c r="${letter(j)}${i + 1}" t="inlineStr"><is><t xml:space="preserve">${escaped(text)}</t></is></c>`,
          )
          .join("")}</row>`,
    )
    .join("");
  const head = `<?xml version="1.0" encoding="UTF-8" standalone="yes"?>`;
  return {
    "[Content_Types].xml": `${head}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/></Types>`,
    "_rels/.rels": `${head}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    "xl/workbook.xml": `${head}<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="s" sheetId="1" r:id="rId1"/></sheets></workbook>`,
    "xl/_rels/workbook.xml.rels": `${head}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`,
    "xl/worksheets/sheet1.xml": `${head}<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>${sheet}</sheetData></worksheet>`,
  };
}

/** Blanks that a text document has to write as elements. */
const odsText = (text: string): string =>
  text
    .split("\n")
    .map(
      (line) =>
        `<text:p>${escaped(line)
          .replaceAll("\t", "<text:tab/>")
          .replace(/ {2,}/g, (blanks) => ` <text:s text:c="${blanks.length - 1}"/>`)}</text:p>`,
    )
    .join("");

export function odsParts({ names, rows }: Cells): Record<string, string> {
  const body = [names, ...rows]
    .map(
      (row) =>
        `<table:table-row>${row
          .map((t) =>
            t === ""
              ? "<table:table-cell/>"
              : `<table:table-cell office:value-type="string">${odsText(t)}</table:table-cell>`,
          )
          .join("")}</table:table-row>`,
    )
    .join("");
  return {
    mimetype: "application/vnd.oasis.opendocument.spreadsheet",
    "content.xml": `<?xml version="1.0" encoding="UTF-8"?><office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0"><office:body><office:spreadsheet><table:table table:name="s">${body}</table:table></office:spreadsheet></office:body></office:document-content>`,
  };
}

export const zipped = (
  parts: Record<string, string | Uint8Array>,
  level: 0 | 6 | 9 = 6,
): Uint8Array =>
  zipSync(
    Object.fromEntries(
      Object.entries(parts).map(([name, part]) => [
        name,
        typeof part === "string" ? strToU8(part) : part,
      ]),
    ) as Zippable,
    { level },
  );

export function studyOf({ names, rows }: Cells): string {
  return JSON.stringify({
    format: "hebel-study",
    version: 1,
    title: "<script>alert(1)</script>",
    theory: [`H1: ${JSON.stringify(names[0])} raises ${JSON.stringify(names[1])}`],
    data: { columns: names.map((name, j) => ({ name, values: rows.map((r) => r[j]!) })) },
  });
}

export { pick };
