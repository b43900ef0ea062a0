/** What JSON says that is lost when it is read: a second value of a key, digits beyond 2^53. */
export interface JsonLosses {
  /** Keys that an entry of the outermost list has twice; the entry, from 1. */
  doubled: { key: string; entry: number }[];
  /** Whole numbers as they are written whose last digits no computer number holds. */
  long: string[];
}

const TOKEN = /"(?:[^"\\]|\\.)*"|-?\d[\d.eE+-]*|[{}[\],:]/gs;

/** @param text valid JSON, a list of objects */
export function jsonLosses(text: string): JsonLosses {
  const losses: JsonLosses = { doubled: [], long: [] };
  let depth = 0;
  let entry = 0;
  let keys = new Set<string>();
  let before = "";
  for (const [token] of text.matchAll(TOKEN)) {
    if (token === "{" || token === "[") {
      depth += 1;
      if (depth === 2) {
        entry += 1;
        keys = new Set();
      }
    } else if (token === "}" || token === "]") depth -= 1;
    else if (token === ":" && depth === 2) {
      if (keys.has(before)) losses.doubled.push({ key: JSON.parse(before) as string, entry });
      keys.add(before);
    } else if (/^-?\d+$/.test(token) && !Number.isSafeInteger(Number(token)))
      losses.long.push(token);
    before = token;
  }
  return losses;
}

/** The same in sentences, for somebody who imports the file. */
export function lossNotes({ doubled, long }: JsonLosses): string[] {
  const notes: string[] = [];
  const [first] = doubled;
  if (first)
    notes.push(
      `Entry ${first.entry} has two values of “${first.key}”${doubled.length > 1 ? `, and so it is at ${doubled.length - 1} more places` : ""}; the later one was taken.`,
    );
  if (long[0] !== undefined)
    notes.push(
      `${long.length === 1 ? "One number has" : `${long.length} numbers have`} more digits than a number keeps (${long[0]}${long.length > 1 ? ", …" : ""}): the last ones are lost. Identifiers are safe as texts, in quotation marks.`,
    );
  return notes;
}
