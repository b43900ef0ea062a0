import type { RowFilter } from "../../../core";

/** Adds a filter; one of the same name takes the rows in, or gets a number behind its name. */
export function withFilter(
  filters: RowFilter[],
  name: string,
  rule: RowFilter["rule"],
): RowFilter[] {
  const known = filters.find((f) => f.name === name);
  if (!known) return [...filters, { name, active: true, rule }];
  const earlier = known.rule;
  if (earlier.kind === "rows" && rule.kind === "rows") {
    const rows = [...new Set([...earlier.rows, ...rule.rows])].sort((a, b) => a - b);
    return filters.map((f) =>
      f === known ? { ...f, active: true, rule: { kind: "rows", rows } } : f,
    );
  }
  let k = 2;
  while (filters.some((f) => f.name === `${name} ${k}`)) k += 1;
  return [...filters, { name: `${name} ${k}`, active: true, rule }];
}
