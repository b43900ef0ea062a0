import { inverse, Matrix } from "ml-matrix";
import type { CompositeModel } from "./specification";
import { SINGULAR } from "./specification";
import { withMainEffects } from "./model";

/** What is wrong with a model before anything is estimated, by its name and its culprits. */
export type FaultCode =
  | "no_indicators"
  | "unknown_variable"
  | "indicator_used_twice"
  | "unconnected_construct"
  | "cyclic_model"
  | "too_few_rows"
  | "zero_variance"
  | "no_observed"
  | "singular_block"
  | "singular_equation"
  | "bad_reliability";

export interface CompositeFault {
  code: FaultCode;
  names: string[];
}

/**
 * Faults of a model as it is written, in the order in which they are looked for; the first that
 * holds, with all its culprits.
 */
export function structuralFault(
  given: CompositeModel,
  known: ReadonlySet<string>,
): CompositeFault | null {
  const { constructs, paths } = withMainEffects(given).model;
  const fault = (code: FaultCode, names: string[]): CompositeFault | null =>
    names.length > 0 ? { code, names: [...new Set(names)] } : null;
  const used = constructs.flatMap((c) => c.indicators);
  return (
    fault(
      "no_indicators",
      constructs.filter((c) => c.indicators.length === 0).map((c) => c.name),
    ) ??
    fault(
      "unknown_variable",
      used.filter((name) => !known.has(name)),
    ) ??
    fault(
      "indicator_used_twice",
      used.filter((name, i) => used.indexOf(name) !== i),
    ) ??
    fault(
      "unconnected_construct",
      constructs.map((c) => c.name).filter((name) => !paths.some((path) => path.includes(name))),
    ) ??
    fault("cyclic_model", cycleIn(paths))
  );
}

/** Names on a directed cycle: what is left when nothing can be taken off either end. */
function cycleIn(paths: readonly [string, string][]): string[] {
  let left = [...paths];
  for (let before = -1; before !== left.length;) {
    before = left.length;
    const sources = new Set(left.map(([from]) => from));
    const targets = new Set(left.map(([, to]) => to));
    left = left.filter(([from, to]) => targets.has(from) && sources.has(to));
  }
  return [...new Set(left.flat())];
}

/** Faults of the data for a model. @param columns complete rows */
export function dataFault(
  given: CompositeModel,
  columns: ReadonlyMap<string, Float64Array>,
): CompositeFault | null {
  const { constructs, paths, products } = withMainEffects(given).model;
  const n = columns.get(constructs[0]!.indicators[0]!)!.length;
  const regressors = constructs.map(
    ({ name }) =>
      paths.filter(([, to]) => to === name).length + products.filter((p) => p.to === name).length,
  );
  const blocks = constructs.map((c) => (c.mode === "regression" ? c.indicators.length : 0));
  if (n < Math.max(3, Math.max(0, ...regressors, ...blocks) + 2))
    return { code: "too_few_rows", names: [] };
  const empty = constructs
    .flatMap((c) => c.indicators)
    .filter((name) => columns.get(name)!.every(Number.isNaN));
  if (empty.length > 0) return { code: "no_observed", names: empty };
  const constant = constructs
    .flatMap((c) => c.indicators)
    .filter((name) => columns.get(name)!.every((v, _, all) => v === all[0]));
  if (constant.length > 0) return { code: "zero_variance", names: constant };
  return null;
}

/**
 * Members of a correlation matrix whose tolerance on the others is too small: every member of a
 * dependent set.
 */
export function dependent(r: number[][], names: readonly string[]): string[] {
  const q = names.length;
  return names.filter((_, i) => {
    const others = Array.from({ length: q }, (__, k) => k).filter((k) => k !== i);
    // Others that depend on each other say the same twice: one of them is enough.
    const kept: number[] = [];
    for (const k of others) if (toleranceOf(r, k, kept) >= SINGULAR) kept.push(k);
    return toleranceOf(r, i, kept) < SINGULAR;
  });
}

/** 1 - R² of one variable on others that are not singular. */
function toleranceOf(r: number[][], y: number, on: readonly number[]): number {
  if (on.length === 0) return 1;
  const block = inverse(new Matrix(on.map((i) => on.map((j) => r[i]![j]!))));
  const c = Matrix.columnVector(on.map((i) => r[i]![y]!));
  return r[y]![y]! - c.transpose().mmul(block).mmul(c).get(0, 0);
}
