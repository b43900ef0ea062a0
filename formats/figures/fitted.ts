/** Of a letter of the sans, as a share of the font size: enough to know whether words fit. */
const LETTER = 0.52;

/**
 * How wide words are, roughly, in the unit of the size.
 * @param letter of one letter, as a share of the size
 */
export const textWidth = (text: string, size: number, letter = LETTER): number =>
  text.length * size * letter;

/** Words as far as they fit on a line. @returns the text, or its beginning and an ellipsis */
export function fitted(text: string, width: number, size: number, letter = LETTER): string {
  const most = Math.max(2, Math.floor(width / (size * letter)));
  return text.length > most ? `${text.slice(0, most - 1).trimEnd()}…` : text;
}

/**
 * Words on at most two lines, broken between words where that is possible.
 * @returns one line where it fits; the second ends in an ellipsis where even two do not do
 */
export function onTwoLines(text: string, width: number, size: number, letter = LETTER): string[] {
  const most = Math.max(2, Math.floor(width / (size * letter)));
  if (text.length <= most) return [text];
  const space = text.lastIndexOf(" ", most);
  const end = space > most / 2 ? space : most;
  return [text.slice(0, end).trimEnd(), fitted(text.slice(end).trimStart(), width, size, letter)];
}
