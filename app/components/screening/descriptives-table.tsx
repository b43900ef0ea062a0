import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import { useState } from "react";
import { Segments } from "../ui/segments";
import { Wide } from "../wide";
import { plain, type ColumnSummary, type DataEvidence } from "../../../core";
import { Sparkbars } from "../data/sparkbars";
import { TextInput } from "../ui/text-input";
import { Labelled } from "../ui/layout";

/** A coefficient against twice its standard error. */
const notable = (value: number | null, se: number | null): boolean =>
  value !== null && se !== null && Math.abs(value) > 2 * se;

type Percents = "median" | "quartiles" | "tenths" | "own";
const PERCENTS: Record<Exclude<Percents, "own">, number[]> = {
  median: [50],
  quartiles: [25, 50, 75],
  tenths: [10, 50, 90],
};

/** Whole percentages from what was typed, such as “20 %; 80 %”. */
export const typedPercentages = (text: string): number[] =>
  [
    ...new Set(
      text
        .split(/[;,\s%]+/)
        .filter((t) => t !== "")
        .map(Number),
    ),
  ]
    .filter((p) => Number.isInteger(p) && p > 0 && p < 100)
    .sort((a, b) => a - b)
    .slice(0, 7);

const percentName = (p: number): string => (p === 50 ? "median" : `${p} %`);

/** Every numeric variable in one row, with its shape. */
export function DescriptivesTable({
  data,
  summaries,
}: {
  data: DataEvidence;
  summaries: ColumnSummary[];
}) {
  const rows = Object.values(data.descriptives);
  const shapes = new Map(summaries.map((s) => [s.name, s]));
  const [choice, setChoice] = useState<Percents>("median");
  const [text, setText] = useState("20 %; 80 %");
  const percents = choice === "own" ? typedPercentages(text) : PERCENTS[choice];
  return (
    <Wide label="Variables">
      <div className="percentile-choice">
        <Segments
          label="Percentiles"
          value={choice}
          choices={[
            ["median", "median"],
            ["quartiles", "quartiles"],
            ["tenths", "10 · 50 · 90 %"],
            ["own", "my own"],
          ]}
          choose={setChoice}
        />
        {choice === "own" && (
          <Labelled>
            <span className="visually-hidden">Percentages</span>
            <TextInput
              value={text}
              placeholder="20 %; 80 %"
              onChange={(e) => setText(e.target.value)}
            />
          </Labelled>
        )}
      </div>
      <Table className="numbers descriptives">
        <TableHead>
          <TableRow>
            <TableCell scope="col">variable</TableCell>
            <TableCell scope="col">shape</TableCell>
            <TableCell scope="col">n</TableCell>
            <TableCell scope="col">missing</TableCell>
            <TableCell scope="col">mean</TableCell>
            <TableCell scope="col">SD</TableCell>
            <TableCell scope="col">min</TableCell>
            {percents.map((p) => (
              <TableCell scope="col" key={p}>
                {percentName(p)}
              </TableCell>
            ))}
            <TableCell scope="col">max</TableCell>
            <TableCell scope="col">skewness</TableCell>
            <TableCell scope="col">excess kurtosis</TableCell>
            <TableCell scope="col">outliers</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((v) => {
            const shape = shapes.get(v.name);
            return (
              <TableRow key={v.name}>
                <TableCell title={v.label ?? undefined}>
                  {v.name}
                  {v.zeroVariance && <span className="flag"> never varies</span>}
                </TableCell>
                <TableCell>
                  {shape && <Sparkbars summary={shape} width={84} height={22} />}
                </TableCell>
                <TableCell>{v.n}</TableCell>
                <TableCell>{v.missing === 0 ? "–" : v.missing}</TableCell>
                <TableCell>{plain(v.mean)}</TableCell>
                <TableCell>{plain(v.sd)}</TableCell>
                <TableCell>{plain(v.min, 2)}</TableCell>
                {percents.map((p) => (
                  <TableCell key={p}>
                    {plain(p === 50 ? v.median : v.percentiles?.[p - 1], 2)}
                  </TableCell>
                ))}
                <TableCell>{plain(v.max, 2)}</TableCell>
                <TableCell
                  className={notable(v.skewness, v.skewnessSe) ? "notable" : undefined}
                  title={`SE ${plain(v.skewnessSe)}`}
                >
                  {plain(v.skewness, 2)}
                </TableCell>
                <TableCell
                  className={notable(v.excessKurtosis, v.excessKurtosisSe) ? "notable" : undefined}
                  title={`SE ${plain(v.excessKurtosisSe)}`}
                >
                  {plain(v.excessKurtosis, 2)}
                </TableCell>
                <TableCell>
                  {v.outliers.rows.length === 0 || v.level === "binary"
                    ? "–"
                    : v.outliers.rows.length}
                </TableCell>
              </TableRow>
            );
          })}
        </TableBody>
      </Table>
      <p className="quiet">
        Bold skewness or kurtosis is more than two standard errors from 0. Outliers: robust z beyond
        3.5.
      </p>
    </Wide>
  );
}
