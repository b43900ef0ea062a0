import { WEIGHTED_SUMS_WASM } from "./wasm/weighted-sums.wasm";

/**
 * Columns are kept in groups of eight, side by side in every row: as many sums as run in registers
 * at a time.
 */
const GROUP = 8;
/**
 * With more rows than this the products of columns are made anew for every resample instead of
 * being kept.
 */
const MOST_KEPT = 4096;
/** So many rows at a time, which stay in the processor's first cache. */
const CHUNK = 512;
const BYTES = 8;

/** The loops of weighted-sums.as.ts, over one memory; offsets and strides in bytes. */
interface Loops {
  add(
    data: number,
    stride: number,
    weights: number,
    rows: number,
    groups: number,
    out: number,
  ): void;
  cross(z: number, weights: number, rows: number, width: number, out: number): void;
}

export interface WeightedSumsInput {
  rows: number;
  /** Row-major rows x width: columns whose sums and cross-products are wanted. */
  width: number;
  values: Float64Array;
  /** Row-major rows x extra: columns of which only sums are wanted. */
  extra: Float64Array;
  /** Row positions of units that are drawn whole; null where every row is a unit. */
  members: Int32Array[] | null;
}

/**
 * Weighted sums over units (rows, or whole clusters) of some columns and of the products of each
 * two of them: the inner loop of every resample. It runs in WebAssembly with SIMD, and where that
 * is not to be had in TypeScript; every sum has one accumulator and rows come in order, so both
 * give the same bits, whether products are kept or not. Memory: products of at most 4096 rows (or
 * of the clusters), beyond that the columns alone.
 */
export class WeightedSums {
  readonly units: number;
  readonly sums: Float64Array;
  /** Row-major width x width, upper triangle. */
  readonly cross: Float64Array;
  readonly extra: Float64Array;
  private readonly weights: Float64Array;
  private readonly loops: Loops;
  private engine: WasmEngine | null;
  /**
   * Columns whose sums are found as they are: with products kept all of them, else only the extra
   * ones.
   */
  private readonly kept: Packed;
  /** A column of ones and the columns, for products made anew; null where they are kept. */
  private readonly fresh: Fresh | null;

  /** @param scripted true: never WebAssembly, as in a test that compares the two */
  constructor(input: WeightedSumsInput, scripted = false) {
    const { rows, width, extra, members } = input;
    const extras = rows > 0 ? extra.length / rows : 0;
    this.units = members?.length ?? rows;
    this.sums = new Float64Array(width);
    this.cross = new Float64Array(width * width);
    this.extra = new Float64Array(extras);
    const keeps = members !== null || rows <= MOST_KEPT;
    const length = keeps ? width + (width * (width + 1)) / 2 + extras : extras;
    const padded = keeps ? 0 : 4 * Math.ceil((width + 1) / 4);
    const groups = Math.ceil(length / GROUP);
    const sizes = [
      this.units,
      groups * GROUP,
      groups * GROUP * this.units,
      padded * padded,
      padded * rows,
    ];
    const { views, loops, engine } = memoryOf(sizes, scripted);
    this.engine = engine;
    const [weights, sum, data, product, z] = views as [
      Float64Array,
      Float64Array,
      Float64Array,
      Float64Array,
      Float64Array,
    ];
    this.weights = weights;
    this.loops = loops;
    this.kept = { length, groups, sum, data };
    this.fresh = keeps ? null : { padded, product, z };
    this.fill(input, extras);
  }

  /** Finds the sums under these weights, one for each unit. */
  find(weights: Float64Array): void {
    const { units, loops, kept, fresh } = this;
    this.weights.set(weights);
    kept.sum.fill(0);
    loops.add(
      kept.data.byteOffset,
      units * GROUP * BYTES,
      this.weights.byteOffset,
      units,
      kept.groups,
      kept.sum.byteOffset,
    );
    if (fresh) {
      const { z, padded, product } = fresh;
      product.fill(0);
      for (let from = 0; from < units; from += CHUNK) {
        const count = Math.min(CHUNK, units - from);
        loops.cross(
          z.byteOffset + from * padded * BYTES,
          this.weights.byteOffset + from * BYTES,
          count,
          padded,
          product.byteOffset,
        );
      }
    }
    this.unpack();
  }

  /** Gives the memory to whoever comes next; nothing may be asked of these sums afterwards. */
  release(): void {
    const { engine } = this;
    if (engine) spare.set(engine.pages, [...(spare.get(engine.pages) ?? []), engine]);
    this.engine = null;
  }

  /** The sums found last, to take single units off them with `leaveOut`. */
  total(): Float64Array[] {
    return [this.kept.sum.slice(), this.fresh?.product.slice() ?? new Float64Array(0)];
  }

  /** Finds the sums without one unit, from those of all of them with weight one. */
  leaveOut(unit: number, [sum, product]: Float64Array[]): void {
    const { kept, fresh } = this;
    for (let c = 0; c < kept.length; c++) kept.sum[c] = sum![c]! - kept.data[this.place(c, unit)]!;
    if (fresh) {
      const { padded, z } = fresh;
      const row = unit * padded;
      for (let j = 0; j < padded; j++) {
        for (let k = j; k < padded; k++)
          fresh.product[j * padded + k] = product![j * padded + k]! - z[row + j]! * z[row + k]!;
      }
    }
    this.unpack();
  }

