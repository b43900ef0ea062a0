import { pick } from "../../data";
import type { Column } from "../../design";
import type { ModelData } from "../engine";

/**
 * Columns row by row for pictures, with the rows that have all of them: values of an observed
 * variable stand without those that are missing elsewhere, which would put the answers of one
 * person beside those of another.
 */
export function alignedPoints(
  y: Column,
  columns: readonly Column[],
  { typed, sample }: ModelData,
): { y: Float64Array; columns: Column[] } {
  const n = sample.rows.length;
  const whole = (column: Column): Float64Array => {
    if (column.components)
      return column.components
        .map(whole)
        .reduce((all, one) => all.map((value, row) => value * one[row]!));
    const own = column.values.length === n ? null : typed.get(column.variable);
    return own ? pick(own.values, sample.rows) : column.values;
  };
  const all = [y, ...columns].map(whole);
  const rows = Array.from({ length: n }, (_, row) => row).filter((row) =>
    all.every((values) => !Number.isNaN(values[row]!)),
  );
  const [own, ...others] = all.map((values) => Float64Array.from(rows, (row) => values[row]!));
  return { y: own!, columns: columns.map((c, at) => ({ ...c, values: others[at]! })) };
}
