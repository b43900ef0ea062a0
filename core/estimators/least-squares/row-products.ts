/**
 * Weighted sums over rows of some columns and of the products of each two of them. The products of every row are made
 * once, so that a resample is one weighted sum of rows.
 */
export class RowProducts {
  /** Row-major n x packed length: each row's columns, then their products (upper triangle). */
  private readonly rows: Float64Array;
  /** The sums asked for last, packed likewise. */
  private readonly packed: Float64Array;
  private readonly starts: Int32Array;
  private readonly weights: Float64Array;
  private listed = 0;

  /**
   * @param z row-major n x width
   * @param extra row-major n x extras: columns of which only sums are wanted
   */
  constructor(
    n: number,
    private readonly width: number,
    z: Float64Array,
    extra: Float64Array = new Float64Array(0),
  ) {
    const extras = extra.length / n;
    const length = packedLength(width, extras);
    this.rows = new Float64Array(n * length);
    for (let i = 0; i < n; i++) {
      const row = i * width;
      let at = i * length;
      for (let j = 0; j < width; j++) this.rows[at++] = z[row + j]!;
      for (let j = 0; j < width; j++) for (let k = j; k < width; k++) this.rows[at++] = z[row + j]! * z[row + k]!;
      for (let j = 0; j < extras; j++) this.rows[at++] = extra[i * extras + j]!;
    }
    this.packed = new Float64Array(length);
    this.starts = new Int32Array(n);
    this.weights = new Float64Array(n);
  }

  /** Forgets the rows listed so far. */
  clear(): void {
    this.listed = 0;
  }

  /** Lists row i with a weight. */
  list(i: number, weight: number): void {
    this.starts[this.listed] = i * this.packed.length;
    this.weights[this.listed++] = weight;
  }

  /** The sums over the rows listed: of columns, of products (row-major width x width, upper triangle), and of the extra columns. */
  sum(sums: Float64Array, cross: Float64Array, extra?: Float64Array): void {
    const { packed, width } = this;
    weightedSums(this.rows, packed, this.starts, this.weights, this.listed);
    let at = width;
    for (let j = 0; j < width; j++) {
      sums[j] = packed[j]!;
      for (let k = j; k < width; k++) cross[j * width + k] = packed[at++]!;
    }
    if (extra) for (let j = 0; j < extra.length; j++) extra[j] = packed[at++]!;
  }
}

/** Length of a row of products, rounded up to whole groups of four so that the inner loop never reads past the end. */
const packedLength = (width: number, extras: number): number => Math.ceil((width + (width * (width + 1)) / 2 + extras) / 4) * 4;

/**
 * out = sum over the listed rows of weight x row. Four sums run in registers at a time: on the machines measured this
 * is three times faster than adding whole rows into `out`.
 */
function weightedSums(rows: Float64Array, out: Float64Array, starts: Int32Array, weights: Float64Array, listed: number): void {
  for (let k = 0; k < out.length; k += 4) {
    let a = 0;
    let b = 0;
    let c = 0;
    let d = 0;
    for (let i = 0; i < listed; i++) {
      const at = starts[i]! + k;
      const weight = weights[i]!;
      a += weight * rows[at]!;
      b += weight * rows[at + 1]!;
      c += weight * rows[at + 2]!;
      d += weight * rows[at + 3]!;
    }
    out[k] = a;
    out[k + 1] = b;
    out[k + 2] = c;
    out[k + 3] = d;
  }
}
