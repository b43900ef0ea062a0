/** Characters that the name of a sheet cannot have. */
const FORBIDDEN = /[\\/?*[\]:]/g;
/** Controls, halves of pairs alone and noncharacters: no XML may hold them. */
const UNWRITABLE = /[\p{Cc}\p{Cs}\uFDD0-\uFDEF\uFFFE\uFFFF]/gu;
const MOST = 31;
/** A name that the format keeps for itself. */
const RESERVED = "history";

/**
 * A name for a sheet by all rules of workbooks: none of \ / ? * [ ] :, no apostrophe at either end,
 * at most 31 UTF-16 units, not “History”, and none twice, in whatever case.
 * @param taken names in lower case; the new one joins them
 */
export function sheetName(wanted: string, taken: Set<string>): string {
  const clean = wanted.replace(UNWRITABLE, " ").replace(FORBIDDEN, " ").replace(/\s+/g, " ");
  const short = (text: string, most: number): string => {
    let kept = "";
    for (const letter of text)
      if (kept.length + letter.length <= most) kept += letter;
      else break;
    return kept.replace(/^['\s]+|['\s]+$/g, "");
  };
  const first = short(clean, MOST) || "Table";
  const base = first.toLowerCase() === RESERVED ? `${first} 1` : first;
  let name = base;
  for (let k = 2; taken.has(name.toLowerCase()); k++)
    name = `${short(base, MOST - String(k).length - 1)} ${k}`;
  taken.add(name.toLowerCase());
  return name;
}
