import { choleskyInPlace, choleskySolveInPlace } from "../../numerics/cholesky";
import { MOST_SIZE, sizeOf } from "./dispersion";
import { hasNewton, Newton } from "./newton";
import {
  familyOf,
  isBinary,
  isCount,
  negativeBinomial,
  type Family,
  type FamilyId,
} from "./families";

/** One equation as plain data: rows x columns of its design, the intercept first. */
export interface Equation {
  family: FamilyId;
  /** Row-major n x p. */
  design: Float64Array;
  columns: number;
  y: Float64Array;
  /** Added to the linear predictor; none where null. */
  offset: Float64Array | null;
}

export type FitEnding = "converged" | "not_converged" | "singular";

const MOST_ROUNDS = 100;
const DEVIANCE = 1e-12;
const COEFFICIENTS = 1e-8;
/** Of the size, relative. */
const SIZE = 1e-10;
/** Halvings of a step that raises the deviance. */
const MOST_HALVINGS = 30;
/** Share of a column that others do not explain, below which it counts as one of them. */
const SINGULAR = 1e-15;

/**
 * Maximum likelihood of a generalised linear model by iteratively reweighted least squares
 * (McCullagh & Nelder 1989), with row weights, in columns that are centred and scaled inside: raw
 * cross-products of calendar years would lose the digits. Both the deviance and the coefficients
 * must have settled. Linear models take one step.
 */
export class GeneralisedFit {
  /** Coefficients of the columns as they are. */
  readonly beta: Float64Array;
  readonly eta: Float64Array;
  readonly mu: Float64Array;
  deviance = NaN;
  private start: Float64Array | null = null;
  /** For fits that begin where the sample ended. */
  private newton: Newton | null = null;
  /** Of a negative binomial response: its size θ, with a variance of μ + μ²/θ. */
  size: number | null = null;
  private startSize: number | null = null;
  private family: Family;
  private readonly p: number;
  private readonly n: number;
  private readonly centre: Float64Array;
  private readonly scale: Float64Array;
  /** Columns about their means in SDs; the first is one. */
  private readonly z: Float64Array;
  private readonly gamma: Float64Array;
  private readonly last: Float64Array;
  private readonly information: Float64Array;
  private readonly right: Float64Array;

  constructor(readonly equation: Equation) {
    const { design, columns: p, y } = equation;
    const n = y.length;
    this.n = n;
    this.p = p;
    this.family = familyOf(equation.family);
    this.beta = new Float64Array(p);
    this.gamma = new Float64Array(p);
    this.last = new Float64Array(p);
    this.eta = new Float64Array(n);
    this.mu = new Float64Array(n);
    this.information = new Float64Array(p * p);
    this.right = new Float64Array(p);
    this.centre = new Float64Array(p);
    this.scale = new Float64Array(p).fill(1);
    for (let k = 1; k < p; k++) {
      let sum = 0;
      for (let i = 0; i < n; i++) sum += design[i * p + k]!;
      const centre = sum / n;
      let squares = 0;
      for (let i = 0; i < n; i++) {
        const d = design[i * p + k]! - centre;
        squares += d * d;
      }
      this.centre[k] = centre;
      this.scale[k] = Math.sqrt(squares / n) || 1;
    }
    this.z = Float64Array.from(design, (v, at) => {
      const k = at % p;
      return (v - this.centre[k]!) / this.scale[k]!;
    });
    for (let i = 0; i < n; i++) this.z[i * p] = 1;
  }

  /** The response as a function of its predictor, and its scatter at the fit. */
  get response(): Family {
    return this.family;
  }

  /** Fits under row weights; `beta`, `eta`, `mu` hold the result. */
  fit(weights: Float64Array): FitEnding {
    if (this.equation.family === "negative_binomial") return this.fitWithSize(weights);
    if (this.start && this.newton) {
      this.gamma.set(this.start);
      if (this.newton.solve(weights, this.gamma)) {
        this.finish();
        return "converged";
      }
    }
    return this.fitMeans(weights);
  }

