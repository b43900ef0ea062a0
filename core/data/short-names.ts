/** A header that is a wording rather than a name: longer than this, or of this many words. */
const LONG = 28;
const MANY_WORDS = 5;
/** A code before a wording: “Q12. How often …”, “a3 I feel …”, “[F01_02] …”. */
const CODED = /^[[(]?([A-Za-zÀ-ž]{1,8}[_-]?\d{1,4}(?:[_-]\d{1,3})?[a-z]?)[\])]?\s*[.:;)\]–-]?\s+\S/;
const WORDS_KEPT = 2;

const isWording = (header: string): boolean =>
  header.length > LONG || header.trim().split(/\s+/).length >= MANY_WORDS;

/**
 * Short names for headers that are whole wordings, in the order of the headers: the code that
 * stands before a wording; for neighbours that begin alike, what they share and a running number;
 * else the first words that say something. Other headers keep their name, and no name comes twice.
 * @returns the names, or null where no header is a wording
 * @example shortNames(["Agreement: I feel at home here", "Agreement: I know many people here"])
 *   // ["agreement_1", "agreement_2"]
 */
export function shortNames(headers: readonly string[]): string[] | null {
  if (!headers.some(isWording)) return null;
  const taken = new Set(headers.filter((h) => !isWording(h)));
  const free = (wanted: string): string => {
    let name = wanted;
    for (let k = 2; taken.has(name); k++) name = `${wanted}_${k}`;
    taken.add(name);
    return name;
  };
  const names: string[] = [];
  for (let at = 0; at < headers.length;) {
    const header = headers[at]!;
    const code = CODED.exec(header)?.[1];
    if (!isWording(header) || (code !== undefined && !taken.has(code))) {
      names.push(isWording(header) ? free(code!) : header);
      at += 1;
      continue;
    }
    const { stem, until } = beginningAlike(headers, at);
    if (stem === null) {
      names.push(free(slug(header, WORDS_KEPT) || `column_${at + 1}`));
      at += 1;
      continue;
    }
    for (let k = 1; at < until; at++, k++) names.push(free(`${stem}_${k}`));
  }
  return names;
}

/** Neighbouring wordings from here on that share their first words, and a stem made of these. */
function beginningAlike(
  headers: readonly string[],
  from: number,
): { stem: string | null; until: number } {
  let shared = words(headers[from]!);
  let until = from + 1;
  for (; until < headers.length && isWording(headers[until]!); until++) {
    const next = common(shared, words(headers[until]!));
    if (slug(next.join(" "), WORDS_KEPT) === "") break;
    shared = next;
  }
  const stem = until > from + 1 ? slug(shared.join(" "), WORDS_KEPT) : "";
  return stem === "" ? { stem: null, until: from + 1 } : { stem, until };
}

const words = (text: string): string[] => text.split(/[\s:;,.[\]()–-]+/).filter((w) => w !== "");

function common(a: readonly string[], b: readonly string[]): string[] {
  let k = 0;
  while (k < a.length && k < b.length && a[k]!.toLowerCase() === b[k]!.toLowerCase()) k++;
  return a.slice(0, k);
}

/** The first words of four letters and more (shorter ones where there are no others). */
function slug(text: string, most: number): string {
  const all = words(text)
    .map((w) => w.toLowerCase().replace(/[^\p{L}\p{N}_]/gu, ""))
    .filter((w) => /^\p{L}/u.test(w));
  const telling = all.filter((w) => w.length >= 4);
  return (telling.length > 0 ? telling : all.filter((w) => w.length >= 2))
    .slice(0, most)
    .map((w) => w.slice(0, 16))
    .join("_");
}
