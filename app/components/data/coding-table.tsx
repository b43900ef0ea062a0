import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import { plain, type CodeColumn, type Coding } from "../../../core";

export const CODINGS: [Coding, string, string][] = [
  ["indicator", "indicator", "each level against the reference"],
  ["sequential", "sequential", "each level against the one before"],
  ["helmert", "Helmert", "later levels against each level"],
  ["effect", "effect", "each level against the mean of all"],
];

/** The codes that stand for each level in an equation, and what each column compares. */
export function CodingTable({
  variable,
  columns,
  levels,
}: {
  variable: string;
  columns: CodeColumn[];
  levels: string[];
}) {
  if (columns.length === 0) return null;
  return (
    <Table className="numbers coding-table">
      <caption className="visually-hidden">Coding of {variable}</caption>
      <TableHead>
        <TableRow>
          <TableCell scope="col">level</TableCell>
          {columns.map((c) => (
            <TableCell key={c.index} scope="col" title={c.contrast}>
              {variable}.{c.index}
            </TableCell>
          ))}
        </TableRow>
      </TableHead>
      <TableBody>
        {levels.map((level, i) => (
          <TableRow key={level}>
            <TableCell>{level}</TableCell>
            {columns.map((c) => (
              <TableCell key={c.index}>
                {Number.isInteger(c.codes[i]) ? c.codes[i] : plain(c.codes[i], 2)}
              </TableCell>
            ))}
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}
