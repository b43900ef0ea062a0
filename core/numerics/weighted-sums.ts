import { WEIGHTED_SUMS_WASM } from "./wasm/weighted-sums.wasm";

/** Columns are kept in groups of eight, side by side in every row: as many sums as run in registers at a time. */
const GROUP = 8;
/** With more rows than this, products of columns are made anew in chunks instead of being kept. */
const MOST_KEPT = 4096;
const CHUNK = 512;
const BYTES = 8;

/** The loops, over one memory; offsets and strides in bytes. */
interface Loops {
  add(data: number, stride: number, weights: number, rows: number, groups: number, out: number): void;
  fill(columns: number, height: number, rows: number, width: number, extra: number, data: number, stride: number): void;
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
 * Weighted sums over units (rows, or whole clusters) of some columns and of the products of each two of them: the inner loop
 * of every resample. It runs in WebAssembly with SIMD, and where that is not to be had in TypeScript; every column has one
 * accumulator and rows come in order, so both give the same bits. Memory: at most 4096 rows of products, or the columns alone.
 */
export class WeightedSums {
  readonly units: number;
  readonly sums: Float64Array;
  /** Row-major width x width, upper triangle. */
  readonly cross: Float64Array;
  readonly extra: Float64Array;
  private readonly length: number;
  private readonly groups: number;
  private readonly chunk: number;
  private readonly loops: Loops;
  private readonly weights: Float64Array;
  private readonly packed: Float64Array;
  /** Groups of eight of the rows kept, or of one chunk. */
  private readonly data: Float64Array;
  /** Column-major columns, then extra columns; empty where the products of all rows are kept. */
  private readonly columns: Float64Array;

  /** @param scripted true: never WebAssembly, as in a test that compares the two */
  constructor(
    private readonly input: WeightedSumsInput,
    scripted = false,
  ) {
    const { rows, width, extra, members } = input;
    const extras = rows > 0 ? extra.length / rows : 0;
    this.units = members?.length ?? rows;
    this.length = width + (width * (width + 1)) / 2 + extras;
    this.groups = Math.ceil(this.length / GROUP);
    this.sums = new Float64Array(width);
    this.cross = new Float64Array(width * width);
    this.extra = new Float64Array(extras);
    const kept = members !== null || rows <= MOST_KEPT;
    this.chunk = kept ? this.units : CHUNK;
    const sizes = {
      weights: this.units,
      packed: this.groups * GROUP,
      data: this.groups * GROUP * this.chunk,
      columns: members === null ? rows * (width + extras) : 0,
    };
    const { views, loops } = memoryOf(sizes, scripted);
    this.loops = loops;
    [this.weights, this.packed, this.data, this.columns] = views as [Float64Array, Float64Array, Float64Array, Float64Array];
    if (members) this.addUpMembers(members, extras);
    else {
      this.standUp(extras);
      if (kept) this.fill(0, rows);
    }
  }

  /** Finds the sums under these weights, one for each unit. */
  find(weights: Float64Array): void {
    const { units, chunk, groups, loops, packed } = this;
    this.weights.set(weights);
    packed.fill(0);
    const stride = chunk * GROUP * BYTES;
    for (let from = 0; from < units; from += chunk) {
      const count = Math.min(chunk, units - from);
      if (chunk < units) this.fill(from, count);
      loops.add(this.data.byteOffset, stride, this.weights.byteOffset + from * BYTES, count, groups, packed.byteOffset);
    }
    this.unpack(packed);
  }

  /** The packed sums found last: to take single units off them with `leaveOut`. */
  total(): Float64Array {
    return this.packed.slice();
  }

  /** Finds the sums without one unit, from those of all of them with weight one. */
  leaveOut(unit: number, total: Float64Array): void {
    const { chunk, units, packed } = this;
    const row = chunk < units ? unit % chunk : unit;
    if (chunk < units && row === 0) this.fill(unit, Math.min(chunk, units - unit));
    for (let c = 0; c < this.length; c++) packed[c] = total[c]! - this.data[this.place(c, row)]!;
    this.unpack(packed);
  }

  /** Where column c of a row stands in the data. */
  private place(c: number, row: number): number {
    return (Math.floor(c / GROUP) * this.chunk + row) * GROUP + (c % GROUP);
  }

  private fill(from: number, count: number): void {
    const { rows, width } = this.input;
    const { columns, data, chunk } = this;
    const stride = chunk * GROUP * BYTES;
    this.loops.fill(columns.byteOffset + from * BYTES, rows * BYTES, count, width, this.extra.length, data.byteOffset, stride);
  }

