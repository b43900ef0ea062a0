/**
 * Puts a table into the clipboard: as a table for a word processor, and as text with tabs between
 * cells.
 */
export const copyBoth = (html: string, text: string): Promise<void> =>
  // Pages that are served without encryption have no clipboard of their own.
  navigator.clipboard
    ? navigator.clipboard.write([
        new ClipboardItem({
          "text/html": new Blob([html], { type: "text/html" }),
          "text/plain": new Blob([text], { type: "text/plain" }),
        }),
      ])
    : copyAsTyped({ "text/html": html, "text/plain": text });

/** Puts a text into the clipboard. */
export const copyText = (text: string): Promise<void> =>
  navigator.clipboard ? navigator.clipboard.writeText(text) : copyAsTyped({ "text/plain": text });

/** What the keys for copying do, with these contents; works at a click only. */
function copyAsTyped(contents: Record<string, string>): Promise<void> {
  let taken = false;
  const fill = (event: ClipboardEvent): void => {
    for (const [type, text] of Object.entries(contents)) event.clipboardData!.setData(type, text);
    event.preventDefault();
    taken = true;
  };
  document.addEventListener("copy", fill, { once: true, capture: true });
  // Old, but the only way there is on such a page.
  document.execCommand("copy");
  document.removeEventListener("copy", fill, { capture: true });
  return taken ? Promise.resolve() : Promise.reject(new Error("The browser did not copy."));
}

/** Rows of cells as text: tabs between cells. */
export const tabbed = (rows: readonly (readonly string[])[]): string =>
  rows.map((row) => row.join("\t")).join("\n");
