/**
 * Puts a table into the clipboard: as a table for a word processor, and as text with tabs between
 * cells.
 */
export const copyBoth = (html: string, text: string): Promise<void> =>
  navigator.clipboard.write([
    new ClipboardItem({
      "text/html": new Blob([html], { type: "text/html" }),
      "text/plain": new Blob([text], { type: "text/plain" }),
    }),
  ]);

/** Rows of cells as text: tabs between cells. */
export const tabbed = (rows: readonly (readonly string[])[]): string =>
  rows.map((row) => row.join("\t")).join("\n");
