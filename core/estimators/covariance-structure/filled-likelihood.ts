import { choleskyInPlace, choleskySolveInPlace } from "../../numerics/cholesky";
import { ln } from "../../numerics/elementary";
import type { ArrowModel } from "./arrows";
import { directionsOf } from "./directions";
import { ImpliedMoments } from "./implied";
import { PatternLikelihood, type PatternMoments } from "./pattern";
import { invertLower, rowProducts } from "./triangular";

/** A pivot below this share of its diagonal leaves no covariance matrix. */
const SINGULAR = 1e-12;
const LOG_2_PI = ln(2 * Math.PI);

/** The moments of a group's patterns; may be written over between calls. */
export interface FilledGroup {
  patterns: readonly PatternMoments[];
  /** Whose cases are all the same, so that they have no covariance. */
  single: readonly boolean[];
}

/**
 * The normal log-likelihood of cases with values missing and its slope, for refits of resamples:
 * the same numbers as `NormalLikelihood` gives, from one inverse for all patterns.
 *
 * With K = Sigma^-1 and m what a pattern lacks, log|Sigma_oo| = log|Sigma| + log|K_mm|; filling m
 * with its expectation, d_m = -K_mm^-1 K_mo d_o, makes d' K d the case's own quadratic form. With
 * K_mm^-1 added, the filled moments are those that the cases are expected to have, and the score
 * of complete cases with these moments is the score of the incomplete ones (Fisher's identity;
 * Dempster, Laird & Rubin 1977, J R Stat Soc B 39). A pattern costs as much as what it lacks.
 *
 * Where Sigma itself is singular the value is -Infinity, though a pattern might still have one.
 */
export class FilledLikelihood {
  readonly q: number;
  readonly score: Float64Array;
  readonly implied: readonly ImpliedMoments[];
  private readonly parts: readonly FilledPart[];

  constructor(models: readonly ArrowModel[], groups: readonly FilledGroup[]) {
    this.q = models[0]!.parameters.length;
    this.score = new Float64Array(this.q);
    this.implied = models.map((model) => new ImpliedMoments(model));
    this.parts = this.implied.map((implied, g) => new FilledPart(implied, groups[g]!));
  }

  /** Cases of all groups. */
  get n(): number {
    let n = 0;
    for (const part of this.parts) n += part.n;
    return n;
  }

  valueAt(theta: ArrayLike<number>): number {
    let value = 0;
    for (let g = 0; g < this.parts.length; g++) {
      this.implied[g]!.at(theta);
      value += this.parts[g]!.value();
    }
    return Number.isNaN(value) ? -Infinity : value;
  }

  /** The score at the point of the last value. */
  slope(): void {
    this.score.fill(0);
    for (const part of this.parts) part.addSlope(this.score);
  }
}

/** One group. Holds its room, so that refitting allocates nothing. */
class FilledPart {
  /** Complete cases with the filled moments. */
  private readonly whole: PatternLikelihood;
  private readonly filled: PatternMoments;
  /** What each pattern lacks. */
  private readonly lacking: Int32Array[];
  private readonly L: Float64Array;
  private readonly inverse: Float64Array;
  private readonly turned: Float64Array;
  private readonly K: Float64Array;
  /** K_mm and its factor, m x m; filled deviations; room for a column. */
  private readonly own: Float64Array;
  private readonly d: Float64Array;
  private readonly column: Float64Array;
  /** -K_mm^-1 K_mo, m x k. */
  private readonly back: Float64Array;
  /** Sums over patterns: filled deviations, their products, and what is added for not knowing. */
  private readonly first: Float64Array;
  private readonly products: Float64Array;
  private readonly added: Float64Array;

