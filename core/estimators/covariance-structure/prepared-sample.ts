import { normalEm } from "../../screening/normal-em";
import { ModelFault, type ArrowModel } from "./arrows";
import { singularVariables } from "./identification";
import type { PatternMoments } from "./pattern";
import { casePatterns, patternMoments, type CasePattern } from "./sample-moments";
import type { Specification, StructureSample } from "./specification";

/** One group of a sample as fitting sees it. */
export interface PreparedGroup {
  name: string;
  /** Cases with at least one value. */
  n: number;
  /** About `centres`; NaN where missing. */
  columns: Float64Array[];
  patterns: CasePattern[];
  moments: PatternMoments[];
  /**
   * Of the unrestricted normal distribution: the sample's own, by EM where values are missing.
   * About `centres`.
   */
  saturated: { means: Float64Array; covariance: Float64Array };
  /**
   * Pairs of variables, the smaller place first, that no case has both of: the data say nothing of
   * their covariance, and it is no moment.
   */
  apart: [number, number][];
}

export interface PreparedSample {
  groups: PreparedGroup[];
  /** Are values missing? */
  missing: boolean;
  /** Cases without any value, which are left out. */
  empty: number;
  /**
   * What was taken off each observed variable in each group, so that no digits are lost to distant
   * means.
   */
  centres: Float64Array[];
}

/**
 * @param models of the groups, which say what may be centred: an intercept that is fixed or shared
 *   must keep its meaning
 * @throws ModelFault `no-data`, `singular-sample-covariance`
 */
export function prepareSample(
  { observed, groups, means, convention }: Specification,
  models: readonly ArrowModel[],
  sample: StructureSample,
): PreparedSample {
  const kept = sample.groups.map(withoutEmpty);
  kept.forEach(({ columns }, g) => {
    const name = groups.length > 1 ? groups[g]!.name : "";
    const empty = observed.filter((_, i) => columns[i]!.every(Number.isNaN));
    if (empty.length > 0)
      throw new ModelFault("no-data", `“${empty[0]}” has no values at all.`, empty, {}, name);
    const constant = observed.filter((_, i) => neverVaries(columns[i]!));
    if (constant.length > 0)
      throw new ModelFault("no-variance", `“${constant[0]}” never varies.`, constant, {}, name);
  });
  const all = observed.map((_, i) => joined(kept.map(({ columns }) => columns[i]!)));
  const moving = means ? centring(models) : null;
  // Variables that move together have one centre, the same in every group.
  const common = observed.map((_, i) =>
    meanOf(joined(all.filter((_, j) => moving && moving[i]! >= 0 && moving[j] === moving[i]))),
  );
  const centres = kept.map(({ columns }) =>
    Float64Array.from(observed, (_, i) =>
      !moving ? meanOf(columns[i]!) : moving[i]! < 0 ? 0 : common[i]!,
    ),
  );
  const prepared = kept.map(({ columns }, g): PreparedGroup => {
    const centred = columns.map((column, i) => column.map((y) => y - centres[g]![i]!));
    const patterns = casePatterns(centred);
    const moments = patternMoments(centred, patterns);
    const complete = patterns.length === 1 && patterns[0]!.indices.length === observed.length;
    const saturated = complete ? moments[0]! : unrestricted(observed, centred, patterns);
    const singular = singularVariables(observed, saturated.covariance);
    const n = moments.reduce((sum, m) => sum + m.n, 0);
    if (singular.length > 0 || (complete && n <= observed.length))
      throw new ModelFault(
        "singular-sample-covariance",
        `The sample covariance matrix is singular: ${(singular.length > 0 ? singular : observed).join(", ")}.`,
        singular.length > 0 ? singular : observed,
        { n, p: observed.length },
      );
    if (convention === "wishart") toDivisorLess(moments);
    const apart = neverTogether(observed.length, patterns);
    return { name: groups[g]!.name, n, columns: centred, patterns, moments, saturated, apart };
  });
  return {
    groups: prepared,
    missing: prepared.some((g) => g.moments.some((m) => m.indices.length < observed.length)),
    empty: kept.reduce((sum, g) => sum + g.empty, 0),
    centres,
  };
}

/**
 * Which observed variables may have a mean taken off, and which of them the same: no intercept that
 * is fixed or shared changes its meaning by it. Variables whose intercepts are one parameter move
 * together. Through latent variables with a fixed mean a shift goes on to what they explain.
 * @returns for each observed variable the first of those that it moves with, -1 where it keeps the
 *   origin of its scale
 */
