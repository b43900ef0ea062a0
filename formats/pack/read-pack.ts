import { strFromU8, unzipSync } from "fflate";
import { FormatProblem } from "../problem";
import { checksumsOf } from "../workbook/archive";
import { crc32 } from "../workbook/crc";
import { readStudy, parseJson, type LoadedStudy } from "../study-file";
import { EVIDENCE, STUDY } from "./names";

/** More than this when unpacked is no study but a trap. */
const MOST_BYTES = 512 * 1024 * 1024;

export interface Pack {
  study: LoadedStudy;
  /** What was found when the pack was made. */
  evidence: unknown;
}

/** Does a file begin as an archive does? */
export const looksLikePack = (bytes: Uint8Array): boolean =>
  bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 3 && bytes[3] === 4;

/** Is it an archive that was handed over? A workbook is an archive, too. */
export function isPack(bytes: Uint8Array): boolean {
  if (!looksLikePack(bytes)) return false;
  let found = false;
  try {
    unzipSync(bytes, {
      filter: ({ name }) => {
        found ||= name === STUDY;
        return false;
      },
    });
  } catch {
    return false;
  }
  return found;
}

/**
 * The files of an archive by their names.
 * @param wanted which of them
 * @throws FormatProblem where it cannot be unpacked, or holds more than a study could
 */
export function filesOf(
  bytes: Uint8Array,
  wanted: (name: string) => boolean = () => true,
): Record<string, Uint8Array> {
  let unpacked = 0;
  let files: Record<string, Uint8Array>;
  let checksums: Map<string, number>;
  try {
    checksums = checksumsOf(bytes);
    files = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (!wanted(name)) return false;
        unpacked += originalSize;
        if (unpacked > MOST_BYTES)
          throw new FormatProblem("The archive is too large to be a study.");
        return true;
      },
    });
  } catch (error) {
    if (error instanceof FormatProblem && error.message.includes("too large")) throw error;
    throw new FormatProblem("The archive is damaged: it cannot be unpacked.");
  }
  for (const [name, file] of Object.entries(files))
    if (crc32(file) !== checksums.get(name))
      throw new FormatProblem(
        `The archive is damaged: its “${name}” is not what was packed. Fetch the archive again.`,
      );
  return files;
}

/**
 * Reads the study and the evidence of an archive that was handed over.
 * @throws FormatProblem where it is none, or one of the two is missing
 */
export function readPack(bytes: Uint8Array): Pack {
  const files = filesOf(bytes, (name) => name === STUDY || name === EVIDENCE);
  const missing = [STUDY, EVIDENCE].find((name) => !files[name]);
  if (missing !== undefined)
    throw new FormatProblem(
      `The archive holds no “${missing}”, so it is not one that the Report screen hands over.`,
    );
  return {
    study: readStudy(strFromU8(files[STUDY]!)),
    evidence: parseJson(strFromU8(files[EVIDENCE]!)),
  };
}
