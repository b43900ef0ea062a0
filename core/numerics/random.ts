import { ln } from "./elementary";
/**
 * A random stream keyed by (seed, index): xoshiro128** (Blackman & Vigna 2021, ACM TOMS 47) whose
 * four state words come from a SplitMix-style finaliser of the key. Replicate r therefore draws the
 * same numbers on any worker, in any order, in a browser or in Node. Written here rather than taken
 * from a package because the bootstrap loop re-keys it for every replicate and must not allocate.
 */
export class RandomStream {
  private a = 0;
  private b = 0;
  private c = 0;
  private d = 0;
  private spare = NaN;

  constructor(seed = 1, index = 0) {
    this.key(seed, index);
  }

  /** Restarts the stream at (seed, index); seed: integer 0..2^53-1, index: integer 0..2^32-1. */
  key(seed: number, index: number): void {
    const low = seed >>> 0;
    const high = Math.floor(seed / 4294967296) >>> 0;
    let h = mix(low ^ 0x9e3779b9);
    h = mix(h ^ high ^ 0x85ebca6b);
    h = mix(h ^ (index >>> 0));
    this.a = mix((h + 0x9e3779b9) | 0);
    this.b = mix((this.a + 0x3c6ef372) | 0) ^ mix(index + 0x1b873593);
    this.c = mix((this.b + 0xdaa66d2b) | 0) ^ low;
    this.d = mix((this.c + 0x78dde6e4) | 0) ^ high;
    // The all-zero state is the one fixed point of the generator.
    if ((this.a | this.b | this.c | this.d) === 0) this.a = 1;
    this.spare = NaN;
    for (let i = 0; i < 4; i++) this.next();
  }

  /** The next unsigned 32-bit integer. */
  next(): number {
    const x = Math.imul(this.b, 5);
    const result = Math.imul((x << 7) | (x >>> 25), 9);
    const t = this.b << 9;
    this.c ^= this.a;
    this.d ^= this.b;
    this.b ^= this.c;
    this.a ^= this.d;
    this.c ^= t;
    this.d = (this.d << 11) | (this.d >>> 21);
    return result >>> 0;
  }

  /** Uniform on the open interval (0, 1), 53 bits. */
  uniform(): number {
    const high = this.next() >>> 5;
    const low = this.next() >>> 6;
    return (high * 67108864 + low + 0.5) / 9007199254740992;
  }

  /** Uniform integer in 0..n-1; the bias is below n / 2^32 and far under any Monte Carlo error. */
  below(n: number): number {
    return Math.floor(this.next() * (n / 4294967296));
  }

  /**
   * Draws `draws` integers in 0..n-1 and counts each in `counts`: the resampling loop. The state
   * lives in local variables here, which is several times faster than calling `below`; the numbers
   * are the same.
   */
  countDraws(counts: Float64Array, n: number, draws: number): void {
    let { a, b, c, d } = this;
    const scale = n / 4294967296;
    for (let i = 0; i < draws; i++) {
      const x = Math.imul(b, 5);
      const result = Math.imul((x << 7) | (x >>> 25), 9);
      const t = b << 9;
      c ^= a;
      d ^= b;
      b ^= c;
      a ^= d;
      c ^= t;
      d = (d << 11) | (d >>> 21);
      const at = Math.floor((result >>> 0) * scale);
      counts[at] = counts[at]! + 1;
    }
    this.a = a;
    this.b = b;
    this.c = c;
    this.d = d;
  }

  /** Standard normal by the polar method (Marsaglia & Bray 1964, SIAM Review 6). */
  normal(): number {
    if (!Number.isNaN(this.spare)) {
      const kept = this.spare;
      this.spare = NaN;
      return kept;
    }
    for (;;) {
      const u = 2 * this.uniform() - 1;
      const v = 2 * this.uniform() - 1;
      const s = u * u + v * v;
      if (s >= 1 || s === 0) continue;
      const factor = Math.sqrt((-2 * ln(s)) / s);
      this.spare = v * factor;
      return u * factor;
    }
  }
}

/**
 * What random numbers are drawn for: every purpose has streams of its own under one seed, so that
 * no two of them ever share a draw. The values are the first stream of each; a new purpose gets a
 * free range here.
 */
const STREAMS = {
  /** Bootstrap replicates. */
  bootstrap: 0x00000000,
  /** Simulated samples, one a stream. */
  simulation: 0x40000000,
  permutations: 0x60000000,
  /** Draws from the sampling distribution of the parameters. */
  monteCarlo: 0x80000000,
  /** Assignment of rows to folds. */
  folds: 0xc0000000,
  /** Rows made up to have given moments. */
  moments: 0xe0000000,
} as const;

export type StreamPurpose = keyof typeof STREAMS;

/**
 * Index of the r-th stream of a purpose.
 * @param r integer from 0 to the size of its range, at least 2^29 - 1
 */
export const streamIndex = (purpose: StreamPurpose, r: number): number => STREAMS[purpose] + r;

/** The 32-bit finaliser of MurmurHash3: every input bit reaches every output bit. */
function mix(value: number): number {
  let h = value | 0;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return h ^ (h >>> 16);
}
