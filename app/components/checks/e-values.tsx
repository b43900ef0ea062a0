import type { ReactNode } from "react";
import { eValueWorking, percent, type EValueParts } from "../../../core";
import { limitsCell } from "../structure/cells";
import { NumberTable } from "../ui/number-table";

/** One effect, as a ratio, with what would make it nothing. */
export interface EValueRow extends EValueParts {
  key: string;
}

/** How strong something left out would have to be, effect by effect. */
export function EValueTable({
  title,
  heading,
  level,
  rows,
}: {
  title: string;
  heading?: ReactNode;
  level: number;
  rows: readonly EValueRow[];
}) {
  const differences = rows.some((r) => r.difference);
  return (
    <NumberTable
      title={title}
      {...(heading ? { heading } : {})}
      columns={[
        "effect",
        ...(differences ? ["estimate", "SE"] : []),
        differences ? "as a ratio" : "ratio",
        `${percent(level)} % CI`,
        "E-value",
        "E-value of the limit",
      ]}
      rows={rows.map((row) => ({
        key: row.key,
        cells: [
          row.effect,
          ...(differences ? [row.difference?.estimate ?? null, row.difference?.se ?? null] : []),
          row.ratio,
          limitsCell(row.lower, row.upper),
          row.eValue,
          row.eValueOfLimit,
        ],
        working: () => eValueWorking([row], `${title}, ${row.effect}`),
      }))}
      note="The least ratio by which something that was left out has to be related to both mediator and outcome (of the total effect: to treatment and outcome), beyond what is held, to make the effect nothing (VanderWeele & Ding 2017). Differences of means are turned into ratios by exp(0.91 d)."
    />
  );
}
