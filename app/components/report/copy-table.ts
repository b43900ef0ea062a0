import type { TableBlock } from "../../../core";

/** Puts a table into the clipboard: as a table for a word processor, and as text with tabs between cells. */
export async function copyReportTable(
  table: TableBlock,
  names: ReadonlyMap<string, string>,
): Promise<void> {
  const { htmlTable } = await import("../../../formats/report/html");
  const html = new Blob([htmlTable(table, names)], { type: "text/html" });
  const lines = [
    table.columns.map((c) => c.head),
    ...table.rows.map((row) => row.cells.map((c) => c.text)),
  ];
  const text = new Blob([lines.map((line) => line.join("\t")).join("\n")], { type: "text/plain" });
  await navigator.clipboard.write([new ClipboardItem({ "text/html": html, "text/plain": text })]);
}
