import { strToU8 } from "fflate";
import { RandomStream } from "../../core/numerics/random";
import {
  csvOf,
  odsParts,
  pick,
  randomCells,
  recordsOf,
  studyOf,
  xlsxParts,
  zipped,
  type Cells,
} from "./tables";

/** A file to be read, and what must come of it. */
export interface CorpusFile {
  kind: string;
  bytes: Uint8Array;
  /** The cells that must be read; null where a clear refusal will do as well. */
  cells: Cells | null;
}

const utf16 = (text: string, little: boolean): Uint8Array => {
  const out = new Uint8Array(2 + 2 * text.length);
  const view = new DataView(out.buffer);
  view.setUint16(0, 0xfeff, little);
  for (let i = 0; i < text.length; i++) view.setUint16(2 + 2 * i, text.charCodeAt(i), little);
  return out;
};

const utf32 = (text: string): Uint8Array => {
  const points = ["\ufeff", ...text].map((c) => c.codePointAt(0)!);
  const out = new Uint8Array(4 * points.length);
  points.forEach((p, i) => new DataView(out.buffer).setUint32(4 * i, p, true));
  return out;
};

const FORMS: [kind: string, make: (cells: Cells) => Uint8Array][] = [
  ["csv", (c) => strToU8(csvOf(c))],
  ["csv, semicolons", (c) => strToU8(csvOf(c, ";"))],
  ["tsv, CRLF", (c) => strToU8(csvOf(c, "\t", "\r\n"))],
  ["csv with a mark of UTF-8", (c) => strToU8(`\ufeff${csvOf(c)}`)],
  ["csv in UTF-16 little-endian", (c) => utf16(csvOf(c), true)],
  ["csv in UTF-16 big-endian", (c) => utf16(csvOf(c), false)],
  ["json records", (c) => strToU8(recordsOf(c))],
  ["json lists", (c) => strToU8(JSON.stringify([c.names, ...c.rows]))],
  ["xlsx", (c) => zipped(xlsxParts(c))],
  ["xlsx, stored", (c) => zipped(xlsxParts(c), 0)],
  ["ods", (c) => zipped(odsParts(c))],
  ["study file", (c) => strToU8(studyOf(c))],
];

/** So many files that are what they seem, of every form in turn. */
export function* wellFormed(count: number, seed: number): Generator<CorpusFile> {
  for (let i = 0; i < count; i++) {
    const random = new RandomStream(seed, i);
    const [kind, make] = FORMS[i % FORMS.length]!;
    const cells = randomCells(random);
    yield { kind, bytes: make(cells), cells };
  }
}

type Attack = (random: RandomStream, cells: Cells) => Uint8Array;

const whole = (random: RandomStream, cells: Cells): Uint8Array => pick(random, FORMS)[1](cells);

const flipped: Attack = (random, cells) => {
  const bytes = Uint8Array.from(whole(random, cells));
  const flips = 1 + Math.floor(random.uniform() * 20);
  for (let k = 0; k < flips; k++) {
    const at = Math.floor(random.uniform() * bytes.length);
    bytes[at] = bytes[at]! ^ (1 << Math.floor(random.uniform() * 8));
  }
  return bytes;
};

const truncated: Attack = (random, cells) => {
  const bytes = whole(random, cells);
  return bytes.slice(0, Math.floor(random.uniform() * bytes.length));
};

/**
 * Archives whose directory says what is not so: offsets, sizes, methods and counts of random
 * entries.
 */
const lying: Attack = (random, cells) => {
  const bytes = Uint8Array.from(zipped(pick(random, [xlsxParts, odsParts])(cells)));
  const view = new DataView(bytes.buffer);
  for (let at = 0; at + 46 < bytes.length; at++) {
    if (view.getUint32(at, true) !== 0x02014b50 || random.uniform() < 0.5) continue;
    const [offset, size] = pick(random, [
      [10, 2],
      [20, 4],
      [24, 4],
      [28, 2],
      [42, 4],
    ]) as [number, number];
    const value = pick(random, [
      0,
      1,
      0xffff,
      0xffffffff,
      Math.floor(random.uniform() * bytes.length),
    ]);
    if (size === 2) view.setUint16(at + offset, value & 0xffff, true);
    else view.setUint32(at + offset, value, true);
  }
  return bytes;
};

/** Every entry of the directory points to the same part, so that its bytes count many times. */
const overlapping: Attack = (random, cells) => {
  const parts: Record<string, string> = { ...xlsxParts(cells) };
  for (let k = 0; k < 200; k++) parts[`xl/extra${k}.xml`] = "x".repeat(50);
  const bytes = Uint8Array.from(zipped(parts));
  const view = new DataView(bytes.buffer);
  const target = Math.floor(random.uniform() * 200);
  for (let at = 0; at + 46 < bytes.length; at++)
    if (view.getUint32(at, true) === 0x02014b50) view.setUint32(at + 42, target, true);
  return bytes;
};

const bomb: Attack = (random, cells) => {
  const size = (60 + Math.floor(random.uniform() * 60)) * 1024 * 1024;
  const inner = pick(random, ["<c/>", " ", "<row><c><v>1</v></c></row>"]);
  const filler = new Uint8Array(size);
  const pattern = strToU8(inner);
  for (let i = 0; i < size; i++) filler[i] = pattern[i % pattern.length]!;
  const ods = random.uniform() < 0.5;
  const parts = ods ? odsParts(cells) : xlsxParts(cells);
  return zipped({ ...parts, [ods ? "content.xml" : "xl/worksheets/sheet1.xml"]: filler }, 9);
};

