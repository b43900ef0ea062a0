/** A column of a design as the product of base columns; none for the intercept. */
export type Term = readonly string[];

export const INTERCEPT: Term = [];

export const termName = (term: Term): string =>
  term.length === 0 ? "(intercept)" : term.join(":");

export type Base = ReadonlyMap<string, Float64Array>;

/** Columns that are set to a value in every row. */
export type Setting = ReadonlyMap<string, number>;

const NOTHING: Setting = new Map();

/** The design of some terms, with columns set to values where that is wanted: row-major n x terms. */
export function designOf(
  terms: readonly Term[],
  base: Base,
  n: number,
  set: Setting = NOTHING,
): Float64Array {
  const p = terms.length;
  const out = new Float64Array(n * p);
  terms.forEach((term, k) => {
    for (let i = 0; i < n; i++)
      out[i * p + k] = term.reduce((all, name) => all * (set.get(name) ?? base.get(name)![i]!), 1);
  });
  return out;
}

/** The linear predictor as a + b m: designs of the terms without a column, and of those with it, of which it is taken out. */
export function splitBy(
  terms: readonly Term[],
  column: string,
  base: Base,
  n: number,
  set: Setting = NOTHING,
): { base: Float64Array; slope: Float64Array } {
  const without = new Map(set);
  without.set(column, 0);
  const at = new Map(set);
  at.set(column, 1);
  const zero = designOf(terms, base, n, without);
  const one = designOf(terms, base, n, at);
  return { base: zero, slope: one.map((v, k) => v - zero[k]!) };
}

/** The linear predictor as a + Σ b_j m_j in several columns, no two of which are in one product. */
export function splitByAll(
  terms: readonly Term[],
  columns: readonly string[],
  base: Base,
  n: number,
  set: Setting = NOTHING,
): { base: Float64Array; slopes: Float64Array[] } {
  const without = new Map([...set, ...columns.map((c) => [c, 0] as const)]);
  const zero = designOf(terms, base, n, without);
  return {
    base: zero,
    slopes: columns.map((column) =>
      designOf(terms, base, n, new Map([...without, [column, 1]])).map((v, k) => v - zero[k]!),
    ),
  };
}
