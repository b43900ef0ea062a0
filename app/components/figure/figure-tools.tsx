import Button from "@mui/material/Button";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableFooter from "@mui/material/TableFooter";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Papa from "papaparse";
import { useState, type RefObject } from "react";
import { plain } from "../../../core";
import { neutralise } from "../../../formats";
import { Wide } from "../wide";
import { download, fileName } from "../download";
import { savePng, saveSvg } from "./export-picture";
import "./figure.css";

/** Numbers behind a picture: texts name, numbers are shown rounded and exported in full. */
export interface NumberTable {
  title: string;
  head: string[];
  rows: (string | number | null)[][];
}

interface Props {
  /** Holds the pictures, one beneath the other. */
  target: RefObject<HTMLElement | null>;
  /** Of the files. */
  name: string;
  caption: string;
  numbers: () => NumberTable[];
}

/** A picture as a file, and its numbers as a table to read and to take along. */
export function FigureTools({ target, name, caption, numbers }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <div className="figure-tools">
      <div className="figure-buttons" role="group" aria-label={`Take along: ${name}`}>
        <Button onClick={() => target.current && saveSvg(target.current, caption, name)}>
          SVG
        </Button>
        <Button onClick={() => target.current && void savePng(target.current, caption, name)}>
          PNG
        </Button>
        <Button onClick={() => download(fileName(name, ".csv"), csvOf(numbers()), "text/csv")}>
          Numbers as CSV
        </Button>
        <Button variant="text" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? "Hide the numbers" : "Show the numbers"}
        </Button>
      </div>
      {open && (
        <div className="figure-numbers">
          <Wide label={`Numbers of ${name}`}>
            {numbers().map((table) => (
              <Numbers key={table.title} table={table} />
            ))}
          </Wide>
        </div>
      )}
    </div>
  );
}

/** More rows than anybody reads on the page; the file holds all. */
const MOST_SHOWN = 200;

function Numbers({ table: { title, head, rows } }: { table: NumberTable }) {
  return (
    <Table>
      <caption>{title}</caption>
      <TableHead>
        <TableRow>
          {head.map((words) => (
            <TableCell key={words} scope="col">
              {words}
            </TableCell>
          ))}
        </TableRow>
      </TableHead>
      <TableBody>
        {rows.slice(0, MOST_SHOWN).map((row, i) => (
          <TableRow key={i}>
            {row.map((cell, j) => (
              <TableCell key={j}>{typeof cell === "string" ? cell : plain(cell)}</TableCell>
            ))}
          </TableRow>
        ))}
      </TableBody>
      {rows.length > MOST_SHOWN && (
        <TableFooter>
          <TableRow>
            <TableCell className="quiet" colSpan={head.length}>
              and {rows.length - MOST_SHOWN} more rows in the CSV
            </TableCell>
          </TableRow>
        </TableFooter>
      )}
    </Table>
  );
}

/** One table after the other, a blank line between them. */
export function csvOf(tables: NumberTable[]): string {
  const lines = tables.flatMap(({ title, head, rows }, i) => [
    ...(i > 0 ? [[]] : []),
    [title],
    head,
    ...rows,
  ]);
  return `${Papa.unparse(lines.map((line) => line.map((cell) => (cell === null ? "" : neutralise(String(cell))))))}\r\n`;
}
