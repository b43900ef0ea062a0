import { bootstrapSummary, type BootstrapSummary, type ReplicateBlock } from "../inference";
import { compileExpression, type Quantity } from "../model";
import { extent } from "../numerics/moments";
import { StudyProblem } from "../problems";
import type { Histogram } from "./types";

/** Replicates of every quantity from every resample that could be fitted; NaN where a quantity is not finite in one. */
export interface EvaluatedReplicates {
  columns: Float64Array[];
  /** Standard errors of each quantity in the same resamples, where the resampling found them. */
  errors: Float64Array[] | null;
  /** Which of the resamples, in order, were fitted. */
  kept: Int32Array;
  /** Resamples whose fit failed: they are lost for every quantity, and never redrawn. */
  failed: number;
}

/**
 * Evaluates quantities on blocks of parameter vectors. Only a failed fit takes a replicate from all quantities; a quantity
 * that is not finite in a replicate is missing there for itself alone, so that no sentence changes another's numbers.
 * @param withErrors the quantities are those whose errors the resampling found, in the same order
 */
export function evaluateReplicates(quantities: Quantity[], blocks: ReplicateBlock[], withErrors = false): EvaluatedReplicates {
  const functions = quantities.map((q) => compileExpression(q.expression));
  const total = blocks.reduce((sum, block) => sum + block.count, 0);
  const columns = functions.map(() => new Float64Array(total));
  const errors = withErrors && blocks.every((block) => block.errors) ? functions.map(() => new Float64Array(total)) : null;
  const kept = new Int32Array(total);
  let used = 0;
  let position = 0;
  for (const { count, size, values, errors: found } of blocks) {
    for (let r = 0; r < count; r++, position++) {
      if (Number.isNaN(values[r * size]!)) continue;
      for (let f = 0; f < functions.length; f++) {
        const value = functions[f]!(values, r * size);
        columns[f]![used] = Number.isFinite(value) ? value : NaN;
        if (errors) errors[f]![used] = found![r * functions.length + f]!;
      }
      kept[used++] = position;
    }
  }
  const cut = (column: Float64Array): Float64Array => column.subarray(0, used);
  return { columns: columns.map(cut), errors: errors && errors.map(cut), kept: kept.subarray(0, used), failed: total - used };
}

interface Finite {
  values: Float64Array;
  /** Positions of the values among all. */
  at: Int32Array | null;
}

/** The finite values of a column; the column itself where all are. */
function finite(column: Float64Array): Finite {
  let complete = true;
  for (let i = 0; i < column.length && complete; i++) complete = !Number.isNaN(column[i]!);
  if (complete) return { values: column, at: null };
  const at = Int32Array.from(Array.from(column, (_, i) => i).filter((i) => Number.isFinite(column[i]!)));
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
    throw new StudyProblem(
      "no_replicates",
      "Every bootstrap replicate failed: the resamples are too small or too uniform for this model. Simplify the model, or use the delta method.",
    );
  }
  const leftStrata = strata && jackknife ? pickAt(strata, jackknife.kept) : null;
  return Array.from(estimates, (estimate, i) => {
    const { values, at } = finite(replicates.columns[i]!);
    if (values.length === 0 || !Number.isFinite(estimate)) return null;
    const left = jackknife ? finite(jackknife.columns[i]!) : null;
    const own = replicates.errors?.[i];
    return bootstrapSummary({
      estimate,
      replicates: values,
      missing: replicates.kept.length - values.length,
      jackknife: left ? left.values : [],
      strata: leftStrata && left ? pickAt(leftStrata, left.at) : null,
      level,
      se: errors?.[i],
      replicateSe: own && pickAt(own, at),
    });
  });
}

const BINS = 41;

/** Counts in equal-width bins; values that are not finite are left out. */
export function histogram(values: Float64Array): Histogram {
  const [min, max] = extent(values);
  const counts = new Array<number>(BINS).fill(0);
  const width = (max - min) / BINS;
  for (const value of values) {
    if (!Number.isFinite(value)) continue;
    const at = width > 0 ? Math.min(BINS - 1, Math.floor((value - min) / width)) : 0;
    counts[at] = counts[at]! + 1;
  }
  return { min, max, counts };
}
