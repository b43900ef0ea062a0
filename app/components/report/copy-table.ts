import type { TableBlock } from "../../../core";
import { copyBoth, tabbed } from "../ui/clipboard";

/** Puts a table of the report into the clipboard. */
export async function copyReportTable(
  table: TableBlock,
  names: ReadonlyMap<string, string>,
): Promise<void> {
  const { htmlTable } = await import("../../../formats/report/html");
  await copyBoth(
    htmlTable(table, names),
    tabbed([
      table.columns.map((c) => c.head),
      ...table.rows.map((row) => row.cells.map((one) => one.text)),
    ]),
  );
}
