import Box from "@mui/material/Box";
import type { Dataset, RowFilter } from "../../../core";
import { CloseIcon } from "../icons";
import { Check } from "../ui/check";
import { IconAction } from "../ui/icon-button";
import { Wrong } from "../ui/layout";
import { Bar } from "./parts";

interface Props {
  filters: RowFilter[];
  dataset: Dataset;
  change: (filters: RowFilter[]) => void;
}

const CHIP = {
  display: "inline-flex",
  alignItems: "center",
  gap: "2px",
  pl: 1.25,
  border: "1px solid var(--line)",
  borderRadius: "4px",
  backgroundColor: "var(--sheet)",
  fontSize: 14,
};

/** Rows left out of analyses, by name; each can be switched off or taken away. */
export function FiltersBar({ filters, dataset, change }: Props) {
  if (filters.length === 0) return null;
  return (
    <Bar role="group" aria-label="Left out of analyses">
      <span className="quiet">Left out of analyses:</span>
      {filters.map((filter) => {
        const rows = dataset.excluded.find((e) => e.filter === filter.name)?.rows.length;
        const problem = dataset.problems.find((p) => p.name === filter.name);
        return (
          <Box component="span" key={filter.name} sx={CHIP}>
            <span
              title={
                filter.rule.kind === "condition"
                  ? `where ${filter.rule.formula}`
                  : `rows ${filter.rule.rows.join(", ")}`
              }
            >
              <Check
                checked={filter.active}
                onChange={() =>
                  change(filters.map((f) => (f === filter ? { ...f, active: !f.active } : f)))
                }
                label={
                  <>
                    {filter.active ? filter.name : <s>{filter.name}</s>}{" "}
                    <span className="quiet">
                      {problem
                        ? "◆"
                        : (rows ?? (filter.rule.kind === "rows" ? filter.rule.rows.length : "off"))}
                    </span>
                  </>
                }
              />
            </span>
            <IconAction
              name={`Bring the rows of ${filter.name} back`}
              onClick={() => change(filters.filter((f) => f !== filter))}
            >
              <CloseIcon />
            </IconAction>
            {problem && <Wrong>{problem.message}</Wrong>}
          </Box>
        );
      })}
    </Bar>
  );
}
