/** A term of the trade as the screens use it. */
export interface GlossaryEntry {
  term: string;
  /** Other words and headings that mean the same. */
  also?: readonly string[];
  definition: string;
  formula?: string;
  /** Where it comes from. */
  source?: string;
}
