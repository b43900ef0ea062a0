import { FormatProblem } from "./problem";

/** Beginnings of files that are not text, with what they are. */
const SIGNATURES: [number[], string][] = [
  [[0x50, 0x4b, 0x03, 0x04], "a zip archive (or a spreadsheet workbook)"],
  [[0xd0, 0xcf, 0x11, 0xe0], "an old binary office document"],
  [[0x25, 0x50, 0x44, 0x46], "a PDF document"],
  [[0x89, 0x50, 0x4e, 0x47], "a PNG picture"],
  [[0xff, 0xd8, 0xff], "a JPEG picture"],
  [[0x1f, 0x8b], "a gzip archive"],
];

/**
 * Decodes the bytes of a text file: UTF-8 or UTF-16 by their byte-order mark, UTF-8 when valid,
 * else Windows Latin-1.
 * @throws FormatProblem for bytes that are not text
 */
export function decodeText(bytes: Uint8Array): string {
  for (const [signature, what] of SIGNATURES) {
    if (signature.every((byte, i) => bytes[i] === byte)) {
      throw new FormatProblem(
        `This file is ${what}, not text. Save the sheet as CSV and import that.`,
      );
    }
  }
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder("utf-16le").decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder("utf-16be").decode(bytes);
  const zero = bytes.indexOf(0);
  if (zero >= 0) {
    throw new FormatProblem(
      `This file holds bytes that are not text (the first on line ${lineOf(bytes, zero)}). Save the sheet as CSV and import that.`,
    );
  }
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    refuseDamaged(bytes);
    return new TextDecoder("windows-1252").decode(bytes);
  }
}

const lineOf = (bytes: Uint8Array, at: number): number =>
  bytes.subarray(0, at).reduce((line, byte) => line + (byte === 10 ? 1 : 0), 1);

/**
 * Text in UTF-8 with a byte that belongs to none is damaged, and no text in another encoding: that
 * would turn every letter beyond English into two others. In Latin-1 such letters stand alone, so
 * hardly any two of them make one of UTF-8.
 * @throws FormatProblem naming the first such byte by its line and place
 */
function refuseDamaged(bytes: Uint8Array): void {
  let [sound, unsound, first] = [0, 0, -1];
  for (let at = 0; at < bytes.length;) {
    const length = lengthAt(bytes, at);
    if (length > 1) sound += 1;
    if (length === 0) {
      unsound += 1;
      if (first < 0) first = at;
    }
    at += Math.max(1, length);
  }
  if (sound <= unsound) return;
  const line = lineOf(bytes, first);
  const begin = bytes.lastIndexOf(10, first) + 1;
  const column = new TextDecoder().decode(bytes.subarray(begin, first)).length + 1;
  throw new FormatProblem(
    `Line ${line}, place ${column} of this file holds a byte (0x${bytes[first]!.toString(16).toUpperCase()}) that belongs to no letter, though the rest is text in UTF-8${unsound > 1 ? `; ${unsound - 1} more follow` : ""}. The file was damaged or put together from two: open it in an editor, mend that place, and save it as UTF-8.`,
  );
}

/** Bytes of the letter that begins here in UTF-8; 0 where none does. */
function lengthAt(bytes: Uint8Array, at: number): number {
  const byte = bytes[at]!;
  if (byte < 0x80) return 1;
  const length =
    byte >= 0xc2 && byte < 0xe0
      ? 2
      : byte >= 0xe0 && byte < 0xf0
        ? 3
        : byte >= 0xf0 && byte < 0xf5
          ? 4
          : 0;
  for (let i = 1; i < length; i++) if ((bytes[at + i] ?? 0) >> 6 !== 2) return 0;
  return length;
}
