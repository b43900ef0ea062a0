import type { ArrowModel } from "./arrows";
import { addCurvature } from "./curvature";
import { directionsOf } from "./directions";
import { ImpliedMoments } from "./implied";
import { modelCurvature, throughMoments } from "./moment-curvature";
import { PatternLikelihood, type PatternMoments } from "./pattern";

/** Moments of the cases of one group: one pattern where nothing is missing. */
export interface GroupMoments {
  patterns: PatternMoments[];
}

/** Something with parameters that has a highest point: what `fisherScoring` climbs. */
export interface Objective {
  /** Number of parameters, of cases. */
  readonly q: number;
  readonly n: number;
  readonly score: Float64Array;
  /** q x q. */
  readonly information: Float64Array;
  /** Its value, -Infinity outside its domain. */
  valueAt(theta: ArrayLike<number>): number;
  /** Score and information at the point of the last value, which must lie in the domain. */
  derivatives(): void;
}

/**
 * The normal log-likelihood of a model of one or several groups, complete or with values missing,
 * with its score, expected and observed information. Likelihoods of groups and of patterns of
 * missing values add up.
 */
export class NormalLikelihood implements Objective {
  readonly q: number;
  readonly score: Float64Array;
  readonly information: Float64Array;
  readonly implied: ImpliedMoments[];
  readonly parts: PatternLikelihood[][];

  constructor(
    models: readonly ArrowModel[],
    readonly groups: readonly GroupMoments[],
  ) {
    this.q = models[0]!.parameters.length;
    this.score = new Float64Array(this.q);
    this.information = new Float64Array(this.q * this.q);
    this.implied = models.map((model) => new ImpliedMoments(model));
    this.parts = this.implied.map((implied, g) => {
      const directions = directionsOf(implied.model);
      return groups[g]!.patterns.map(
        (moments) => new PatternLikelihood(implied, directions, moments),
      );
    });
  }

  /** Cases of all groups. */
  get n(): number {
    let n = 0;
    for (const { patterns } of this.groups) for (const pattern of patterns) n += pattern.n;
    return n;
  }

  valueAt(theta: ArrayLike<number>): number {
    let value = 0;
    for (let g = 0; g < this.implied.length; g++) {
      this.implied[g]!.at(theta);
      for (const part of this.parts[g]!)
        if (part.moments.n > 0) value += part.moments.n * part.value();
    }
    return Number.isNaN(value) ? -Infinity : value;
  }

  /** Value, score and information. @returns null outside the domain */
  at(theta: ArrayLike<number>): number | null {
    const value = this.valueAt(theta);
    if (value === -Infinity) return null;
    this.derivatives();
    return value;
  }

  derivatives(): void {
    const { information, q } = this;
    this.caseDerivatives();
    information.fill(0);
    for (const parts of this.parts)
      for (const part of parts) if (part.moments.n > 0) part.addInformation(information, q);
    symmetric(information, q);
  }

  /**
   * The score, with what the scores of single cases are made of, at the point of the last value.
   */
  caseDerivatives(): void {
    this.score.fill(0);
    for (const parts of this.parts)
      for (const part of parts) {
        if (part.moments.n === 0) continue;
        part.columns();
        part.addScore(this.score);
      }
  }

  /** The score alone, at the point of the last value. */
  slope(): void {
    this.score.fill(0);
    for (const parts of this.parts)
      for (const part of parts) if (part.moments.n > 0) part.addScoreAlone(this.score);
  }

  /**
   * Minus the second derivatives of the log-likelihood at the point of the last `derivatives` or
   * `caseDerivatives`, q x q.
   */
  observedInformation(): Float64Array {
    const { q } = this;
    // Each pair of arrows is met once; arrows that are one parameter then count both ways, too.
    const pairs = new Float64Array(q * q);
    const own = new Float64Array(q * q);
    for (const parts of this.parts) {
      const { count, parameter } = parts[0]!.directions;
      const through = throughMoments(parts) ? modelCurvature(parts) : null;
      for (let s = 0; s < count; s++) {
        const row = parameter[s]! * q;
        if (through) {
          for (let t = 0; t < s; t++)
            pairs[row + parameter[t]!] = pairs[row + parameter[t]!]! + through.between(s, t);
          own[row + parameter[s]!] = own[row + parameter[s]!]! + through.between(s, s);
        } else
          for (const part of parts) {
            addCurvature(part, s, s, pairs, row);
            addCurvature(part, s, s + 1, own, row, s);
          }
      }
    }
    const observed = own;
    for (let a = 0; a < q; a++)
      for (let b = 0; b < q; b++)
        observed[a * q + b] = observed[a * q + b]! + pairs[a * q + b]! + pairs[b * q + a]!;
    return observed;
  }
}

/** Both triangles of what was added to either: pairs of parameters were met in one order each. */
function symmetric(matrix: Float64Array, q: number): void {
  for (let a = 0; a < q; a++)
    for (let b = 0; b < a; b++) {
      const value = matrix[a * q + b]! + matrix[b * q + a]!;
      matrix[a * q + b] = matrix[b * q + a] = value;
    }
}