function centring(models: readonly ArrowModel[]): number[] {
  const p = models[0]!.observed;
  /** Variables that have each parameter as their intercept, in any group; and how often it stands. */
  const rows = new Map<number, Set<number>>();
  const uses = new Map<number, number>();
  for (const { slots } of models)
    for (const { matrix, parameter, row } of slots) {
      if (matrix !== "m" || parameter < 0) continue;
      rows.set(parameter, (rows.get(parameter) ?? new Set()).add(row));
      uses.set(parameter, (uses.get(parameter) ?? 0) + 1);
    }
  const interceptOf = ({ slots }: ArrowModel, i: number) =>
    slots.find((s) => s.matrix === "m" && s.row === i && s.parameter >= 0);
  const absorbs = (model: ArrowModel, i: number): boolean => {
    const own = interceptOf(model, i);
    if (own) return uses.get(own.parameter) === 1;
    return i >= p && effectsOf(model, i).every((row) => absorbs(model, row));
  };
  const free = (i: number): boolean =>
    models.every(
      (model) =>
        interceptOf(model, i) !== undefined &&
        effectsOf(model, i).every((row) => absorbs(model, row)),
    );
  const first = Array.from({ length: p }, (_, i) => i);
  const root = (i: number): number => (first[i] === i ? i : root(first[i]!));
  for (const together of rows.values()) {
    const [one, ...others] = [...together].filter((i) => i < p);
    for (const other of others) first[root(other)] = root(one!);
  }
  // One that keeps its origin, or a latent variable among them, keeps all where they are.
  const kept = new Set<number>();
  for (let i = 0; i < p; i++) if (!free(i)) kept.add(root(i));
  for (const together of rows.values())
    if ([...together].some((i) => i >= p)) for (const i of together) if (i < p) kept.add(root(i));
  return first.map((_, i) => (kept.has(root(i)) ? -1 : root(i)));
}

const effectsOf = ({ slots }: ArrowModel, i: number): number[] =>
  slots.flatMap((s) => (s.matrix === "A" && s.column === i ? [s.row] : []));

/** Are all known values the same? */
function neverVaries(column: Float64Array): boolean {
  const first = column.find((y) => !Number.isNaN(y));
  return column.every((y) => Number.isNaN(y) || y === first);
}

function neverTogether(p: number, patterns: readonly CasePattern[]): [number, number][] {
  const seen = new Set(
    patterns.flatMap(({ indices }) => {
      const places = [...indices];
      return places.flatMap((i) => places.map((j) => i * p + j));
    }),
  );
  return Array.from({ length: p }, (_, i) =>
    Array.from({ length: i }, (__, j): [number, number] => [j, i]),
  )
    .flat()
    .filter(([i, j]) => !seen.has(i * p + j));
}

function withoutEmpty(columns: Float64Array[]): { columns: Float64Array[]; empty: number } {
  const n = columns[0]!.length;
  const rows: number[] = [];
  for (let r = 0; r < n; r++) if (columns.some((c) => !Number.isNaN(c[r]!))) rows.push(r);
  return {
    columns:
      rows.length === n
        ? columns
        : columns.map((column) => Float64Array.from(rows, (r) => column[r]!)),
    empty: n - rows.length,
  };
}

function unrestricted(
  observed: readonly string[],
  columns: Float64Array[],
  patterns: readonly CasePattern[],
): PreparedGroup["saturated"] {
  const em = normalEm(
    columns,
    patterns.map(({ indices, rows }) => {
      const seen = new Set(indices);
      return { key: observed.map((_, i) => (seen.has(i) ? "1" : "0")).join(""), rows: [...rows] };
    }),
  );
  if (!em)
    throw new ModelFault(
      "singular-sample-covariance",
      "The covariances cannot be estimated from what was observed.",
      [...observed],
    );
  return { means: em.mean, covariance: em.covariance };
}

function toDivisorLess(moments: PatternMoments[]): void {
  for (const each of moments) {
    const ratio = each.n / (each.n - 1);
    each.covariance.forEach((value, at) => (each.covariance[at] = value * ratio));
    each.n -= 1;
  }
}

const joined = (parts: Float64Array[]): Float64Array =>
  Float64Array.from(parts.flatMap((part) => [...part]));

function meanOf(column: Float64Array): number {
  let sum = 0;
  let n = 0;
  for (const y of column)
    if (!Number.isNaN(y)) {
      sum += y;
      n += 1;
    }
  return sum / n;
}
