const DAY_MS = 86_400_000;

/**
 * A date number of a spreadsheet as ISO 8601: days since the end of 1899 (or since 1904), the
 * fraction being the time. Dates before March 1900 are one day off in the files themselves and stay
 * so.
 */
export function isoDate(serial: number, since1904: boolean): string {
  const base = since1904 ? Date.UTC(1904, 0, 1) : Date.UTC(1899, 11, 30);
  const seconds = Math.round(serial * 86_400);
  const date = new Date(base + seconds * 1000);
  if (Number.isNaN(date.getTime())) return String(serial);
  const text = date.toISOString();
  if (serial >= 0 && serial < 1) return text.slice(11, 19);
  return (base + seconds * 1000) % DAY_MS === 0 ? text.slice(0, 10) : text.slice(0, 19);
}

/** Built-in number formats of spreadsheets that show dates or times. */
const DATE_FORMATS = new Set([
  14, 15, 16, 17, 18, 19, 20, 21, 22, 27, 28, 29, 30, 31, 32, 33, 34, 35, 36, 45, 46, 47, 50, 51,
  52, 53, 54, 55, 56, 57, 58,
]);

/** Does this number format show a date or a time? */
export function isDateFormat(id: number, code: string | undefined): boolean {
  if (code === undefined) return DATE_FORMATS.has(id);
  const bare = code
    .replace(/"[^"]*"/g, "")
    .replace(/\\./g, "")
    .replace(/\[(?!h|m|s)[^\]]*\]/gi, "");
  return /[ymdhs]/i.test(bare) && !/general/i.test(bare);
}

/** Does this number format show a percentage? */
export const isPercentFormat = (id: number, code: string | undefined): boolean =>
  code === undefined ? id === 9 || id === 10 : /%/.test(code);
