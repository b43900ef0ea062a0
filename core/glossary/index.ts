import { EFFECTS } from "./effects";
import type { GlossaryEntry } from "./entry";
import { EQUATIONS } from "./equations";
import { INFERENCE } from "./inference";
import { MEASUREMENT } from "./measurement";
import { PLANNING } from "./planning";
import { ORDERED } from "./ordered";
import { STRUCTURE } from "./structure";

export type { GlossaryEntry } from "./entry";

/** Terms with their definitions, in alphabetical order; screens explain their words from here. */
export const GLOSSARY: readonly GlossaryEntry[] = [
  ...EFFECTS,
  ...EQUATIONS,
  ...INFERENCE,
  ...MEASUREMENT,
  ...PLANNING,
  ...STRUCTURE,
  ...ORDERED,
].sort((a, b) => a.term.toLowerCase().localeCompare(b.term.toLowerCase(), "en"));

const BY_WORD = new Map(
  GLOSSARY.flatMap((entry) =>
    [entry.term, ...(entry.also ?? [])].map((word) => [word.toLowerCase(), entry] as const),
  ),
);

/**
 * The same heading without what is particular about it: "95 % CI lower" is a "CI lower", "SE (HC3)"
 * an "SE", "p of the ratio" a "p", "BCa CI" a "CI".
 */
const bare = (heading: string): string =>
  heading
    .replace(/^[\d.,]+\s*%\s+/, "")
    .replace(/\s+\([^)]*\)$/, "")
    .replace(/\s+of (the \w+|it)$/, "")
    .replace(/ (width|over samples)$/, "")
    .replace(/^.+ ci$/, "ci")
    .replace(/^mean se$/, "se")
    .replace(/^se .+$/, "se")
    .trim();

/** The entry of a term or of a heading that names one, upper and lower case alike. */
export function glossaryEntry(heading: string): GlossaryEntry | undefined {
  const whole = heading.trim().toLowerCase();
  return BY_WORD.get(whole) ?? BY_WORD.get(bare(whole));
}

/**
 * Entries that have these letters: the term itself first, then terms that begin with them, that
 * hold them, definitions that do.
 */
export function findTerms(letters: string): readonly GlossaryEntry[] {
  const query = letters.trim().toLowerCase();
  if (query === "") return GLOSSARY;
  const rank = ({ term, also = [], definition }: GlossaryEntry): number => {
    const words = [term, ...also].map((word) => word.toLowerCase());
    if (words.includes(query)) return 0;
    if (words.some((word) => word.startsWith(query))) return 1;
    if (words.some((word) => word.includes(query))) return 2;
    return definition.toLowerCase().includes(query) ? 3 : 4;
  };
  return GLOSSARY.map((entry) => ({ entry, at: rank(entry) }))
    .filter(({ at }) => at < 4)
    .sort((a, b) => a.at - b.at)
    .map(({ entry }) => entry);
}
