import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import type { Dataset, RowFilter } from "../../../core";
import { CloseIcon } from "../icons";
import { Wrong } from "../ui/layout";

interface Props {
  filters: RowFilter[];
  dataset: Dataset;
  change: (filters: RowFilter[]) => void;
}

/** Rows left out of analyses, by name; each can be switched off or taken away. */
export function FiltersBar({ filters, dataset, change }: Props) {
  if (filters.length === 0) return null;
  return (
    <div className="filters-bar" role="group" aria-label="Left out of analyses">
      <span className="quiet">Left out of analyses:</span>
      {filters.map((filter) => {
        const rows = dataset.excluded.find((e) => e.filter === filter.name)?.rows.length;
        const problem = dataset.problems.find((p) => p.name === filter.name);
        return (
          <span key={filter.name} className={filter.active ? "filter-chip" : "filter-chip off"}>
            <label
              title={
                filter.rule.kind === "condition"
                  ? `where ${filter.rule.formula}`
                  : `rows ${filter.rule.rows.join(", ")}`
              }
            >
              <Checkbox
                checked={filter.active}
                onChange={() =>
                  change(filters.map((f) => (f === filter ? { ...f, active: !f.active } : f)))
                }
              />{" "}
              {filter.name}{" "}
              <span className="quiet">
                {problem
                  ? "◆"
                  : (rows ?? (filter.rule.kind === "rows" ? filter.rule.rows.length : "off"))}
              </span>
            </label>
            <Button
              variant="text"
              aria-label={`Bring the rows of ${filter.name} back`}
              onClick={() => change(filters.filter((f) => f !== filter))}
            >
              <CloseIcon />
            </Button>
            {problem && <Wrong>{problem.message}</Wrong>}
          </span>
        );
      })}
    </div>
  );
}
