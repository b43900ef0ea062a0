import { Table, TableBody, TableCell, TableHead, TableRow, Typography } from "@mui/material";
import { plain, type Section } from "../../../core";
import { Wide } from "../wide";

/** A table that an engine brings of its own. */
export function TableSection({ section }: { section: Extract<Section, { kind: "table" }> }) {
  const { title, columns, rows, note } = section;
  return (
    <section aria-label={title}>
      <Typography variant="h2">{title}</Typography>
      <Wide label={title}>
        <Table size="small" className="numbers">
          <TableHead>
            <TableRow>
              {columns.map(({ key, label }) => (
                <TableCell key={key} scope="col">
                  {label}
                </TableCell>
              ))}
            </TableRow>
          </TableHead>
          <TableBody>
            {rows.map((row, i) => (
              <TableRow key={i}>
                {columns.map(({ key }) => (
                  <TableCell key={key}>{wordsOf(row[key] ?? null)}</TableCell>
                ))}
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </Wide>
      {note && <p className="quiet">{note}</p>}
    </section>
  );
}

const wordsOf = (cell: number | string | null): string =>
  typeof cell === "number" ? plain(cell) : (cell ?? "–");
