import type { Design, Equation } from "../../design";

/**
 * How coefficients of an equation in the full sample's z-scores turn into those in a resample's own
 * z-scores. With z = (v - m) / s in the resample, a product expands as (m + s z)(n + t u) = st zu +
 * sn z + mt u + mn, so a term's coefficient collects those of the products that contain it, times
 * the means of the components left over.
 */
export interface Restandardisation {
  /** Position of the outcome among the columns of the refit. */
  outcome: number;
  /** For each coefficient, intercept first: columns whose SDs multiply it. */
  scales: Int32Array[];
  /** For each coefficient: which others flow into it, and the columns whose means weight them. */
  flows: { source: number; means: Int32Array }[][];
}

/** @param position where a design column stands among the columns of the refit */
export function restandardisation(
  equation: Equation,
  position: (key: string) => number,
): Restandardisation {
  const parts = [[], ...equation.columns.map((c) => c.components ?? [c])];
  const keys = parts.map((columns) => columns.map((c) => c.key));
  const isScore = new Map(parts.flat().map((c) => [c.key, c.contrast === null]));
  const positions = (list: string[]): Int32Array => Int32Array.from(list, position);
  return {
    outcome: position(equation.outcome),
    scales: keys.map((own) => positions(own.filter((key) => isScore.get(key)))),
    flows: keys.map((own) =>
      keys.flatMap((all, source) =>
        splits(all)
          // A code column has no mean taken off, so nothing flows past it.
          .filter(
            ({ kept, rest }) =>
              rest.length > 0 && sameKeys(kept, own) && rest.every((key) => isScore.get(key)),
          )
          .map(({ rest }) => ({ source, means: positions(rest) })),
      ),
    ),
  };
}

/**
 * Every way to part a product into factors that stay and factors that give way to their mean: a
 * square parts in two ways into one of each.
 */
function splits(keys: string[]): { kept: string[]; rest: string[] }[] {
  return keys.reduce(
    (all, key) =>
      all.flatMap(({ kept, rest }) => [
        { kept: [...kept, key], rest },
        { kept, rest: [...rest, key] },
      ]),
    [{ kept: [] as string[], rest: [] as string[] }],
  );
}

const sameKeys = (a: string[], b: string[]): boolean =>
  [...a].sort().join("\u0000") === [...b].sort().join("\u0000");

/**
 * How the average of a product of z-scores follows from averages in the full sample's z-scores:
 * with m and s of the resample, the product of (z - m) / s expands into averages of shorter
 * products.
 */
export interface AverageRule {
  /** Columns whose SDs divide the whole. */
  scales: Int32Array;
  /** Averages that enter (-1: the constant one), each times minus the means of these columns. */
  terms: { source: number; means: Int32Array }[];
}

/**
 * @param monomials every product of columns whose average is wanted, those of its factors among
 *   them
 * @param isScore is a column a z-score, not a code column
 */
export function averageRules(
  monomials: string[][],
  isScore: (key: string) => boolean,
  position: (key: string) => number,
): AverageRule[] {
  const positions = (list: string[]): Int32Array => Int32Array.from(list, position);
  return monomials.map((keys) => ({
    scales: positions(keys.filter(isScore)),
    terms: splits(keys)
      .filter(({ rest }) => rest.every(isScore))
      .map(({ kept, rest }) => ({
        source: kept.length === 0 ? -1 : monomials.findIndex((other) => sameKeys(other, kept)),
        means: positions(rest),
      })),
  }));
}

export interface Restandardisations {
  equations: Restandardisation[];
  /**
   * Positions of the columns that are z-scores: in its own scores, a resample's SD of each is one.
   */
  scores: Int32Array;
}

/** The plans of all equations; none where the design is not of z-scores. */
export function restandardisations(
  design: Design,
  position: (key: string) => number,
): Restandardisations | null {
  if (!design.standardised) return null;
  const numeric = design.equations.flatMap((e) => [
    e.outcome,
    ...e.columns.filter((c) => !c.components && c.contrast === null).map((c) => c.key),
  ]);
  return {
    equations: design.equations.map((equation) => restandardisation(equation, position)),
    scores: Int32Array.from(new Set(numeric), position),
  };
}

/**
 * Turns the coefficients at `out[at ..]` into those of the resample's own z-scores.
 * @param means of the columns in the resample, `sds` likewise
 * @param scratch at least as long as the equation has coefficients
 * @param constant taken off the intercept: the mean of the outcome, or 0 where a change of the
 *   coefficients is turned
 */
export function restandardise(
  { outcome, scales, flows }: Restandardisation,
  means: Float64Array,
  sds: Float64Array,
  scratch: Float64Array,
  out: Float64Array,
  at: number,
  constant = means[outcome]!,
): void {
  for (let i = 0; i < scales.length; i++) {
    let value = out[at + i]!;
    for (const { source, means: rest } of flows[i]!) {
      let weight = out[at + source]!;
      for (let k = 0; k < rest.length; k++) weight *= means[rest[k]!]!;
      value += weight;
    }
    if (i === 0) value -= constant;
    for (let k = 0; k < scales[i]!.length; k++) value *= sds[scales[i]![k]!]!;
    scratch[i] = value / sds[outcome]!;
  }
  for (let i = 0; i < scales.length; i++) out[at + i] = scratch[i]!;
}