  constructor(
    private readonly implied: ImpliedMoments,
    private readonly group: FilledGroup,
  ) {
    const { p } = implied;
    this.filled = {
      n: 0,
      indices: Int32Array.from({ length: p }, (_, i) => i),
      means: new Float64Array(p),
      covariance: new Float64Array(p * p),
    };
    this.whole = new PatternLikelihood(implied, directionsOf(implied.model), this.filled);
    this.lacking = group.patterns.map(({ indices }) => {
      const known = new Set(indices);
      return this.filled.indices.filter((i) => !known.has(i));
    });
    [this.L, this.inverse, this.turned, this.K, this.own, this.back, this.products, this.added] =
      Array.from({ length: 8 }, () => new Float64Array(p * p)) as [
        Float64Array,
        Float64Array,
        Float64Array,
        Float64Array,
        Float64Array,
        Float64Array,
        Float64Array,
        Float64Array,
      ];
    [this.d, this.column, this.first] = Array.from({ length: 3 }, () => new Float64Array(p)) as [
      Float64Array,
      Float64Array,
      Float64Array,
    ];
  }

  get n(): number {
    let n = 0;
    for (const pattern of this.group.patterns) n += pattern.n;
    return n;
  }

  addSlope(score: Float64Array): void {
    if (this.filled.n > 0) this.whole.addScoreAlone(score);
  }

  /** The log-likelihood of the group's cases at what `implied` holds. */
  value(): number {
    const { implied, group, filled, first, products, added, K } = this;
    const { p } = implied;
    const logDeterminant = this.invert();
    if (logDeterminant === null) return -Infinity;
    first.fill(0);
    products.fill(0);
    added.fill(0);
    let value = 0;
    let n = 0;
    for (let t = 0; t < group.patterns.length; t++) {
      const pattern = group.patterns[t]!;
      if (pattern.n === 0) continue;
      n += pattern.n;
      const lacking = this.lacking[t]!;
      const less = this.factorOwn(lacking);
      if (less === null) return -Infinity;
      value -= 0.5 * pattern.n * (pattern.indices.length * LOG_2_PI + logDeterminant + less);
      this.fillDeviations(pattern, lacking);
      this.addCases(pattern.n);
      this.addUnknown(pattern.n, lacking);
      if (!group.single[t]) this.addSpread(pattern, lacking);
    }
    filled.n = n;
    if (n === 0) return 0;
    let trace = 0;
    for (let i = 0; i < p; i++)
      for (let j = 0; j <= i; j++)
        trace += (i === j ? 1 : 2) * K[i * p + j]! * products[i * p + j]!;
    value -= 0.5 * trace;
    for (let i = 0; i < p; i++) {
      filled.means[i] = implied.means[i]! + first[i]! / n;
      for (let j = 0; j <= i; j++) {
        const at = i * p + j;
        filled.covariance[at] = filled.covariance[j * p + i] =
          (products[at]! + added[at]!) / n - (first[i]! / n) * (first[j]! / n);
      }
    }
    return this.whole.value() > -Infinity ? value : -Infinity;
  }

  /** K. @returns log|Sigma|, null where Sigma is no covariance matrix */
  private invert(): number | null {
    const { implied, L, inverse, turned, K } = this;
    const { p, Sigma } = implied;
    L.set(Sigma);
    if (!(choleskyInPlace(L, p, p) > SINGULAR)) return null;
    invertLower(L, inverse, p);
    for (let i = 0; i < p; i++)
      for (let j = 0; j < p; j++) turned[i * p + j] = j >= i ? inverse[j * p + i]! : 0;
    rowProducts(turned, turned, K, p, true);
    let sum = 0;
    for (let i = 0; i < p; i++) sum += ln(L[i * p + i]!);
    return 2 * sum;
  }

  /** The factor of K_mm into `own`. @returns log|K_mm|, null where it is singular */
  private factorOwn(lacking: Int32Array): number | null {
    const { own, K, implied } = this;
    const { p } = implied;
    const m = lacking.length;
    for (let a = 0; a < m; a++)
      for (let b = 0; b <= a; b++) own[a * m + b] = K[lacking[a]! * p + lacking[b]!]!;
    if (m > 0 && !(choleskyInPlace(own, m, m) > SINGULAR)) return null;
    let determinant = 1;
    for (let a = 0; a < m; a++) determinant *= own[a * m + a]!;
    return 2 * ln(determinant);
  }

