// The hot loops of resampling in AssemblyScript; `npm run wasm` compiles them to
// weighted-sums.wasm.ts. weighted-sums.ts holds the same loops in TypeScript, with the same order
// of additions, so both give the same bits.

/**
 * Adds to out[c] the sum over rows of weight x data for groups of eight columns; `stride` is the
 * bytes of one group.
 */
export function add(
  data: usize,
  stride: usize,
  weights: usize,
  rows: i32,
  groups: i32,
  out: usize,
): void {
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

/**
 * Adds to out (width x width, row-major, from the diagonal blocks of four on) the sum over rows of
 * weight x (z_j x z_k). `z` is row-major with `width` columns, a multiple of four.
 */
export function cross(z: usize, weights: usize, rows: i32, width: i32, out: usize): void {
  const row = usize(width) * 8;
  for (let j = 0; j < width; j += 2) {
    for (let k = j & ~3; k < width; k += 4) {
      const to = out + usize(j) * row + usize(k) * 8;
      let a = v128.load(to);
      let b = v128.load(to, 16);
      let c = v128.load(to + row);
      let d = v128.load(to + row, 16);
      let first = z + usize(j) * 8;
      let second = z + usize(k) * 8;
      const end = weights + usize(rows) * 8;
      for (let from = weights; from < end; from += 8, first += row, second += row) {
        const w = v128.load_splat<f64>(from);
        const x = v128.load_splat<f64>(first);
        const y = v128.load_splat<f64>(first, 8);
        const p = v128.load(second);
        const q = v128.load(second, 16);
        a = v128.add<f64>(a, v128.mul<f64>(w, v128.mul<f64>(x, p)));
        b = v128.add<f64>(b, v128.mul<f64>(w, v128.mul<f64>(x, q)));
        c = v128.add<f64>(c, v128.mul<f64>(w, v128.mul<f64>(y, p)));
        d = v128.add<f64>(d, v128.mul<f64>(w, v128.mul<f64>(y, q)));
      }
      v128.store(to, a);
      v128.store(to, b, 16);
      v128.store(to + row, c);
      v128.store(to + row, d, 16);
    }
  }
}