  private standUp(extras: number): void {
    const { rows, width, values, extra } = this.input;
    for (let j = 0; j < width; j++) for (let i = 0; i < rows; i++) this.columns[j * rows + i] = values[i * width + j]!;
    for (let j = 0; j < extras; j++) for (let i = 0; i < rows; i++) this.columns[(width + j) * rows + i] = extra[i * extras + j]!;
  }

  /** Rows of a unit are always drawn together, so their products are added up once. */
  private addUpMembers(members: Int32Array[], extras: number): void {
    const { width, values, extra } = this.input;
    members.forEach((rows, unit) => {
      const put = (c: number, value: number): void => {
        const at = this.place(c, unit);
        this.data[at] = this.data[at]! + value;
      };
      for (const i of rows) {
        let c = 0;
        for (let j = 0; j < width; j++) put(c++, values[i * width + j]!);
        for (let j = 0; j < width; j++) for (let k = j; k < width; k++) put(c++, values[i * width + j]! * values[i * width + k]!);
        for (let j = 0; j < extras; j++) put(c++, extra[i * extras + j]!);
      }
    });
  }

  private unpack(packed: Float64Array): void {
    const { sums, cross, extra } = this;
    const { width } = this.input;
    let at = width;
    for (let j = 0; j < width; j++) {
      sums[j] = packed[j]!;
      for (let k = j; k < width; k++) cross[j * width + k] = packed[at++]!;
    }
    for (let j = 0; j < extra.length; j++) extra[j] = packed[at++]!;
  }
}

const PAGE = 65536;
/** Where the first array may begin: AssemblyScript's own data end well before. */
const START = 1024;

/** Arrays of these lengths in one memory, with the loops that work on it. */
function memoryOf(sizes: Record<string, number>, scripted: boolean): { views: Float64Array[]; loops: Loops } {
  const total = START + Object.values(sizes).reduce((sum, length) => sum + length * BYTES, 0);
  const compiled = scripted ? null : compile();
  const memory = compiled && new WebAssembly.Memory({ initial: Math.ceil(total / PAGE) });
  const buffer = memory?.buffer ?? new ArrayBuffer(total);
  let offset = START;
  const views = Object.values(sizes).map((length) => {
    const view = new Float64Array(buffer, offset, length);
    offset += length * BYTES;
    return view;
  });
  const loops = compiled
    ? (new WebAssembly.Instance(compiled, { env: { memory: memory! } }).exports as unknown as Loops)
    : scriptedLoops(new Float64Array(buffer));
  return { views, loops };
}

let held: WebAssembly.Module | null | undefined;

/** The module, compiled once; null where the browser forbids or does not know it. */
function compile(): WebAssembly.Module | null {
  if (held !== undefined) return held;
  try {
    held = new WebAssembly.Module(Uint8Array.from(atob(WEIGHTED_SUMS_WASM), (c) => c.charCodeAt(0)));
  } catch {
    held = null;
  }
  return held;
}

/** The loops of weighted-sums.as.ts, line for line. */
function scriptedLoops(memory: Float64Array): Loops {
  return {
    add(data, stride, weights, rows, groups, out) {
      const first = weights / BYTES;
      for (let g = 0; g < groups; g++) {
        const to = (out + g * GROUP * BYTES) / BYTES;
        for (let c = 0; c < GROUP; c++) {
          let at = (data + g * stride) / BYTES + c;
          let sum = memory[to + c]!;
          for (let i = first; i < first + rows; i++, at += GROUP) sum += memory[i]! * memory[at]!;
          memory[to + c] = sum;
        }
      }
    },
    fill(columns, height, rows, width, extra, data, stride) {
      const column = (j: number): number => (columns + j * height) / BYTES;
      let c = 0;
      const target = (): number => (data + Math.floor(c / GROUP) * stride) / BYTES + (c % GROUP);
      const put = (j: number): void => {
        for (let i = 0, from = column(j), to = target(); i < rows; i++, to += GROUP) memory[to] = memory[from + i]!;
        c += 1;
      };
      for (let j = 0; j < width; j++) put(j);
      for (let j = 0; j < width; j++) {
        for (let k = j; k < width; k++, c++) {
          for (let i = 0, x = column(j), y = column(k), to = target(); i < rows; i++, to += GROUP)
            memory[to] = memory[x + i]! * memory[y + i]!;
        }
      }
      for (let j = width; j < width + extra; j++) put(j);
    },
  };
}
