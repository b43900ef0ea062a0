import { plain, pValue } from "../../../core";
import type { Cell } from "../ui/number-table";

/** A p value as journals print it. */
export const pCell = (value: number | null, isBound = false): Cell =>
  value === null ? null : { shown: pValue(value, isBound), value };

/** Two limits in one cell. */
export const limitsCell = (lower: number | null, upper: number | null, digits = 3): Cell =>
  lower === null || upper === null
    ? null
    : {
        shown: `${plain(lower, digits)} to ${plain(upper, digits)}`,
        value: null,
        limits: [lower, upper],
      };

/** Two limits in one cell, narrower: “0.013, 0.051”; one alone says which it is. */
export function limitsPair(lower: number | null, upper: number | null): Cell {
  if (lower === null && upper === null) return null;
  const shown =
    lower === null
      ? `below ${plain(upper)}`
      : upper === null
        ? `above ${plain(lower)}`
        : `${plain(lower)}, ${plain(upper)}`;
  return { shown, value: null, limits: [lower, upper] };
}

/** A count as it is, without decimals. */
export const whole = (value: number | null): Cell =>
  value === null ? null : { shown: String(value), value };