  /** Where column c of a unit stands in the data. */
  private place(c: number, unit: number): number {
    return (Math.floor(c / GROUP) * this.units + unit) * GROUP + (c % GROUP);
  }

  /**
   * Every number of every row goes to its place; those of rows that are always drawn together are
   * added up.
   */
  private fill({ rows, width, values, extra, members }: WeightedSumsInput, extras: number): void {
    const { fresh, kept } = this;
    const all = members ?? Array.from({ length: rows }, (_, i) => [i]);
    all.forEach((list, unit) => {
      for (const i of list) {
        let c = 0;
        const put = (value: number): void => {
          const at = this.place(c++, unit);
          kept.data[at] = kept.data[at]! + value;
        };
        if (fresh) {
          fresh.z[i * fresh.padded] = 1;
          for (let j = 0; j < width; j++)
            fresh.z[i * fresh.padded + j + 1] = values[i * width + j]!;
        } else {
          for (let j = 0; j < width; j++) put(values[i * width + j]!);
          for (let j = 0; j < width; j++)
            for (let k = j; k < width; k++) put(values[i * width + j]! * values[i * width + k]!);
        }
        for (let j = 0; j < extras; j++) put(extra[i * extras + j]!);
      }
    });
  }

  private unpack(): void {
    const { sums, cross, extra, fresh } = this;
    const { sum } = this.kept;
    const width = sums.length;
    let at = fresh ? 0 : width;
    for (let j = 0; j < width; j++) {
      sums[j] = fresh ? fresh.product[j + 1]! : sum[j]!;
      for (let k = j; k < width; k++) {
        cross[j * width + k] = fresh ? fresh.product[(j + 1) * fresh.padded + k + 1]! : sum[at++]!;
      }
    }
    for (let j = 0; j < extra.length; j++) extra[j] = sum[at++]!;
  }
}

interface Packed {
  /** Columns, and groups of eight that hold them. */
  length: number;
  groups: number;
  sum: Float64Array;
  /** Group by group, unit by unit, eight numbers each. */
  data: Float64Array;
}

interface Fresh {
  /** Columns in a row: one, the columns, zeros up to a multiple of four. */
  padded: number;
  /** Row-major padded x padded. */
  product: Float64Array;
  /** Row-major rows x padded. */
  z: Float64Array;
}

const PAGE = 65536;
/** Where the first array may begin: AssemblyScript's own data end well before. */
const START = 1024;

/** Arrays of these lengths in one memory, with the loops that work on it. */
function memoryOf(
  sizes: number[],
  scripted: boolean,
): { views: Float64Array[]; loops: Loops; engine: WasmEngine | null } {
  const total = START + sizes.reduce((sum, length) => sum + length * BYTES, 0);
  const compiled = scripted ? null : compile();
  const engine = compiled && engineOf(compiled, Math.ceil(total / PAGE));
  const buffer = engine?.memory.buffer ?? new ArrayBuffer(total);
  let offset = START;
  const views = sizes.map((length) => {
    const view = new Float64Array(buffer, offset, length);
    offset += length * BYTES;
    return view;
  });
  return { views, loops: engine?.loops ?? scriptedLoops(new Float64Array(buffer)), engine };
}

/** One memory and the loops on it. */
interface WasmEngine {
  pages: number;
  memory: WebAssembly.Memory;
  loops: Loops;
}

/**
 * Given back, by their size: a simulation makes thousands of short runs, and calls into a new
 * instance are slow at first.
 */
const spare = new Map<number, WasmEngine[]>();

function engineOf(compiled: WebAssembly.Module, pages: number): WasmEngine {
  const used = spare.get(pages)?.pop();
  if (used) {
    new Uint8Array(used.memory.buffer).fill(0, START);
    return used;
  }
  const memory = new WebAssembly.Memory({ initial: pages });
  const { exports } = new WebAssembly.Instance(compiled, { env: { memory } });
  return { pages, memory, loops: exports as unknown as Loops };
}

let held: WebAssembly.Module | null | undefined;

/** The module, compiled once; null where the browser forbids or does not know it. */
function compile(): WebAssembly.Module | null {
  if (held !== undefined) return held;
  try {
    held = new WebAssembly.Module(
      Uint8Array.from(atob(WEIGHTED_SUMS_WASM), (c) => c.charCodeAt(0)),
    );
  } catch {
    held = null;
  }
  return held;
}

/** The loops of weighted-sums.as.ts, with the same order of operations. */
function scriptedLoops(memory: Float64Array): Loops {
  return {
    add(data, stride, weights, rows, groups, out) {
      const first = weights / BYTES;
      for (let c = 0; c < groups * GROUP; c++) {
        let at = (data + Math.floor(c / GROUP) * stride) / BYTES + (c % GROUP);
        let sum = memory[out / BYTES + c]!;
        for (let i = first; i < first + rows; i++, at += GROUP) sum += memory[i]! * memory[at]!;
        memory[out / BYTES + c] = sum;
      }
    },
    cross(z, weights, rows, width, out) {
      const first = weights / BYTES;
      for (let j = 0; j < width; j++) {
        for (let k = j; k < width; k++) {
          const to = out / BYTES + j * width + k;
          let sum = memory[to]!;
          for (let i = 0, at = z / BYTES; i < rows; i++, at += width)
            sum += memory[first + i]! * (memory[at + j]! * memory[at + k]!);
          memory[to] = sum;
        }
      }
    },
  };
}
