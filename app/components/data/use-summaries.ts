import { useEffect, useState } from "react";
import { packTable, type ColumnSummary } from "../../../core";
import type { StudyContext } from "../../analysis/use-study";
import { engine } from "../../workers/engine";

/** Puts the raw data into the engine worker unless they are there already. */
export async function withData({
  dataKey,
  raw,
}: Pick<StudyContext, "dataKey" | "raw">): Promise<ReturnType<typeof engine>> {
  if (!(await engine().hasTable(dataKey))) await engine().setTable(dataKey, packTable(raw));
  return engine();
}

/**
 * Summaries of every column, made in the engine worker; the last ones stay until new ones arrive.
 */
export function useSummaries(context: StudyContext): ColumnSummary[] {
  const [summaries, setSummaries] = useState<ColumnSummary[]>([]);
  const { dataset, definition } = context;
  useEffect(() => {
    let current = true;
    void (async () => {
      const found = await (await withData(context)).summaries(definition);
      if (current) setSummaries(found);
    })();
    return () => {
      current = false;
    };
    // The dataset changes with everything that a summary depends on.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [dataset]);
  return summaries;
}
