import { extent } from "./moments";

/** Held between calls, so that sorting many samples allocates nothing but what it returns. */
let starts = new Int32Array(0);
let bin = new Int32Array(0);

/** Values a bin holds on average. */
const PER_BIN = 2;
/** A bin fuller than this means that the values are bunched together, where bins save nothing. */
const FULLEST = 64;

/**
 * A sorted copy. Values that scatter as replicates do are counted into bins of equal width, which
 * leaves each within a few places of where it belongs; an insertion sort does the rest. Twice as
 * fast as the engine's sort on 10,000 of them; bunched values (heavy tails, ties) are left to that.
 * @param values all finite
 */
export function sortedCopy(values: Float64Array): Float64Array {
  const n = values.length;
  if (n < FULLEST) return values.slice().sort();
  const [min, max] = extent(values);
  const bins = Math.ceil(n / PER_BIN);
  const scale = (bins - 1) / (max - min);
  if (!(scale > 0 && Number.isFinite(scale))) return values.slice().sort();
  if (starts.length <= bins) starts = new Int32Array(bins + 1);
  if (bin.length < n) bin = new Int32Array(n);
  starts.fill(0, 0, bins + 1);
  for (let i = 0; i < n; i++) {
    const at = ((values[i]! - min) * scale) | 0;
    bin[i] = at;
    starts[at + 1] = starts[at + 1]! + 1;
  }
  for (let b = 0; b < bins; b++) {
    if (starts[b + 1]! > FULLEST) return values.slice().sort();
    starts[b + 1] = starts[b + 1]! + starts[b]!;
  }
  const out = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    const b = bin[i]!;
    const at = starts[b]!;
    out[at] = values[i]!;
    starts[b] = at + 1;
  }
  insertionSort(out);
  return out;
}

function insertionSort(values: Float64Array): void {
  for (let i = 1; i < values.length; i++) {
    const v = values[i]!;
    let j = i - 1;
    while (j >= 0 && values[j]! > v) {
      values[j + 1] = values[j]!;
      j -= 1;
    }
    values[j + 1] = v;
  }
}

/**
 * How many values come before the first for which `beyond` holds; it must hold for all that follow.
 */
export function countUntil(sorted: Float64Array, beyond: (value: number) => boolean): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (beyond(sorted[middle]!)) high = middle;
    else low = middle + 1;
  }
  return low;
}
