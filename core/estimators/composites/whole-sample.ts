import type { Resample } from "../../model";
import type { CompositeKernel } from "./kernel";

/** The whole sample as a resample in which everybody is drawn once. */
export function wholeSample({ columns }: CompositeKernel, weights: Float64Array): Resample {
  const width = columns?.width ?? 0;
  const sums = new Float64Array(width);
  const cross = new Float64Array(width * width);
  if (columns)
    for (let i = 0; i < weights.length; i++)
      for (let k = 0; k < width; k++) {
        const x = columns.values[i * width + k]!;
        sums[k] = sums[k]! + x;
        for (let m = k; m < width; m++)
          cross[k * width + m] = cross[k * width + m]! + x * columns.values[i * width + m]!;
      }
  return {
    total: weights.length,
    sums,
    cross,
    extra: new Float64Array(0),
    weights: () => weights,
  };
}