const entities: Attack = (random, cells) => {
  const laughs = Array.from({ length: 12 }, (_, k) =>
    k === 0 ? `<!ENTITY a0 "ha">` : `<!ENTITY a${k} "${`&a${k - 1};`.repeat(10)}">`,
  ).join("");
  const doctype = pick(random, [
    `<!DOCTYPE x [${laughs}]>`,
    `<!DOCTYPE x [<!ENTITY a11 SYSTEM "file:///etc/passwd">]>`,
    `<!DOCTYPE x SYSTEM "http://example.invalid/x.dtd">`,
  ]);
  const parts: Record<string, string> = random.uniform() < 0.5 ? odsParts(cells) : xlsxParts(cells);
  for (const name of Object.keys(parts))
    if (name.endsWith(".xml"))
      parts[name] = parts[name]!.replace("?>", `?>${doctype}`).replaceAll("r1", "&a11;");
  return zipped(parts);
};

const SURROGATES = ["\ud800", "\udfff", "\u0000", "\u202e", "\ufffe", "\u0007"];

const oddLetters: Attack = (random, cells) => {
  const odd = (text: string): string =>
    random.uniform() < 0.3 ? text + pick(random, SURROGATES) : text;
  const dirty = { names: cells.names.map(odd), rows: cells.rows.map((row) => row.map(odd)) };
  return pick(random, [
    () => strToU8(recordsOf(dirty)),
    () => utf16(csvOf(dirty), random.uniform() < 0.5),
    () => strToU8(csvOf(dirty)),
    () => utf32(csvOf(cells)),
    () => Uint8Array.from({ length: 2000 }, () => Math.floor(random.uniform() * 256)),
  ])();
};

const ragged: Attack = (random, cells) => {
  const lines = csvOf(cells).split("\n");
  return strToU8(
    lines
      .map((line) =>
        pick(random, [line, `${line},,,`, line.slice(0, 3), "", `${line}"`, `"${line}`, line]),
      )
      .join(pick(random, ["\n", "\r", "\r\n", "\n\r"])),
  );
};

const wide: Attack = (random, cells) => {
  const columns = Array.from({ length: 100_000 }, (_, j) => `v${j}`);
  return pick(random, [
    () => strToU8(`${columns.join(",")}\n${columns.map(() => "1").join(",")}\n`),
    () => strToU8(`id,text\na,${"x".repeat(4 * 1024 * 1024)}\nb,"${"y\n".repeat(500_000)}"\n`),
    () => strToU8(JSON.stringify([Object.fromEntries(columns.map((c) => [c, 1]))])),
    () => strToU8(`${"[".repeat(50_000)}${"]".repeat(50_000)}`),
    () =>
      zipped(
        odsParts({ names: ["a", "b"], rows: cells.rows.map((r) => [r[0]!, "x".repeat(200_000)]) }),
      ),
  ])();
};

/** A repeat count that claims a sheet of millions. */
const repeated: Attack = (random, cells) => {
  const parts = odsParts(cells);
  const many = pick(random, [1_048_576, 16_384, 4_000_000_000, -5, 1e300]);
  parts["content.xml"] = parts["content.xml"]!.replace(/<table:table-(row|cell) ?/g, (found) =>
    random.uniform() < 0.2
      ? `${found.trimEnd()} table:number-${found.includes("row") ? "rows" : "columns"}-repeated="${many}" `
      : found,
  );
  return zipped(parts);
};

const cellPlaces: Attack = (random, cells) => {
  const parts = xlsxParts(cells);
  const name = "xl/worksheets/sheet1.xml";
  parts[name] = parts[name]!.replace(/r="([A-Z])(\d+)"/g, (found) =>
    random.uniform() < 0.2
      ? `r="${pick(random, ["XFD1048576", "ZZZZZZZ1", "A0", "-1", "", "A99999999999", "1A"])}"`
      : found,
  );
  return zipped(parts);
};

/** Something else in one field of a study file. */
const oddStudy: Attack = (random, cells) => {
  const study = JSON.parse(studyOf(cells)) as Record<string, unknown>;
  const odd = pick<unknown>(random, [
    null,
    5,
    [],
    {},
    "x",
    [[]],
    { __proto__: null },
    -1e308,
    true,
  ]);
  const key = pick(random, [
    ...Object.keys(study),
    "settings",
    "variables",
    "filters",
    "derived",
    "log",
    "constructor",
  ]);
  study[key] = odd;
  if (random.uniform() < 0.3)
    study.theory = ["define toString as 0/0", "H1: a raises b through c".repeat(200)];
  return strToU8(JSON.stringify(study));
};

const ATTACKS: [kind: string, attack: Attack, weight: number][] = [
  ["flipped bits", flipped, 8],
  ["cut off", truncated, 6],
  ["lying archive", lying, 4],
  ["overlapping entries", overlapping, 1],
  ["archive bomb", bomb, 0.3],
  ["entities", entities, 1.5],
  ["odd letters and encodings", oddLetters, 4],
  ["ragged rows and stray quotes", ragged, 4],
  ["huge columns and cells", wide, 0.4],
  ["repeat counts", repeated, 2],
  ["impossible cell places", cellPlaces, 2],
  ["odd study files", oddStudy, 4],
];
const TOTAL = ATTACKS.reduce((sum, [, , weight]) => sum + weight, 0);

/** So many files that somebody or something has spoiled. */
export function* hostile(count: number, seed: number): Generator<CorpusFile> {
  for (let i = 0; i < count; i++) {
    const random = new RandomStream(seed, i);
    let at = random.uniform() * TOTAL;
    const [kind, attack] = ATTACKS.find(([, , weight]) => (at -= weight) < 0) ?? ATTACKS[0]!;
    yield { kind, bytes: attack(random, randomCells(random, random.uniform() < 0.5)), cells: null };
  }
}
