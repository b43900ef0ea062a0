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
  if (bytes.subarray(0, 4096).includes(0)) {
    throw new FormatProblem(
      "This file holds bytes that are not text. Save the sheet as CSV and import that.",
    );
  }
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder("windows-1252").decode(bytes);
  }
}
