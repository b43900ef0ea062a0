import type { ReactNode } from "react";
import type { Working } from "../../../core";

/** What a cell holds: shown rounded or as it is, exported in full. */
export type Cell =
  | string
  | number
  | null
  | {
      shown: ReactNode;
      value: string | number | null;
      /** Both limits of an interval: one cell on the page, two columns in a file. */
      limits?: readonly [number | null, number | null];
      /** Over so many columns, as words that stand in place of numbers. */
      span?: number;
    };

export interface TableRowSpec {
  key: string;
  cells: readonly Cell[];
  /** The row that is pointed at from elsewhere. */
  selected?: boolean;
  /** Deserves a look. */
  marked?: boolean;
  quiet?: boolean;
  /** Where its numbers come from; choosing the row shows it beneath the table. */
  working?: () => Working;
  /** What happens besides when the row is chosen. */
  choose?: () => void;
  /** The name of the row for those who do not see where it stands. */
  label?: string;
}

/** Shown otherwise than it is exported. */
export const isShown = (cell: Cell): cell is Exclude<Cell, string | number | null> =>
  typeof cell === "object" && cell !== null;

/** A cell as text for a file: a number in full, nothing for what is not known. */
export const exportedCell = (cell: Cell): string | number | null => {
  const value = isShown(cell) ? cell.value : cell;
  return typeof value === "number" && !Number.isFinite(value) ? null : value;
};

/**
 * A table as it is written into a file: every number in full, limits in two columns, no column that
 * holds nothing.
 */
export function exportedTable(
  heads: readonly string[],
  rows: readonly Pick<TableRowSpec, "cells">[],
): { heads: string[]; rows: (string | number | null)[][] } {
  const limitsOf = (cell: Cell | undefined) =>
    cell !== undefined && isShown(cell) ? cell.limits : undefined;
  const whole = heads.map((_, j) => rows.every(({ cells }) => !limitsOf(cells[j])));
  const columns = heads.flatMap((head, j) =>
    whole[j]
      ? [{ head, of: (cells: readonly Cell[]) => exportedCell(cells[j] ?? null) }]
      : (["lower", "upper"] as const).map((end, side) => ({
          head: `${head} ${end}`,
          of: (cells: readonly Cell[]) => {
            const limits = limitsOf(cells[j]);
            // A row without limits says in the first column why.
            return limits
              ? exportedCell(limits[side]!)
              : side === 0
                ? exportedCell(cells[j] ?? null)
                : null;
          },
        })),
  );
  const held = columns.filter(
    ({ head, of }) =>
      head !== "" || rows.some(({ cells }) => of(cells) !== null && of(cells) !== ""),
  );
  return {
    heads: held.map(({ head }) => head),
    rows: rows.map(({ cells }) => held.map(({ of }) => of(cells))),
  };
}
