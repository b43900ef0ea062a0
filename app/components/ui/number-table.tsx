import Box from "@mui/material/Box";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableFooter from "@mui/material/TableFooter";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import type { ReactNode } from "react";
import { plain } from "../../../core";
import { isShown, type TableRowSpec } from "./cell";
import { Spacer } from "./layout";
import { Term } from "./term";
import { TableTools } from "./table-tools";

export { exportedCell, type Cell, type TableRowSpec } from "./cell";

export interface NumberTableProps {
  /** Of the table; also the name of its files. */
  title: string;
  /** Shown above it; null where a heading beside it says so already. */
  heading?: ReactNode;
  columns: readonly ReactNode[];
  /** Column heads as text, where they are shown as more than text. */
  names?: readonly string[];
  rows: readonly TableRowSpec[];
  /** Columns, beside the first, whose cells are words and stand to the left. */
  words?: readonly number[];
  note?: ReactNode;
  /** Without the ways to take it along, as in a tight corner. */
  plainly?: boolean;
  /** Columns of the same width in every table of this kind, so that several stand in line. */
  inLine?: boolean;
  /** At most so many rows are shown; files hold all. */
  most?: number;
}

/** The one table of numbers: hairlines, figures to the right, copied as a table by one click, exported in full. */
export function NumberTable({
  title,
  heading,
  columns,
  names,
  rows,
  words = [],
  note,
  plainly = false,
  inLine = false,
  most = Infinity,
}: NumberTableProps) {
  const heads = names ?? columns.map((column) => (typeof column === "string" ? column : ""));
  const align = (j: number) => (j === 0 ? FIRST : words.includes(j) ? LEFT : {});
  return (
    <Box sx={{ minWidth: 0 }}>
      {(heading !== undefined || !plainly) && (
        <Box sx={{ display: "flex", alignItems: "baseline", flexWrap: "wrap", gap: 1 }}>
          {heading}
          <Spacer />
          {!plainly && <TableTools title={title} heads={heads} rows={rows} />}
        </Box>
      )}
      {}
      <Box role="region" aria-label={title} tabIndex={0} sx={{ overflowX: "auto", minWidth: 0 }}>
        <Table sx={inLine ? IN_LINE : {}}>
          <caption className="visually-hidden">{title}</caption>
          <TableHead>
            <TableRow>
              {columns.map((column, j) => (
                <TableCell key={heads[j] || j} scope="col" sx={align(j)}>
                  {typeof column === "string" ? <Term>{column}</Term> : column}
                </TableCell>
              ))}
            </TableRow>
          </TableHead>
          <TableBody>
            {rows.slice(0, most).map((row) => (
              <Row key={row.key} row={row} align={align} />
            ))}
          </TableBody>
          {rows.length > most && (
            <TableFooter>
              <TableRow>
                <TableCell colSpan={columns.length}>
                  and {rows.length - most} more rows in the files
                </TableCell>
              </TableRow>
            </TableFooter>
          )}
        </Table>
      </Box>
      {note && (
        <Box sx={{ fontSize: 13, color: "var(--quiet)", pt: 0.75, maxWidth: "120ch" }}>{note}</Box>
      )}
    </Box>
  );
}

function Row({ row, align }: { row: TableRowSpec; align: (j: number) => object }) {
  return (
    <TableRow selected={row.selected ?? false}>
      {row.cells.map((cell, j) => (
        <TableCell
          key={j}
          {...(j === 0 ? { component: "th", scope: "row" } : {})}
          {...(isShown(cell) && cell.span ? { colSpan: cell.span } : {})}
          sx={{
            ...align(j),
            ...(isShown(cell) && cell.span ? WORDS : {}),
            ...(row.quiet ? { color: "var(--quiet)" } : {}),
          }}
        >
          {row.marked && j === 0 && <Mark />}
          {isShown(cell) ? cell.shown : typeof cell === "number" ? plain(cell) : (cell ?? "–")}
        </TableCell>
      ))}
    </TableRow>
  );
}

const IN_LINE = {
  tableLayout: "fixed",
  minWidth: 860,
  "& th[scope=col]:nth-of-type(1)": { width: "36%" },
  // Room for a whole interval to scale.
  "& th[scope=col]:last-of-type": { width: 134 },
};
const LEFT = { textAlign: "left" };
const FIRST = { ...LEFT, paddingLeft: 0, whiteSpace: "normal", minWidth: "8ch" };
const WORDS = { whiteSpace: "normal", textAlign: "left", color: "var(--quiet)" };
const Mark = () => (
  <Box component="span" role="img" aria-label="deserves a look" sx={{ color: "var(--rust)" }}>
    ◆{" "}
  </Box>
);
