import { useMemo, useState } from "react";
import {
  findVariable,
  rowsWhere,
  sortRows,
  StudyProblem,
  type CellPlace,
  type Dataset,
} from "../../../core";

/** How the grid shows the data; nothing of it changes an analysis. */
export interface GridView {
  /** 0-based rows in the order shown. */
  order: Int32Array;
  names: string[];
  sort: { name: string; descending: boolean } | null;
  labels: boolean;
  active: CellPlace | null;
  condition: string;
  problem: string | null;
  hidden: ReadonlySet<string>;
  setSort: (sort: GridView["sort"]) => void;
  setLabels: (labels: boolean) => void;
  setActive: (place: CellPlace | null) => void;
  setCondition: (text: string) => void;
  setHidden: (hidden: ReadonlySet<string>) => void;
}

export function useGridView(dataset: Dataset): GridView {
  const [sort, setSort] = useState<GridView["sort"]>(null);
  const [labels, setLabels] = useState(false);
  const [active, setActive] = useState<CellPlace | null>(null);
  const [condition, setCondition] = useState("");
  const [hidden, setHidden] = useState<ReadonlySet<string>>(new Set());
  const { rows, problem } = useMemo(() => chosenRows(dataset, condition), [dataset, condition]);
  const order = useMemo(() => {
    const found = sort && findVariable(dataset, sort.name);
    return found ? sortRows(rows, found.column, found.variable, sort.descending) : rows;
  }, [dataset, rows, sort]);
  const names = useMemo(
    () => dataset.table.columns.map((c) => c.name).filter((name) => !hidden.has(name)),
    [dataset, hidden],
  );
  return {
    order,
    names,
    sort,
    labels,
    active,
    condition,
    problem,
    hidden,
    setSort,
    setLabels,
    setActive,
    setCondition,
    setHidden,
  };
}

function chosenRows(
  dataset: Dataset,
  condition: string,
): { rows: Int32Array; problem: string | null } {
  const all = Int32Array.from({ length: dataset.table.rows }, (_, i) => i);
  if (condition.trim() === "") return { rows: all, problem: null };
  try {
    return { rows: rowsWhere(dataset, condition), problem: null };
  } catch (error) {
    if (!(error instanceof StudyProblem)) throw error;
    return { rows: all, problem: error.message };
  }
}
