/** A log-likelihood of so many cases with its score: all that these steps ask for. */
export interface Climbed {
  readonly q: number;
  readonly n: number;
  /** As the last `slope` left it. */
  readonly score: Float64Array;
  /** Its value, -Infinity outside its domain. */
  valueAt(theta: ArrayLike<number>): number;
  /** The score at the point of the last value. */
  slope(): void;
}

/** Enough steps for any resample that has a highest point near that of the sample. */
const MOST_STEPS = 80;
const MOST_HALVINGS = 20;
/**
 * The criterion g' H g / N below which a refit has converged; H follows the inverse information.
 */
const CONVERGED = 1e-12;
/** Below this the likelihood is flat to the last bit, and says nothing of a step any more. */
const FLAT = 1e-9;

/**
 * Refits by quasi-Newton steps (BFGS) from the estimates and the inverse information of the whole
 * sample: a resample's likelihood is much like that of the sample, so ten slopes or so are enough,
 * and no information matrix is made at all.
 */
export class WarmRefit {
  readonly theta: Float64Array;
  private readonly next: Float64Array;
  private readonly slope: Float64Array;
  private readonly step: Float64Array;
  private readonly turned: Float64Array;
  private readonly H: Float64Array;

  /** @param inverse of the information of one case, q x q: how the parameters vary, times n */
  constructor(
    private readonly likelihood: Climbed,
    private readonly start: Float64Array,
    private readonly inverse: Float64Array,
  ) {
    const { q } = likelihood;
    this.theta = new Float64Array(q);
    this.next = new Float64Array(q);
    this.slope = new Float64Array(q);
    this.step = new Float64Array(q);
    this.turned = new Float64Array(q);
    this.H = new Float64Array(q * q);
  }

  /** @returns whether it converged; then `theta` holds the estimates */
  fit(): boolean {
    const { likelihood, theta, next, slope, step, H, inverse, start } = this;
    const { q, n } = likelihood;
    for (let k = 0; k < H.length; k++) H[k] = inverse[k]! / n;
    theta.set(start);
    let value = likelihood.valueAt(theta);
    if (value === -Infinity) return false;
    likelihood.slope();
    slope.set(likelihood.score);
    for (let taken = 0; taken < MOST_STEPS; taken++) {
      times(H, slope, step, q);
      let gain = 0;
      for (let a = 0; a < q; a++) gain += step[a]! * slope[a]!;
      const criterion = gain / n;
      if (criterion < CONVERGED) {
        // The step at hand leads nearer still; its slope need not be looked at.
        for (let a = 0; a < q; a++) theta[a] = theta[a]! + step[a]!;
        return likelihood.valueAt(theta) > -Infinity;
      }
      if (!(criterion > 0)) return false;
      let share = 1;
      let reached = -Infinity;
      for (let halving = 0; halving < MOST_HALVINGS; halving++, share /= 2) {
        for (let a = 0; a < q; a++) next[a] = theta[a]! + share * step[a]!;
        reached = likelihood.valueAt(next);
        if (reached > value || (criterion < FLAT && reached > -Infinity)) break;
      }
      if (reached === -Infinity || (reached <= value && criterion >= FLAT)) return false;
      value = reached;
      likelihood.slope();
      this.update(share);
    }
    return false;
  }

  /** The BFGS update of H, and the step itself. */
  private update(share: number): void {
    const { likelihood, theta, next, slope, step, turned, H } = this;
    const { q, score } = likelihood;
    let sy = 0;
    for (let a = 0; a < q; a++) {
      step[a] = share * step[a]!;
      // The slope falls along a step up.
      turned[a] = slope[a]! - score[a]!;
      sy += step[a]! * turned[a]!;
    }
    if (sy > 0) {
      times(H, turned, next, q);
      let yHy = 0;
      for (let a = 0; a < q; a++) yHy += next[a]! * turned[a]!;
      const first = (1 + yHy / sy) / sy;
      for (let a = 0; a < q; a++) {
        const sa = step[a]!;
        const ha = next[a]! / sy;
        for (let b = 0; b < q; b++)
          H[a * q + b] =
            H[a * q + b]! + first * sa * step[b]! - ha * step[b]! - (sa * next[b]!) / sy;
      }
    }
    for (let a = 0; a < q; a++) theta[a] = theta[a]! + step[a]!;
    slope.set(score);
  }
}

/** H x, two rows and two halves at a time: single sums would wait for one another. */
function times(H: Float64Array, x: Float64Array, out: Float64Array, q: number): void {
  const even = q - (q % 2);
  for (let a = 0; a < q; a += 2) {
    const first = a * q;
    const second = a + 1 < q ? first + q : first;
    let [s0, s1, t0, t1] = [0, 0, 0, 0];
    for (let b = 0; b < even; b += 2) {
      const y = x[b]!;
      const z = x[b + 1]!;
      s0 += H[first + b]! * y;
      s1 += H[first + b + 1]! * z;
      t0 += H[second + b]! * y;
      t1 += H[second + b + 1]! * z;
    }
    if (even < q) {
      s0 += H[first + even]! * x[even]!;
      t0 += H[second + even]! * x[even]!;
    }
    out[a] = s0 + s1;
    if (a + 1 < q) out[a + 1] = t0 + t1;
  }
}
