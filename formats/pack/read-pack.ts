import { strFromU8, unzipSync } from "fflate";
import { FormatProblem } from "../problem";
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
 * Reads the study and the evidence of an archive that was handed over.
 * @throws FormatProblem where it is none, or one of the two is missing
 */
export function readPack(bytes: Uint8Array): Pack {
  let unpacked = 0;
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (name !== STUDY && name !== EVIDENCE) return false;
        unpacked += originalSize;
        if (unpacked > MOST_BYTES)
          throw new FormatProblem("The archive is too large to be a study.");
        return true;
      },
    });
  } catch (error) {
    if (error instanceof FormatProblem) throw error;
    throw new FormatProblem("The archive is damaged: it cannot be unpacked.");
  }
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
