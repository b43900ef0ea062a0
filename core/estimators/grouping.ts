import { pick } from "../data";
import type { Column, UsedCoding } from "../design";
import type { CompiledTheory } from "../theory";
import type { ModelData } from "./engine";

/** The groups of a theory: names of the levels, and which one each row of the sample belongs to. */
export interface Grouping {
  variable: string | null;
  names: string[];
  of: Int32Array;
  coding: UsedCoding | null;
}

/** Rows of a categorical column as groups; one group where there is none. */
export function groupingOf(
  { groups }: CompiledTheory,
  { typed, sample, variables }: ModelData,
): Grouping {
  const n = sample.rows.length;
  if (!groups) return { variable: null, names: ["all"], of: new Int32Array(n), coding: null };
  const column = typed.get(groups.by.name)!;
  const variable = variables.get(groups.by.name)!;
  const values = pick(column.values, sample.rows);
  const levels = column.levels ?? [...new Set(values)].sort((a, b) => a - b).map(String);
  const index = column.levels ? values : values.map((value) => levels.indexOf(String(value)));
  const present = levels.map((_, level) => level).filter((level) => index.includes(level));
  const place = new Map(present.map((level, at) => [level, at]));
  const of = Int32Array.from(index, (level) => place.get(level) ?? -1);
  const names = present.map((level) => variable.labels?.[levels[level]!] ?? levels[level]!);
  const counts = names.map((_, g) => of.reduce((sum, at) => sum + (at === g ? 1 : 0), 0));
  return {
    variable: groups.by.name,
    names,
    of,
    coding: {
      variable: groups.by.name,
      coding: "indicator",
      levels: present.map((level) => levels[level]!),
      counts,
      columns: names.slice(1).map((name, at) => ({
        key: `${groups.by.name}.${at + 1}`,
        contrast: `${name} against ${names[0]}`,
        codes: names.map((_, g) => (g === at + 1 ? 1 : 0)),
      })),
    },
  };
}

/**
 * Columns of 0 and 1 that tell the groups, by which effects that differ between them are said; they
 * have no spread of their own.
 */
export const codeColumns = ({ coding, of }: Grouping): Column[] =>
  (coding?.columns ?? []).map(({ key, contrast }, at) => ({
    key,
    variable: coding!.variable,
    label: `${coding!.variable}: ${contrast}`,
    contrast,
    values: Float64Array.from(of, (group) => (group === at + 1 ? 1 : 0)),
    sd: 0,
    components: null,
  }));
