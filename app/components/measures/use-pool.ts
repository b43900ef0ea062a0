import {
  answeredAlike,
  itemFamilies,
  parseTheory,
  type AnswerBattery,
  type ColumnSummary,
  type Measure,
} from "../../../core";
import type { StudyContext } from "../../analysis/use-study";
import { useSummaries } from "../data/use-summaries";

/** Columns as they may become items, and the measures that there are. */
export interface Pool {
  /** Every column that is no measure's score. */
  columns: string[];
  measures: Measure[];
  complaints: ReturnType<typeof parseTheory>["complaints"];
  /** Numeric columns in no measure. */
  free: string[];
  numeric: string[];
  summaries: ColumnSummary[];
  /** What columns say, where that is known: their labels. */
  wordings: ReadonlyMap<string, string>;
  /** Lowest and highest answer to any of these; null where none is a number. */
  rangeOf: (items: readonly string[]) => [number, number] | null;
  /** Free columns that are answered on one scale, where their names do not say so already. */
  alike: AnswerBattery[];
}

const NUMERIC = ["continuous", "ordinal", "binary"];

export function usePool(context: StudyContext): Pool {
  const { definition, dataset } = context;
  const summaries = useSummaries(context);
  const columns = dataset.table.columns
    .map((c) => c.name)
    .filter((name) => dataset.origins.get(name) !== "measure");
  const { statements, complaints } = parseTheory(definition.theory, columns);
  const measures = statements.filter((s) => s.kind === "measure");
  const used = new Set(measures.flatMap((m) => m.items.map((i) => i.ref.name)));
  const numeric = dataset.variables
    .filter((v) => columns.includes(v.name) && NUMERIC.includes(v.level))
    .map((v) => v.name);
  const free = numeric.filter((name) => !used.has(name));
  const rangeOf = (items: readonly string[]): [number, number] | null => {
    const own = summaries.filter((s) => items.includes(s.name) && s.min !== null);
    return own.length > 0
      ? [Math.min(...own.map((s) => s.min!)), Math.max(...own.map((s) => s.max!))]
      : null;
  };
  const wordings = new Map(
    dataset.variables.flatMap((v) => (v.label ? [[v.name, v.label] as const] : [])),
  );
  const named = new Set(itemFamilies(free).map((f) => [...f.items].sort().join("\n")));
  const alike = answeredAlike(summaries.filter((s) => free.includes(s.name))).filter(
    ({ items }) => !named.has([...items].sort().join("\n")),
  );
  return { columns, measures, complaints, free, numeric, summaries, wordings, rangeOf, alike };
}
