import { compileExpression, type Quantity } from "../effects";
import { bootstrapSummary, type BootstrapSummary, type ReplicateBlock } from "../inference";
import { extent } from "../numerics/moments";
import { StudyProblem } from "../problems";
import type { Histogram } from "./types";

/** Replicates of every quantity, failed ones removed for all alike. */
export interface EvaluatedReplicates {
  columns: Float64Array[];
  used: number;
  failed: number;
}

/**
 * Evaluates quantities on blocks of parameter vectors. A replicate fails when its fit failed or any quantity is
 * not finite; it is removed for every quantity and never redrawn.
 */
export function evaluateReplicates(quantities: Quantity[], blocks: ReplicateBlock[]): EvaluatedReplicates {
  const functions = quantities.map((q) => compileExpression(q.expression));
  const total = blocks.reduce((sum, block) => sum + block.count, 0);
  const columns = functions.map(() => new Float64Array(total));
  let used = 0;
  for (const { count, size, values } of blocks) {
    for (let r = 0; r < count; r++) {
      let finite = !Number.isNaN(values[r * size]!);
      for (let f = 0; f < functions.length && finite; f++) {
        const value = functions[f]!(values, r * size);
        if (Number.isFinite(value)) columns[f]![used] = value;
        else finite = false;
      }
      if (finite) used += 1;
    }
  }
  return { columns: columns.map((column) => column.subarray(0, used)), used, failed: total - used };
}

/** @throws StudyProblem `no_replicates` when every replicate failed */
export function summariseReplicates(
  quantities: Quantity[],
  estimates: Float64Array,
  replicates: EvaluatedReplicates,
  jackknife: EvaluatedReplicates | null,
  level: number,
): BootstrapSummary[] {
  if (replicates.used === 0) {
    throw new StudyProblem(
      "no_replicates",
      "Every bootstrap replicate failed: the resamples are too small or too uniform for this model. Simplify the model, or use the delta method.",
    );
  }
  return quantities.map((_, i) =>
    bootstrapSummary({
      estimate: estimates[i]!,
      replicates: replicates.columns[i]!,
      jackknife: jackknife ? jackknife.columns[i]! : [],
      level,
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
