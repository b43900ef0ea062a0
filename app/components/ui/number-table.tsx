import Box from "@mui/material/Box";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableFooter from "@mui/material/TableFooter";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Link from "@mui/material/Link";
import { useEffect, useId, useRef, useState, type ReactNode } from "react";
import { plain } from "../../../core";
import { isShown, type Cell, type TableRowSpec } from "./cell";
import { Spacer } from "./layout";
import { Term } from "./term";
import { TableTools } from "./table-tools";
import { Steps } from "./working-view";

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

/**
 * The one table of numbers: hairlines, figures to the right, copied as a table by one click,
 * exported in full.
 */
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
  const [asked, setAsked] = useState<string | null>(null);
  const id = useId();
  const beneath = useRef<HTMLDivElement>(null);
  // Beneath a long table it would stand out of sight.
  useEffect(() => {
    if (asked !== null) beneath.current?.scrollIntoView({ block: "nearest" });
  }, [asked]);
  const told = rows.find((row) => row.key === asked)?.working?.() ?? null;
  const choice = ({ key, working, choose, label }: TableRowSpec): Choice | null =>
    working
      ? {
          chosen: key === asked,
          beneath: id,
          label,
          choose: () => {
            setAsked(key === asked ? null : key);
            choose?.();
          },
        }
      : null;
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
              <Row key={row.key} row={row} align={align} choice={choice(row)} />
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
      <div id={id} ref={beneath}>
        {told && (
          <Box sx={{ borderLeft: "2px solid var(--petrol)", pl: 2, py: 0.5, my: 1.5 }}>
            <Steps working={told} />
          </Box>
        )}
      </div>
      {note && (
        <Box sx={{ fontSize: 13, color: "var(--quiet)", pt: 0.75, maxWidth: "120ch" }}>{note}</Box>
      )}
    </Box>
  );
}

/** A row whose working can be asked for. */
interface Choice {
  chosen: boolean;
  /** Where the working stands. */
  beneath: string;
  label: string | undefined;
  choose: () => void;
}

/** The head of a row, as the way to its working. */
function Asking({ choice, children }: { choice: Choice; children: ReactNode }) {
  return (
    <Link
      component="button"
      color="inherit"
      aria-expanded={choice.chosen}
      aria-controls={choice.beneath}
      aria-label={choice.label}
      title="Where these numbers come from"
      onClick={choice.choose}
      sx={{
        textAlign: "left",
        font: "inherit",
        textDecoration: "underline dotted",
        textDecorationColor: "var(--quiet)",
        textUnderlineOffset: "3px",
        "&:hover": { textDecorationStyle: "solid" },
      }}
    >
      {children}
    </Link>
  );
}

const shownOf = (cell: Cell): ReactNode =>
  isShown(cell) ? cell.shown : typeof cell === "number" ? plain(cell) : (cell ?? "–");

function Row({
  row,
  align,
  choice,
}: {
  row: TableRowSpec;
  align: (j: number) => object;
  choice: Choice | null;
}) {
  return (
    <TableRow selected={(row.selected ?? false) || (choice?.chosen ?? false)}>
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
          {j === 0 && choice ? <Asking choice={choice}>{shownOf(cell)}</Asking> : shownOf(cell)}
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
