import { strFromU8, unzipSync } from "fflate";
import { EVIDENCE, STUDY } from "./names";

/** What became of one file of an archive that was made again. */
export interface FileComparison {
  name: string;
  state: "same" | "different" | "missing" | "unknown";
  /** Where it differs first, and how; null where it does not, or where that says nothing. */
  where: { line: number; kept: string; now: string } | null;
}

/** These are compared number by number, or are what the rest is made from. */
const ELSEWHERE = new Set([STUDY, EVIDENCE]);

/**
 * Compares the files of an archive with those that its study gives now: byte by byte, and of a
 * word-processor document its words, since its pictures are drawn anew by each program.
 * @param kept,now files by name
 */
export function compareFiles(
  kept: Readonly<Record<string, Uint8Array>>,
  now: Readonly<Record<string, Uint8Array>>,
): FileComparison[] {
  const names = [...new Set([...Object.keys(kept), ...Object.keys(now)])];
  return names
    .filter((name) => !ELSEWHERE.has(name) && !name.endsWith("/"))
    .sort((a, b) => (a < b ? -1 : 1))
    .map((name): FileComparison => {
      const [was, is] = [kept[name], now[name]];
      if (!was) return { name, state: "missing", where: null };
      if (!is) return { name, state: "unknown", where: null };
      const where = firstDifference(linesOf(name, was), linesOf(name, is));
      return { name, state: where ? "different" : "same", where };
    });
}

/** A file line by line; of a word-processor document each paragraph is one. */
function linesOf(name: string, bytes: Uint8Array): string[] {
  if (!name.endsWith(".docx")) return strFromU8(bytes).split("\n");
  try {
    const inside = unzipSync(bytes, { filter: (file) => file.name === "word/document.xml" });
    return [...strFromU8(inside["word/document.xml"]!).matchAll(/<w:p[ >].*?<\/w:p>/gs)].map(
      ([paragraph]) =>
        [...paragraph.matchAll(/<w:t(?: [^>]*)?>(.*?)<\/w:t>/gs)].map((run) => run[1]).join(""),
    );
  } catch {
    return ["It cannot be opened."];
  }
}

function firstDifference(kept: readonly string[], now: readonly string[]): FileComparison["where"] {
  const most = Math.max(kept.length, now.length);
  for (let i = 0; i < most; i++)
    if (kept[i] !== now[i])
      return { line: i + 1, ...apart(kept[i] ?? "nothing", now[i] ?? "nothing") };
  return null;
}

/** Characters told before and after the place where two lines part. */
const BEFORE = 20;
const TOLD = 60;

/** Two lines about the place where they part. */
function apart(kept: string, now: string): { kept: string; now: string } {
  let at = 0;
  while (at < kept.length && kept[at] === now[at]) at++;
  const from = Math.max(0, at - BEFORE);
  return { kept: kept.slice(from, from + TOLD), now: now.slice(from, from + TOLD) };
}
