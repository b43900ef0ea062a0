import { useState } from "react";
import { Segments } from "../segments";
import { Wide } from "../wide";
import { plain, type ColumnSummary, type DataEvidence } from "../../../core";
import { Sparkbars } from "../data/sparkbars";

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
          <label className="field">
            <span className="visually-hidden">Percentages</span>
            <input
              value={text}
              placeholder="20 %; 80 %"
              onChange={(e) => setText(e.target.value)}
            />
          </label>
        )}
      </div>
      <table className="numbers descriptives">
        <thead>
          <tr>
            <th scope="col">variable</th>
            <th scope="col">shape</th>
            <th scope="col">n</th>
            <th scope="col">missing</th>
            <th scope="col">mean</th>
            <th scope="col">SD</th>
            <th scope="col">min</th>
            {percents.map((p) => (
              <th scope="col" key={p}>
                {percentName(p)}
              </th>
            ))}
            <th scope="col">max</th>
            <th scope="col">skewness</th>
            <th scope="col">excess kurtosis</th>
            <th scope="col">outliers</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((v) => {
            const shape = shapes.get(v.name);
            return (
              <tr key={v.name}>
                <td title={v.label ?? undefined}>
                  {v.name}
                  {v.zeroVariance && <span className="flag"> never varies</span>}
                </td>
                <td>{shape && <Sparkbars summary={shape} width={84} height={22} />}</td>
                <td>{v.n}</td>
                <td>{v.missing === 0 ? "–" : v.missing}</td>
                <td>{plain(v.mean)}</td>
                <td>{plain(v.sd)}</td>
                <td>{plain(v.min, 2)}</td>
                {percents.map((p) => (
                  <td key={p}>{plain(p === 50 ? v.median : v.percentiles?.[p - 1], 2)}</td>
                ))}
                <td>{plain(v.max, 2)}</td>
                <td
                  className={notable(v.skewness, v.skewnessSe) ? "notable" : undefined}
                  title={`SE ${plain(v.skewnessSe)}`}
                >
                  {plain(v.skewness, 2)}
                </td>
                <td
                  className={notable(v.excessKurtosis, v.excessKurtosisSe) ? "notable" : undefined}
                  title={`SE ${plain(v.excessKurtosisSe)}`}
                >
                  {plain(v.excessKurtosis, 2)}
                </td>
                <td>
                  {v.outliers.rows.length === 0 || v.level === "binary"
                    ? "–"
                    : v.outliers.rows.length}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="quiet">
        Bold skewness or kurtosis is more than two standard errors from 0. Outliers: robust z beyond
        3.5.
      </p>
    </Wide>
  );
}
