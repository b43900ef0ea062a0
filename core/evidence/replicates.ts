import { bootstrapSummary, type BootstrapSummary, type ReplicateBlock } from "../inference";
import { ColumnEvaluator, type Quantity } from "../model";
import { countUntil, sortedCopy } from "../numerics/sort";
import { StudyProblem } from "../problems";
import type { Histogram } from "./types";

/** Replicates and jackknife values made so far. */
export interface Resamples {
  replicates: ReplicateBlock[];
  jackknife: ReplicateBlock;
}

/**
 * Replicates of every quantity from every resample that could be fitted; NaN where a quantity is
 * not finite in one.
 */
export interface EvaluatedReplicates {
  columns: Float64Array[];
  /** Standard errors of each quantity in the same resamples, where the resampling found them. */
  errors: Float64Array[] | null;
  /** Which of the resamples, in order, were fitted. */
  kept: Int32Array;
  /** Resamples whose fit failed: they are lost for every quantity, and never redrawn. */
  failed: number;
  /** The finite values of a quantity in ascending order; sorted when first asked for. */
  sorted(quantity: number): Float64Array;
}

/**
 * Evaluates quantities on blocks of parameter vectors. Only a failed fit takes a replicate from all
 * quantities; a quantity that is not finite in a replicate is missing there for itself alone, so
 * that no sentence changes another's numbers.
 * @param withErrors the quantities are those whose errors the resampling found, in the same order
 */
export function evaluateReplicates(
  quantities: readonly Quantity[],
  blocks: readonly ReplicateBlock[],
  withErrors = false,
): EvaluatedReplicates {
  const { kept, total } = fittedOf(blocks);
  const used = kept.length;
  const expressions = quantities.map((q) => q.expression);
  const parameters = new Map<number, Float64Array>();
  const parameter = (index: number): Float64Array => {
    let column = parameters.get(index);
    if (!column)
      parameters.set(
        index,
        (column = gathered(blocks, used, ({ values, size }, r) => values[r * size + index]!)),
      );
    return column;
  };
  const evaluator = new ColumnEvaluator(expressions, parameter, used);
  const columns = expressions.map((e) => withoutInfinities(evaluator.evaluate(e)));
  const count = quantities.length;
  const errors =
    withErrors && blocks.every((block) => block.errors)
      ? quantities.map((_, f) =>
          gathered(blocks, used, (block, r) => block.errors![r * count + f]!),
        )
      : null;
  const sorted: (Float64Array | undefined)[] = [];
  return {
    columns,
    errors,
    kept,
    failed: total - used,
    sorted: (q) => (sorted[q] ??= sortedCopy(finite(columns[q]!).values)),
  };
}

/**
 * A replicate whose fit failed is NaN throughout; where one equation alone has no solution, the
 * others have theirs.
 */
function isFailed({ size, values }: ReplicateBlock, replicate: number): boolean {
  for (let at = replicate * size; at < (replicate + 1) * size; at++)
    if (!Number.isNaN(values[at]!)) return false;
  return true;
}

/** Positions of the replicates that were fitted. */
function fittedOf(blocks: readonly ReplicateBlock[]): { kept: Int32Array; total: number } {
  const total = blocks.reduce((sum, block) => sum + block.count, 0);
  const kept = new Int32Array(total);
  let used = 0;
  let position = 0;
  for (const block of blocks) {
    for (let r = 0; r < block.count; r++, position++)
      if (!isFailed(block, r)) kept[used++] = position;
  }
  return { kept: kept.subarray(0, used), total };
}

/** One number of every fitted replicate. */
function gathered(
  blocks: readonly ReplicateBlock[],
  used: number,
  read: (block: ReplicateBlock, replicate: number) => number,
): Float64Array {
  const out = new Float64Array(used);
  let at = 0;
  for (const block of blocks) {
    for (let r = 0; r < block.count; r++) if (!isFailed(block, r)) out[at++] = read(block, r);
  }
  return out;
}

function withoutInfinities(column: Float64Array): Float64Array {
  for (let i = 0; i < column.length; i++) if (!Number.isFinite(column[i]!)) column[i] = NaN;
  return column;
}

interface Finite {
  values: Float64Array;
  /** Positions of the values among all. */
  at: Int32Array | null;
}

/** The finite values of a column; the column itself where all are. */
function finite(column: Float64Array): Finite {
  let missing = 0;
  for (let i = 0; i < column.length; i++) if (Number.isNaN(column[i]!)) missing += 1;
  if (missing === 0) return { values: column, at: null };
  const at = new Int32Array(column.length - missing);
  let used = 0;
  for (let i = 0; i < column.length; i++) if (!Number.isNaN(column[i]!)) at[used++] = i;
  return { values: Float64Array.from(at, (i) => column[i]!), at };
}

const pickAt = (column: ArrayLike<number>, at: Int32Array | null): ArrayLike<number> =>
  at ? Float64Array.from(at, (i) => column[i]!) : column;

/**
 * @param errors standard errors of the estimates, where those of the replicates are there too
 * @param strata stratum of each jackknife value, fitted or not
 * @returns null for a quantity that no replicate has
 * @throws StudyProblem `no_replicates` when every replicate failed
 */
export function summariseReplicates(
  estimates: Float64Array,
  replicates: EvaluatedReplicates,
  jackknife: EvaluatedReplicates | null,
  level: number,
  errors: (number | undefined)[] | null = null,
  strata: Int32Array | null = null,
): (BootstrapSummary | null)[] {
  if (replicates.kept.length === 0) {
    throw new StudyProblem("all_replicates_failed", {});
  }
  const failed = replicates.failed / (replicates.kept.length + replicates.failed);
  const leftStrata = strata && jackknife ? pickAt(strata, jackknife.kept) : null;
  return Array.from(estimates, (estimate, i) => {
    const { values, at } = finite(replicates.columns[i]!);
    if (values.length === 0 || !Number.isFinite(estimate)) return null;
    const left = jackknife ? finite(jackknife.columns[i]!) : null;
    const own = replicates.errors?.[i];
    return bootstrapSummary({
      estimate,
      replicates: values,
      sorted: replicates.sorted(i),
      missing: replicates.kept.length - values.length,
      failed,
      jackknife: left ? left.values : [],
      strata: leftStrata && left ? pickAt(leftStrata, left.at) : null,
      level,
      se: errors?.[i],
      replicateSe: own && pickAt(own, at),
    });
  });
}

const BINS = 41;

/** Counts in equal-width bins. @param sorted values in ascending order */
export function histogram(sorted: Float64Array): Histogram {
  const min = sorted[0] ?? Infinity;
  const max = sorted.at(-1) ?? -Infinity;
  const width = (max - min) / BINS;
  const binOf = (value: number): number =>
    width > 0 ? Math.min(BINS - 1, Math.floor((value - min) / width)) : 0;
  const ends = Array.from({ length: BINS }, (_, bin) =>
    countUntil(sorted, (value) => binOf(value) > bin),
  );
  return { min, max, counts: ends.map((end, bin) => end - (bin === 0 ? 0 : ends[bin - 1]!)) };
}
