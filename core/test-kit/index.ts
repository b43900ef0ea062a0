import type { Kernel } from "../model";
import { WeightedSums } from "../numerics/weighted-sums";
import { analyse } from "../analysis";
import { guessVariable, TableBuilder, type Table, type Variable } from "../data";
import type { Evidence } from "../evidence";
import { RandomStream } from "../numerics/random";
import { StudyProblem } from "../problems";
import { DEFAULT_SETTINGS, newDefinition, type Settings, type StudyDefinition } from "../study";

/** What a made-up study states; tests only. */
export interface MadeStudy {
  columns: Record<string, readonly (number | string | null)[]>;
  theory: string;
  /** No resamples unless asked for. */
  settings?: Partial<Settings>;
  /** What the guess gets wrong. */
  variables?: Record<string, Partial<Variable>>;
}

/**
 * How much of something a test does: enough to notice what is wrong, or, in the long run before a
 * release, enough to measure it.
 */
export const amount = (usual: number, long: number): number =>
  import.meta.env.MODE === "long" ? long : usual;

/** A study and its data from plain columns. */
export function madeStudy({ columns, theory, settings = {}, variables = {} }: MadeStudy): {
  definition: StudyDefinition;
  table: Table;
} {
  const names = Object.keys(columns);
  const builder = new TableBuilder(names);
  for (let i = 0; i < (columns[names[0]!]?.length ?? 0); i++)
    builder.add(names.map((name) => String(columns[name]![i] ?? "")));
  const table = builder.build();
  const guessed = table.columns.map((column) => ({
    ...guessVariable(column),
    ...variables[column.name],
  }));
  const definition = {
    ...newDefinition("made up", guessed),
    theory,
    settings: { ...DEFAULT_SETTINGS, replications: 0, ...settings },
  };
  return { definition, table };
}

export function analyseMade(made: MadeStudy): Evidence {
  const { definition, table } = madeStudy(made);
  return analyse(definition, table);
}

/** The problem that stops an analysis; fails the test when nothing does. */
export function problemOf(made: MadeStudy): StudyProblem {
  try {
    analyseMade(made);
  } catch (error) {
    if (error instanceof StudyProblem) return error;
    throw error;
  }
  throw new Error("The analysis was expected to stop.");
}

/** Standard normal numbers that depend on the seed alone. */
export function normals(n: number, seed: number): number[] {
  const stream = new RandomStream(seed, 0);
  return Array.from({ length: n }, () => stream.normal());
}

/**
 * A second route to coefficients: least squares of raw columns by normal equations and Gauss-Jordan
 * elimination, intercept first.
 */
export function regress(y: number[], ...x: number[][]): number[] {
  const rows = y.map((_, i) => [1, ...x.map((column) => column[i]!)]);
  const p = rows[0]!.length;
  const work = Array.from({ length: p }, (_, a) => [
    ...Array.from({ length: p }, (__, c) => rows.reduce((sum, row) => sum + row[a]! * row[c]!, 0)),
    rows.reduce((sum, row, i) => sum + row[a]! * y[i]!, 0),
  ]);
  for (let k = 0; k < p; k++) {
    const best = work
      .slice(k)
      .reduce((at, row, i) => (Math.abs(row[k]!) > Math.abs(work[at]![k]!) ? k + i : at), k);
    [work[k], work[best]] = [work[best]!, work[k]!];
    work[k] = work[k]!.map((v) => v / work[k]![k]!);
    for (let i = 0; i < p; i++)
      if (i !== k) work[i] = work[i]!.map((v, j) => v - work[i]![k]! * work[k]![j]!);
  }
  return work.map((row) => row[p]!);
}

/**
 * Refits a kernel under row weights, as a resample that happened to draw them; null where the refit
 * fails.
 */
export function refitUnder(kernel: Kernel, weights: Float64Array): Float64Array | null {
  const { n, columns } = kernel;
  const none = new Float64Array(0);
  const sums = new WeightedSums({
    rows: n,
    ...(columns ?? { width: 0, values: none, extra: none }),
    members: null,
  });
  sums.find(weights);
  const total = weights.reduce((all, w) => all + w, 0);
  const out = new Float64Array(kernel.size);
  const resample = {
    total,
    sums: sums.sums,
    cross: sums.cross,
    extra: sums.extra,
    weights: () => weights,
  };
  return kernel.refit(resample, out, 0) ? out : null;
}
