import { compileExpression, type Quantity } from "../effects";
import { bootstrapSummary, type BootstrapSummary, type ReplicateBlock } from "../inference";
import { extent } from "../numerics/moments";
import { StudyProblem } from "../problems";
import type { Histogram } from "./types";

/** Replicates of every quantity, failed ones removed for all alike. */
export interface EvaluatedReplicates {
  columns: Float64Array[];
  /** Standard errors of each quantity in the same resamples, where the resampling found them. */
  errors: Float64Array[] | null;
  used: number;
  failed: number;
}

/**
 * Evaluates quantities on blocks of parameter vectors. A replicate fails when its fit failed or any quantity is
 * not finite; it is removed for every quantity and never redrawn.
 * @param withErrors the quantities are those whose errors the resampling found, in the same order
 */
export function evaluateReplicates(quantities: Quantity[], blocks: ReplicateBlock[], withErrors = false): EvaluatedReplicates {
  const functions = quantities.map((q) => compileExpression(q.expression));
  const total = blocks.reduce((sum, block) => sum + block.count, 0);
  const columns = functions.map(() => new Float64Array(total));
  const errors = withErrors && blocks.every((block) => block.errors) ? functions.map(() => new Float64Array(total)) : null;
  let used = 0;
  for (const { count, size, values, errors: found } of blocks) {
    for (let r = 0; r < count; r++) {
      let finite = !Number.isNaN(values[r * size]!);
      for (let f = 0; f < functions.length && finite; f++) {
        const value = functions[f]!(values, r * size);
        if (Number.isFinite(value)) columns[f]![used] = value;
        else finite = false;
      }
      if (!finite) continue;
      if (errors) for (let f = 0; f < functions.length; f++) errors[f]![used] = found![r * functions.length + f]!;
      used += 1;
    }
  }
  const cut = (column: Float64Array): Float64Array => column.subarray(0, used);
  return { columns: columns.map(cut), errors: errors && errors.map(cut), used, failed: total - used };
}

/**
 * @param errors standard errors of the estimates, where those of the replicates are there too
 * @throws StudyProblem `no_replicates` when every replicate failed
 */
export function summariseReplicates(
  estimates: Float64Array,
  replicates: EvaluatedReplicates,
  jackknife: EvaluatedReplicates | null,
  level: number,
  errors: (number | undefined)[] | null = null,
): BootstrapSummary[] {
  if (replicates.used === 0) {
    throw new StudyProblem(
      "no_replicates",
      "Every bootstrap replicate failed: the resamples are too small or too uniform for this model. Simplify the model, or use the delta method.",
    );
  }
  return Array.from(estimates, (estimate, i) =>
    bootstrapSummary({
      estimate,
      replicates: replicates.columns[i]!,
      jackknife: jackknife ? jackknife.columns[i]! : [],
      level,
      se: errors?.[i],
      replicateSe: replicates.errors?.[i],
    }),
  );
}

const BINS = 41;

export function histogram(values: Float64Array): Histogram {
  const [min, max] = extent(values);
  const counts = new Array<number>(BINS).fill(0);
  const width = (max - min) / BINS;
  for (const value of values) {
    const at = width > 0 ? Math.min(BINS - 1, Math.floor((value - min) / width)) : 0;
    counts[at] = counts[at]! + 1;
  }
  return { min, max, counts };
}
