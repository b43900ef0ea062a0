import { plain, type CodeColumn, type Coding } from "../../../core";
import { NumberTable } from "../ui/number-table";

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
    <NumberTable
      plainly
      title={`Coding of ${variable}`}
      columns={["level", ...columns.map((c) => `${variable}.${c.index}`)]}
      rows={levels.map((level, i) => ({
        key: level,
        cells: [
          level,
          ...columns.map((c) => ({
            shown: Number.isInteger(c.codes[i]) ? String(c.codes[i]) : plain(c.codes[i], 2),
            value: c.codes[i]!,
          })),
        ],
      }))}
      note={columns.map((c) => `${variable}.${c.index}: ${c.contrast}`).join("; ")}
    />
  );
}
