import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Papa from "papaparse";
import { useState } from "react";
import { neutralise } from "../../../formats";
import { download, fileName } from "../download";
import { Row } from "../ui/layout";
import { useTaking } from "../ui/numbers-of-before";
import { NumberTable } from "../ui/number-table";
import { PictureButtons, type PictureProps } from "./picture-tools";

/** Numbers behind a picture: texts name, numbers are shown rounded and exported in full. */
export interface NumberTable {
  title: string;
  head: string[];
  rows: (string | number | null)[][];
}

interface Props extends PictureProps {
  numbers: () => NumberTable[];
}

/** A picture as a file, and its numbers as a table to read and to take along. */
export function FigureTools({ target, name, caption, numbers }: Props) {
  const [open, setOpen] = useState(false);
  const taking = useTaking();
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "minmax(0, 1fr)", gap: 1 }}>
      <Row role="group" aria-label={`Take along: ${name}`}>
        <PictureButtons target={target} name={name} caption={caption} />
        <Button
          {...taking}
          onClick={() => download(fileName(name, ".csv"), csvOf(numbers()), "text/csv")}
        >
          Numbers as CSV
        </Button>
        <Button variant="text" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? "Hide the numbers" : "Show the numbers"}
        </Button>
      </Row>
      {open && (
        <Box sx={{ maxHeight: 320, overflow: "auto", borderTop: "1px solid var(--line)" }}>
          {numbers().map(({ title, head, rows }) => (
            <NumberTable
              key={title}
              title={title}
              heading={<strong>{title}</strong>}
              columns={head}
              rows={rows.map((cells, i) => ({ key: String(i), cells }))}
              most={MOST_SHOWN}
            />
          ))}
        </Box>
      )}
    </Box>
  );
}

/** More rows than anybody reads on the page; the files hold all. */
const MOST_SHOWN = 200;

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
