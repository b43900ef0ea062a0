import { useEffect, useState } from "react";
import { packTable, type ColumnSummary, type StudyDefinition, type Table } from "../../../core";
import { engine } from "../../workers/pool";

/** Summaries of every column, made in the engine worker; the last ones stay until new ones arrive. */
export function useSummaries(definition: StudyDefinition, key: string, table: Table): ColumnSummary[] {
  const [summaries, setSummaries] = useState<ColumnSummary[]>([]);
  const variables = JSON.stringify(definition.variables);
  useEffect(() => {
    let current = true;
    void (async () => {
      if (!(await engine().hasTable(key))) await engine().setTable(key, packTable(table));
      const found = await engine().summaries(definition);
      if (current) setSummaries(found);
    })();
    return () => {
      current = false;
    };
    // Only what is said of the variables changes a summary.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [variables, key, table]);
  return summaries;
}
