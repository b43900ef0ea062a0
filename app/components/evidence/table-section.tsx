import Typography from "@mui/material/Typography";
import { pValue, type Section } from "../../../core";
import { NumberTable, type Cell } from "../ui/number-table";

/** A table that an engine brings of its own. */
export function TableSection({ section }: { section: Extract<Section, { kind: "table" }> }) {
  const { title, columns, rows, note } = section;
  return (
    <section aria-label={title}>
      <NumberTable
        title={title}
        heading={<Typography variant="h2">{title}</Typography>}
        columns={columns.map(({ label }) => label)}
        rows={rows.map((row, i) => ({
          key: String(i),
          cells: columns.map(({ key, kind }): Cell => {
            const value = row[key] ?? null;
            return kind === "p" && typeof value === "number"
              ? { shown: pValue(value, false), value }
              : value;
          }),
        }))}
        words={columns.flatMap(({ kind }, j) => (kind === "words" ? [j] : []))}
        note={note}
      />
    </section>
  );
}
