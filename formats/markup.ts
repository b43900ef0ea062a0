/** Control characters but tab and line feed, halves of pairs, and code points that are no characters. */
const UNPRINTABLE = /(?![\t\n])[\p{Cc}\p{Cs}\p{Noncharacter_Code_Point}]/gu;
const LINE_ENDS = /[\p{Cc}\p{Zl}\p{Zp}]+/gu;

/** Without the characters that no XML, and so no document or workbook, can hold. */
export const printable = (text: string): string => text.replace(UNPRINTABLE, "");

/** On one line whatever ends lines in it, for titles, cells and comments. */
export const oneLine = (text: string): string => printable(text.replace(LINE_ENDS, " "));

/** Text as it stands between and within tags of HTML and SVG. */
export const escapedMarkup = (text: string): string =>
  printable(text).replace(
    /[&<>"]/g,
    (mark) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[mark]!,
  );
