import type { Table } from "./table";
import type { Variable } from "./variable";

/** The column of the data that a variable stands for. */
export const sourceOf = ({ name, column }: Variable): string => column ?? name;

/**
 * The raw data under the names that the study uses. Cells are shared with `raw`, not copied. A
 * column whose own name has been given to another gets a number behind it, so that every name
 * stands for one column.
 */
export function namedTable(raw: Table, variables: readonly Variable[]): Table {
  const given = new Map(
    variables.flatMap((v) => (v.column === undefined ? [] : [[v.column, v.name] as const])),
  );
  if (given.size === 0) return raw;
  const taken = new Set(raw.columns.flatMap((c) => given.get(c.name) ?? []));
  const free = (name: string): string => {
    let found = name;
    for (let k = 2; taken.has(found); k++) found = `${name}_${k}`;
    taken.add(found);
    return found;
  };
  return {
    ...raw,
    columns: raw.columns.map((c) => ({ ...c, name: given.get(c.name) ?? free(c.name) })),
  };
}
