import { Inflate } from "fflate";
import { FormatProblem } from "../problem";
import { crc32 } from "./crc";

/** One file within an archive. */
interface Entry {
  method: number;
  compressed: number;
  offset: number;
  /** What the bytes must come to when they are unpacked. */
  crc: number;
}

/**
 * More inflated bytes than this, or this many times the compressed ones, is no spreadsheet of
 * answers.
 */
const MAX_INFLATED = 3 * 1024 ** 3;
const MAX_RATIO = 250;
const RATIO_COUNTS_FROM = 40 * 1024 ** 2;
const CHUNK = 1 << 16;

const DAMAGED =
  "This workbook is damaged: its parts cannot be unpacked. Open it in a spreadsheet program, save it again, and import that.";

/** Reads the parts of a workbook one at a time, never more of them than is asked for. */
export class Archive {
  private readonly entries: Map<string, Entry>;

  /** @throws FormatProblem for an archive that cannot be read */
  constructor(private readonly bytes: Uint8Array) {
    this.entries = readDirectory(bytes);
  }

  has(name: string): boolean {
    return this.entries.has(name);
  }

  /**
   * Inflates a part as text, chunk by chunk.
   * @param take returns false when it has seen enough
   * @param progress share of the compressed bytes that have been read
   * @returns whether the part was read to its end, and is what was packed
   * @throws FormatProblem for a part that is missing, damaged, or inflates beyond all measure
   */
  stream(
    name: string,
    take: (text: string) => boolean,
    progress: (share: number) => void = () => undefined,
  ): boolean {
    const entry = this.entries.get(name);
    if (!entry)
      throw new FormatProblem(
        `This workbook lacks its part “${name}”. Save it again in a spreadsheet program, and import that.`,
      );
    const data = this.dataOf(entry);
    const decoder = new TextDecoder();
    let inflated = 0;
    let crc = 0;
    let goesOn = true;
    const emit = (chunk: Uint8Array): void => {
      if (!goesOn) return;
      inflated += chunk.length;
      crc = crc32(chunk, crc);
      if (
        inflated > MAX_INFLATED ||
        (inflated > RATIO_COUNTS_FROM && inflated > MAX_RATIO * entry.compressed)
      ) {
        throw new FormatProblem(
          "This file unpacks to far more than a sheet of answers could hold, so reading was stopped. If it really is your data, save the sheet as CSV and import that.",
        );
      }
      goesOn = take(decoder.decode(chunk, { stream: true }));
    };
    const inflate = entry.method === 8 ? new Inflate(emit) : null;
    try {
      for (let at = 0; at < data.length && goesOn; at += CHUNK) {
        const chunk = data.subarray(at, at + CHUNK);
        const last = at + CHUNK >= data.length;
        if (inflate) inflate.push(chunk, last);
        else emit(chunk);
        progress(Math.min(1, (at + CHUNK) / data.length));
      }
    } catch (error) {
      if (error instanceof FormatProblem) throw error;
      throw new FormatProblem(DAMAGED);
    }
    if (goesOn && crc !== entry.crc)
      throw new FormatProblem(
        `This workbook is damaged: its part “${name}” is not what was saved, so its cells may be wrong. Fetch the file again, or save it again in a spreadsheet program.`,
      );
    return goesOn;
  }

  /** A small part whole. */
  text(name: string): string {
    let all = "";
    this.stream(name, (text) => {
      all += text;
      return true;
    });
    return all;
  }

  private dataOf({ offset, compressed, method }: Entry): Uint8Array {
    const view = viewOf(this.bytes);
    if (offset + 30 > this.bytes.length || view.getUint32(offset, true) !== 0x04034b50)
      throw new FormatProblem(DAMAGED);
    if (method !== 0 && method !== 8)
      throw new FormatProblem(
        "This workbook is packed in a way that cannot be read here. Save the sheet as CSV and import that.",
      );
    const start =
      offset + 30 + view.getUint16(offset + 26, true) + view.getUint16(offset + 28, true);
    return this.bytes.subarray(start, start + compressed);
  }
}

const viewOf = (bytes: Uint8Array): DataView =>
  new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

/**
 * What the files of a zip archive come to when they are unpacked whole, by their names.
 * @throws FormatProblem for an archive whose directory cannot be read
 */
export const checksumsOf = (bytes: Uint8Array): Map<string, number> =>
  new Map([...readDirectory(bytes)].map(([name, { crc }]) => [name, crc]));

/** The central directory at the end of a zip archive. */
function readDirectory(bytes: Uint8Array): Map<string, Entry> {
  const view = viewOf(bytes);
  let end = -1;
  for (let at = bytes.length - 22; at >= Math.max(0, bytes.length - 65_557); at--) {
    if (view.getUint32(at, true) === 0x06054b50) {
      end = at;
      break;
    }
  }
  if (end < 0)
    throw new FormatProblem(
      "This file begins like a workbook but its end is missing: it was not downloaded or copied completely.",
    );
  const entries = new Map<string, Entry>();
  const count = view.getUint16(end + 10, true);
  let at = view.getUint32(end + 16, true);
  const decoder = new TextDecoder();
  for (let i = 0; i < count; i++) {
    if (at + 46 > bytes.length || view.getUint32(at, true) !== 0x02014b50)
      throw new FormatProblem(DAMAGED);
    const length = view.getUint16(at + 28, true);
    const name = decoder.decode(bytes.subarray(at + 46, at + 46 + length));
    const compressed = view.getUint32(at + 20, true);
    const offset = view.getUint32(at + 42, true);
    if (compressed === 0xffffffff || offset === 0xffffffff) {
      throw new FormatProblem(
        "This workbook is larger than 4 GB. Save the sheet as CSV with only the columns you need.",
      );
    }
    const crc = view.getUint32(at + 16, true);
    entries.set(name, { method: view.getUint16(at + 10, true), compressed, offset, crc });
    at += 46 + length + view.getUint16(at + 30, true) + view.getUint16(at + 32, true);
  }
  return entries;
}