  /**
   * Means and size in turn: information on the one says nothing of the other, so few rounds are
   * needed.
   */
  private fitWithSize(weights: Float64Array): FitEnding {
    let size = this.startSize ?? MOST_SIZE;
    for (let round = 0; round < MOST_ROUNDS; round++) {
      this.family = negativeBinomial(size);
      const ending = this.fitMeans(weights, round > 0);
      if (ending !== "converged") return ending;
      const from = size === MOST_SIZE ? 1 : size;
      const next = sizeOf(this.equation.y, this.mu, weights, from);
      const settled = Math.abs(next - size) <= SIZE * size;
      size = next;
      this.size = size;
      if (settled) return "converged";
    }
    return "not_converged";
  }

  private fitMeans(weights: Float64Array, goingOn = false): FitEnding {
    const { gamma, last, family } = this;
    if (!goingOn) this.begin();
    let deviance = Infinity;
    for (let round = 0; round < MOST_ROUNDS; round++) {
      last.set(gamma);
      if (!this.step(weights)) return "singular";
      this.predict();
      let now = this.devianceOf(weights);
      if (round > 0)
        for (
          let half = 0;
          half < MOST_HALVINGS && !(now <= deviance * (1 + 1e-10) + 1e-10);
          half++
        ) {
          for (let k = 0; k < this.p; k++) gamma[k] = (gamma[k]! + last[k]!) / 2;
          this.predict();
          now = this.devianceOf(weights);
        }
      if (!Number.isFinite(now)) return "not_converged";
      const settled = Math.abs(now - deviance) / (Math.abs(now) + 0.1) < DEVIANCE && this.still();
      deviance = now;
      if (settled || family.id === "linear") {
        this.deviance = now;
        this.finish();
        return "converged";
      }
    }
    this.finish();
    return "not_converged";
  }

  /**
   * Fits, and begins later fits there; of those of logistic and Poisson models nothing but the
   * coefficients is found.
   */
  startFrom(weights: Float64Array): void {
    if (this.fit(weights) !== "converged") return;
    this.start = this.gamma.slice();
    this.startSize = this.size;
    const { family, y, offset } = this.equation;
    if (hasNewton(family)) this.newton = new Newton(family, this.z, this.p, y, offset);
  }

  private begin(): void {
    if (this.start) {
      this.gamma.set(this.start);
      this.predict();
      return;
    }
    const { mu, eta, family } = this;
    const { y } = this.equation;
    for (let i = 0; i < this.n; i++) {
      const start = isBinary(family.id)
        ? (y[i]! + 0.5) / 2
        : isCount(family.id)
          ? y[i]! + 0.1
          : y[i]!;
      mu[i] = start;
      eta[i] = family.link(start);
    }
    this.gamma.fill(0);
  }

  /** One weighted least-squares step. @returns false where columns determine one another */
  private step(weights: Float64Array): boolean {
    const { information: a, right, z, mu, eta, family, p, n, gamma } = this;
    const { y, offset } = this.equation;
    a.fill(0);
    right.fill(0);
    const flat = family.id === "linear";
    for (let i = 0; i < n; i++) {
      const f = weights[i]!;
      if (f === 0) continue;
      const shift = offset ? offset[i]! : 0;
      let w = f;
      let response = y[i]! - shift;
      if (!flat) {
        const d = family.slopeAt(eta[i]!, mu[i]!);
        const v = family.variance(mu[i]!);
        w = (f * d * d) / v;
        response = eta[i]! - shift + (y[i]! - mu[i]!) / d;
        if (!(w > 0)) continue;
      }
      const row = i * p;
      for (let j = 0; j < p; j++) {
        const wz = w * z[row + j]!;
        right[j] = right[j]! + wz * response;
        const at = j * p;
        for (let k = 0; k <= j; k++) a[at + k] = a[at + k]! + wz * z[row + k]!;
      }
    }
    if (!(choleskyInPlace(a, p, p) > SINGULAR)) return false;
    choleskySolveInPlace(a, p, p, right);
    gamma.set(right);
    return true;
  }

  private predict(): void {
    const { eta, mu, z, gamma, family, p, n } = this;
    const { offset } = this.equation;
    for (let i = 0; i < n; i++) {
      const row = i * p;
      let sum = offset ? offset[i]! : 0;
      for (let k = 0; k < p; k++) sum += z[row + k]! * gamma[k]!;
      eta[i] = sum;
      mu[i] = family.mean(sum);
    }
  }

