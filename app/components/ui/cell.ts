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