  /** Deviations of a pattern's means, with what is expected where there are none. */
  private fillDeviations({ indices, means }: PatternMoments, lacking: Int32Array): void {
    const { d, K, column, implied } = this;
    const { p } = implied;
    for (let i = 0; i < indices.length; i++) {
      const at = indices[i]!;
      d[at] = means[i]! - implied.means[at]!;
    }
    for (let a = 0; a < lacking.length; a++) {
      let sum = 0;
      const row = lacking[a]! * p;
      for (let i = 0; i < indices.length; i++) sum -= K[row + indices[i]!]! * d[indices[i]!]!;
      column[a] = sum;
    }
    choleskySolveInPlace(this.own, lacking.length, lacking.length, column);
    for (let a = 0; a < lacking.length; a++) d[lacking[a]!] = column[a]!;
  }

  /** Adds n times the filled deviations and their products. */
  private addCases(n: number): void {
    const { d, first, products, implied } = this;
    const { p } = implied;
    for (let i = 0; i < p; i++) {
      const x = n * d[i]!;
      first[i] = first[i]! + x;
      for (let j = 0; j <= i; j++) products[i * p + j] = products[i * p + j]! + x * d[j]!;
    }
  }

  /** Adds n K_mm^-1: how much what is filled in may vary about its expectation. */
  private addUnknown(n: number, lacking: Int32Array): void {
    const { column, added, implied } = this;
    const { p } = implied;
    const m = lacking.length;
    for (let a = 0; a < m; a++) {
      for (let b = 0; b < m; b++) column[b] = a === b ? n : 0;
      choleskySolveInPlace(this.own, m, m, column);
      const row = lacking[a]! * p;
      for (let b = 0; b <= a; b++)
        added[row + lacking[b]!] = added[row + lacking[b]!]! + column[b]!;
    }
  }

  /** Adds n times the covariance about a pattern's means, S_oo, and what follows for m by it. */
  private addSpread({ n, indices, covariance }: PatternMoments, lacking: Int32Array): void {
    const { back, column, products, implied } = this;
    const { p } = implied;
    const k = indices.length;
    const m = lacking.length;
    this.findBack(indices, lacking);
    for (let i = 0; i < k; i++)
      for (let j = 0; j <= i; j++) this.add(indices[i]!, indices[j]!, n * covariance[i * k + j]!);
    for (let a = 0; a < m; a++) {
      for (let j = 0; j < k; j++) {
        let sum = 0;
        for (let i = 0; i < k; i++) sum += back[a * k + i]! * covariance[i * k + j]!;
        column[j] = sum;
        this.add(lacking[a]!, indices[j]!, n * sum);
      }
      for (let b = 0; b <= a; b++) {
        let sum = 0;
        for (let j = 0; j < k; j++) sum += column[j]! * back[b * k + j]!;
        products[lacking[a]! * p + lacking[b]!] =
          products[lacking[a]! * p + lacking[b]!]! + n * sum;
      }
    }
  }

  private add(i: number, j: number, value: number): void {
    const { products, implied } = this;
    const at = i >= j ? i * implied.p + j : j * implied.p + i;
    products[at] = products[at]! + value;
  }

  /** -K_mm^-1 K_mo, m x k. */
  private findBack(indices: Int32Array, lacking: Int32Array): void {
    const { back, column, K, implied } = this;
    const k = indices.length;
    const m = lacking.length;
    for (let i = 0; i < k; i++) {
      for (let a = 0; a < m; a++) column[a] = -K[lacking[a]! * implied.p + indices[i]!]!;
      choleskySolveInPlace(this.own, m, m, column);
      for (let a = 0; a < m; a++) back[a * k + i] = column[a]!;
    }
  }
}