  private devianceOf(weights: Float64Array): number {
    const { mu, family, n } = this;
    const { y } = this.equation;
    let sum = 0;
    for (let i = 0; i < n; i++) {
      const f = weights[i]!;
      if (f !== 0) sum += f * family.deviance(y[i]!, mu[i]!);
    }
    return sum;
  }

  /** No coefficient, in SDs of its column, has moved. */
  private still(): boolean {
    const { gamma, last, p } = this;
    let moved = 0;
    let largest = 0;
    for (let k = 0; k < p; k++) {
      moved = Math.max(moved, Math.abs(gamma[k]! - last[k]!));
      largest = Math.max(largest, Math.abs(gamma[k]!));
    }
    return moved < COEFFICIENTS * (1 + largest);
  }

  private finish(): void {
    const { beta, gamma, centre, scale, p } = this;
    let intercept = gamma[0]!;
    for (let k = 1; k < p; k++) {
      beta[k] = gamma[k]! / scale[k]!;
      intercept -= beta[k]! * centre[k]!;
    }
    beta[0] = intercept;
  }

  /**
   * Covariances of the coefficients from those of the columns inside: T C T', written for `inverse`
   * in the inner columns.
   */
  outward(inner: Float64Array): Float64Array {
    const { p, centre, scale } = this;
    const t = new Float64Array(p * p);
    t[0] = 1;
    for (let k = 1; k < p; k++) {
      t[k] = -centre[k]! / scale[k]!;
      t[k * p + k] = 1 / scale[k]!;
    }
    return sandwich(t, inner, p, p);
  }

  /** The inverse information in the inner columns, at the fit. */
  innerInverse(): Float64Array {
    const { z, mu, eta, family, p, n } = this;
    const a = new Float64Array(p * p);
    for (let i = 0; i < n; i++) {
      const d = family.slope(eta[i]!);
      const w = (d * d) / family.variance(mu[i]!);
      for (let j = 0; j < p; j++)
        for (let k = 0; k <= j; k++)
          a[j * p + k] = a[j * p + k]! + w * z[i * p + j]! * z[i * p + k]!;
    }
    choleskyInPlace(a, p, p);
    const out = new Float64Array(p * p);
    const column = new Float64Array(p);
    for (let j = 0; j < p; j++) {
      column.fill(0);
      column[j] = 1;
      choleskySolveInPlace(a, p, p, column);
      for (let k = 0; k < p; k++) out[k * p + j] = column[k]!;
    }
    return out;
  }

  /** Influence of every row on the coefficients, n A⁻¹ u, row-major n x p. */
  influence(inverse: Float64Array): Float64Array {
    const { p, n, mu, eta, family } = this;
    const { y, design } = this.equation;
    const out = new Float64Array(n * p);
    for (let i = 0; i < n; i++) {
      const u = ((y[i]! - mu[i]!) * family.slope(eta[i]!)) / family.variance(mu[i]!);
      for (let j = 0; j < p; j++) {
        let sum = 0;
        for (let k = 0; k < p; k++) sum += inverse[j * p + k]! * design[i * p + k]!;
        out[i * p + j] = n * sum * u;
      }
    }
    return out;
  }
}

/** J V J', row-major. @param j rows x size; @param v size x size */
export function sandwich(
  j: Float64Array,
  v: Float64Array,
  rows: number,
  size: number,
): Float64Array {
  const half = new Float64Array(rows * size);
  for (let r = 0; r < rows; r++)
    for (let m = 0; m < size; m++) {
      const left = j[r * size + m]!;
      if (left === 0) continue;
      for (let k = 0; k < size; k++)
        half[r * size + k] = half[r * size + k]! + left * v[m * size + k]!;
    }
  const out = new Float64Array(rows * rows);
  for (let r = 0; r < rows; r++)
    for (let s = 0; s < rows; s++) {
      let sum = 0;
      for (let k = 0; k < size; k++) sum += half[r * size + k]! * j[s * size + k]!;
      out[r * rows + s] = sum;
    }
  return out;
}
