import { exp } from "../../numerics/elementary";
import type { Shape } from "./shape";

/**
 * Beyond this an exponential is not taken apart into factors, since one of them could leave the
 * range of numbers.
 */
const APART = 300;

/**
 * What designs of one equation have in common: they differ from this one by the same numbers in
 * every row.
 */
interface Common {
  equation: number;
  /** Without the offset of the equation. */
  bare: boolean;
  /** Row-major. */
  design: Float64Array;
  /** Its linear predictor at the parameters of the day. */
  etas: Float64Array;
  /** exp(-η). */
  exponentials: Float64Array;
  ready: boolean;
  readyExponentials: boolean;
  /** No |η| is beyond `APART`. */
  apart: boolean;
}

/**
 * A design as one that is common to several, and what it has beyond that in each row; `common` is
 * null where it has nothing else.
 */
export interface Predictor {
  equation: number;
  common: Common | null;
  beyond: Float64Array;
}

/**
 * Linear predictors of many designs that mostly set one column to a value. They share everything
 * else, so each equation's predictors and their exponentials are found once for a vector of
 * parameters, and every further design costs one number.
 */
export class Predictors {
  private readonly commons: Common[] = [];

  constructor(private readonly shape: Shape) {}

  /**
   * Takes a design.
   * @param design row-major and as wide as its equation
   * @param bare its predictor is without the offset of the equation
   */
  add(equation: number, design: Float64Array, bare = false): Predictor {
    const p = this.shape.columns[equation]!;
    if ((bare || !this.shape.offsets[equation]) && isConstant(design, null, p))
      return { equation, common: null, beyond: design.slice(0, p) };
    const known = this.commons.find(
      (c) => c.bare === bare && c.equation === equation && isConstant(design, c.design, p),
    );
    if (known)
      return {
        equation,
        common: known,
        beyond: Float64Array.from({ length: p }, (_, k) => design[k]! - known.design[k]!),
      };
    const common: Common = {
      equation,
      bare,
      design,
      etas: new Float64Array(this.shape.n),
      exponentials: new Float64Array(this.shape.n),
      ready: false,
      readyExponentials: false,
      apart: false,
    };
    this.commons.push(common);
    return { equation, common, beyond: new Float64Array(p) };
  }

  /** Other parameters from here on. */
  begin(): void {
    for (const common of this.commons) {
      common.ready = false;
      common.readyExponentials = false;
    }
  }

  /** What is added to the common predictor in every row. @param theta parameters, from `at` on */
  shift({ equation, beyond }: Predictor, theta: Float64Array, at: number): number {
    const from = at + this.shape.start[equation]!;
    let sum = 0;
    for (let k = 0; k < beyond.length; k++) sum += beyond[k]! * theta[from + k]!;
    return sum;
  }

  /** The common linear predictor of every row; null where it is zero in all of them. */
  etas({ common }: Predictor, theta: Float64Array, at: number): Float64Array | null {
    if (!common) return null;
    if (!common.ready) this.predict(common, theta, at);
    return common.etas;
  }

  /**
   * exp(-η) of the common predictor; null where there is none, or where it cannot be taken apart.
   */
  exponentials(predictor: Predictor, theta: Float64Array, at: number): Float64Array | null {
    const { common } = predictor;
    const etas = this.etas(predictor, theta, at);
    if (!common || !etas || !common.apart) return null;
    if (!common.readyExponentials) {
      for (let i = 0; i < etas.length; i++) common.exponentials[i] = exp(-etas[i]!);
      common.readyExponentials = true;
    }
    return common.exponentials;
  }

  private predict(common: Common, theta: Float64Array, at: number): void {
    const { n, columns, start, offsets } = this.shape;
    const { equation, design, etas } = common;
    const p = columns[equation]!;
    const from = at + start[equation]!;
    const offset = common.bare ? null : offsets[equation];
    let largest = 0;
    for (let i = 0, row = 0; i < n; i++, row += p) {
      let sum = offset ? offset[i]! : 0;
      for (let k = 0; k < p; k++) sum += design[row + k]! * theta[from + k]!;
      etas[i] = sum;
      largest = Math.max(largest, Math.abs(sum));
    }
    common.apart = largest <= APART;
    common.ready = true;
  }
}

/** The rows of a design, less those of another, are all the same. */
function isConstant(design: Float64Array, less: Float64Array | null, p: number): boolean {
  for (let at = p; at < design.length; at++) {
    const first = at % p;
    const [here, there] = less
      ? [design[at]! - less[at]!, design[first]! - less[first]!]
      : [design[at]!, design[first]!];
    if (here !== there) return false;
  }
  return true;
}
