import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Segments } from "../ui/segments";
import { descriptionWorking, plain, type ColumnSummary, type DataEvidence } from "../../../core";
import { Sparkbars } from "../data/sparkbars";
import { TextInput } from "../ui/text-input";
import { NumberTable, type Cell } from "../ui/number-table";

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
    <>
      <NumberTable
        title="Descriptive statistics"
        heading={
          <>
            <Typography variant="h2">Variables</Typography>
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
              <TextInput
                aria-label="Percentages"
                value={text}
                placeholder="20 %; 80 %"
                onChange={(e) => setText(e.target.value)}
              />
            )}
          </>
        }
        columns={[
          "variable",
          "shape",
          "n",
          "missing",
          "mean",
          "SD",
          "min",
          ...percents.map(percentName),
          "max",
          "skewness",
          "excess kurtosis",
          "outliers",
        ]}
        rows={[
          ...rows.map((v) => ({
            key: v.name,
            marked: v.zeroVariance,
            working: () => descriptionWorking(v),
            cells: cellsOf(v, shapes.get(v.name), percents),
          })),
          ...textColumns(data, summaries).map((shape) => ({
            key: shape.name,
            marked: shape.distinct < 2,
            cells: textCells(shape, percents.length + 7),
          })),
        ]}
        note="Bold skewness or kurtosis is more than two standard errors from 0. Outliers: robust z beyond 3.5."
      />
    </>
  );
}

type Described = DataEvidence["descriptives"][string];

/** Columns of words: they have counts, but no moments. */
const textColumns = (data: DataEvidence, summaries: ColumnSummary[]): ColumnSummary[] =>
  summaries.filter((s) => !(s.name in data.descriptives));

const count = (value: number): Cell => ({ shown: String(value), value });
const few = (value: number | null | undefined): Cell => ({
  shown: plain(value, 2),
  value: value ?? null,
});

function cellsOf(v: Described, shape: ColumnSummary | undefined, percents: number[]): Cell[] {
  const outliers = v.level === "binary" ? 0 : v.outliers.rows.length;
  return [
    {
      shown: (
        <span title={v.label ?? undefined}>
          {v.name}
          {v.zeroVariance && " never varies"}
        </span>
      ),
      value: v.name,
    },
    { shown: shape && <Sparkbars summary={shape} width={84} height={22} />, value: null },
    count(v.n),
    v.missing === 0 ? { shown: "–", value: 0 } : count(v.missing),
    v.mean,
    v.sd,
    few(v.min),
    ...percents.map((p) => few(p === 50 ? v.median : v.percentiles?.[p - 1])),
    few(v.max),
    against(v.skewness, v.skewnessSe),
    against(v.excessKurtosis, v.excessKurtosisSe),
    outliers === 0 ? { shown: "–", value: 0 } : count(outliers),
  ];
}

/** Bold where it is far from 0 for its standard error. */
const against = (value: number | null, se: number | null): Cell => ({
  shown: (
    <span title={`SE ${plain(se)}`} style={{ fontWeight: notable(value, se) ? 700 : 400 }}>
      {plain(value, 2)}
    </span>
  ),
  value,
});

function textCells(shape: ColumnSummary, span: number): Cell[] {
  const levels = shape.bars.map(({ label, count: n }) => `${label} ${n}`);
  const words =
    shape.distinct < 2
      ? "the same in every row: it cannot explain or be explained"
      : levels.length > 0 && levels.length <= 8
        ? levels.join(", ")
        : `${shape.distinct} different values`;
  return [
    shape.name,
    { shown: <Sparkbars summary={shape} width={84} height={22} />, value: null },
    count(shape.rows - shape.missing),
    shape.missing === 0 ? { shown: "–", value: 0 } : count(shape.missing),
    { shown: words, value: words, span },
  ];
}
