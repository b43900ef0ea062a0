/** A column of a design as the product of base columns; none for the intercept. */
export type Term = readonly string[];

export const INTERCEPT: Term = [];

export const termName = (term: Term): string =>
  term.length === 0 ? "(intercept)" : term.join(":");

/**
 * Columns of all designs by their names, and where each is centred within products, so that these
 * lose no digits.
 */
export class Base extends Map<string, Float64Array> {
  readonly centres = new Map<string, number>();

  centre(name: string): number {
    return this.centres.get(name) ?? 0;
  }
}

/** The value of a term in row i: a column as it is, or a product of columns about their centres. */
export function termValue(term: Term, base: Base, i: number, set: Setting): number {
  const [only] = term;
  if (term.length === 1) return set.get(only!) ?? base.get(only!)![i]!;
  let value = 1;
  for (const name of term) value *= (set.get(name) ?? base.get(name)![i]!) - base.centre(name);
  return value;
}

/** The derivative of a term by columns, each at most once in it. */
export function termDerivative(
  term: Term,
  by: readonly string[],
  base: Base,
  i: number,
  set: Setting,
): number {
  if (!by.every((name) => term.includes(name))) return 0;
  let value = 1;
  for (const name of term)
    if (!by.includes(name)) value *= (set.get(name) ?? base.get(name)![i]!) - base.centre(name);
  return value;
}

/**
 * Coefficients of products of columns as they are, from those of products about centres: a product
 * is multiplied out. Row-major, terms by terms; null where a product stands without what it is made
 * of and has a centre other than zero.
 */
export function multipliedOut(terms: readonly Term[], base: Base): Float64Array | null {
  const p = terms.length;
  const keyOf = (term: readonly string[]): string => [...term].sort().join("\u0000");
  const place = new Map(terms.map((t, k) => [keyOf(t), k]));
  const map = new Float64Array(p * p);
  for (const [k, term] of terms.entries()) {
    if (term.length < 2) {
      map[k * p + k] = 1;
      continue;
    }
    for (let subset = 0; subset < 1 << term.length; subset++) {
      const kept = term.filter((_, j) => subset & (1 << j));
      const weight = term.reduce(
        (all, name, j) => (subset & (1 << j) ? all : -all * base.centre(name)),
        1,
      );
      if (weight === 0) continue;
      const row = place.get(keyOf(kept));
      if (row === undefined) return null;
      map[row * p + k] = map[row * p + k]! + weight;
    }
  }
  return map;
}

/** Columns that are set to a value in every row. */
export type Setting = ReadonlyMap<string, number>;

const NOTHING: Setting = new Map();

/**
 * The design of some terms, with columns set to values where that is wanted: row-major n x terms.
 */
export function designOf(
  terms: readonly Term[],
  base: Base,
  n: number,
  set: Setting = NOTHING,
): Float64Array {
  const p = terms.length;
  const out = new Float64Array(n * p);
  terms.forEach((term, k) => {
    for (let i = 0; i < n; i++) out[i * p + k] = termValue(term, base, i, set);
  });
  return out;
}

/**
 * The linear predictor as a + b m: designs of the terms without a column, and of those with it, of
 * which it is taken out.
 */
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

/**
 * What the product of two columns multiplies, all others of the block being zero: it is taken out,
 * row-major.
 */
export function splitCross(
  terms: readonly Term[],
  [first, second]: readonly [string, string],
  columns: readonly string[],
  base: Base,
  n: number,
  set: Setting = NOTHING,
): Float64Array {
  const without = new Map([...set, ...columns.map((c) => [c, 0] as const)]);
  const at = (a: number, b: number): Float64Array =>
    designOf(terms, base, n, new Map([...without, [first, a], [second, b]]));
  const [both, one, other, none] = [at(1, 1), at(1, 0), at(0, 1), at(0, 0)];
  return both.map((v, k) => v - one[k]! - other[k]! + none[k]!);
}

/**
 * The linear predictor as a + Σ b_j m_j in several columns; what their products multiply is taken
 * out by itself.
 */
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
