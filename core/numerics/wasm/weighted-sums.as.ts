// The hot loops of resampling in AssemblyScript; `npm run wasm` compiles them to weighted-sums.wasm.ts.
// weighted-sums.ts holds the same loops in TypeScript, with the same order of additions, so both give the same bits.

/** Adds to out[c] the sum over rows of weight x data for groups of eight columns; `stride` is the bytes of one group. */
export function add(data: usize, stride: usize, weights: usize, rows: i32, groups: i32, out: usize): void {
  for (let g = 0; g < groups; g++) {
    let at = data + usize(g) * stride;
    const to = out + usize(g) * 64;
    let a = v128.load(to);
    let b = v128.load(to, 16);
    let c = v128.load(to, 32);
    let d = v128.load(to, 48);
    const end = weights + usize(rows) * 8;
    for (let from = weights; from < end; from += 8) {
      const w = v128.load_splat<f64>(from);
      a = v128.add<f64>(a, v128.mul<f64>(w, v128.load(at)));
      b = v128.add<f64>(b, v128.mul<f64>(w, v128.load(at, 16)));
      c = v128.add<f64>(c, v128.mul<f64>(w, v128.load(at, 32)));
      d = v128.add<f64>(d, v128.mul<f64>(w, v128.load(at, 48)));
      at += 64;
    }
    v128.store(to, a);
    v128.store(to, b, 16);
    v128.store(to, c, 32);
    v128.store(to, d, 48);
  }
}

/** Copies a column (stride 8) into its place among groups of eight. */
function put(from: usize, rows: i32, to: usize): void {
  const end = from + usize(rows) * 8;
  for (; from < end; from += 8, to += 64) f64.store(to, f64.load(from));
}

/**
 * Fills groups of eight with `rows` rows: the columns, their products (upper triangle), the extra columns.
 * `columns` points at the first row wanted of the first column, `height` is the bytes of one column.
 */
export function fill(columns: usize, height: usize, rows: i32, width: i32, extra: i32, data: usize, stride: usize): void {
  let c = 0;
  for (let j = 0; j < width; j++, c++) put(columns + usize(j) * height, rows, data + usize(c >> 3) * stride + usize(c & 7) * 8);
  for (let j = 0; j < width; j++) {
    for (let k = j; k < width; k++, c++) {
      let to = data + usize(c >> 3) * stride + usize(c & 7) * 8;
      let x = columns + usize(j) * height;
      let y = columns + usize(k) * height;
      const end = x + usize(rows) * 8;
      for (; x < end; x += 8, y += 8, to += 64) f64.store(to, f64.load(x) * f64.load(y));
    }
  }
  for (let j = width; j < width + extra; j++, c++) put(columns + usize(j) * height, rows, data + usize(c >> 3) * stride + usize(c & 7) * 8);
}
