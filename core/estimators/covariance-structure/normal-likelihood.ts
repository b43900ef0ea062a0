import type { ArrowModel } from "./arrows";
import { directionsOf } from "./directions";
import { ImpliedMoments } from "./implied";
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
  /** Value, score and information. @returns null outside the domain */
  at(theta: ArrayLike<number>): number | null;
}

/**
 * The normal log-likelihood of a model of one or several groups, complete or with values missing, with its score, expected and
 * observed information. Likelihoods of groups and of patterns of missing values add up.
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
      for (const part of this.parts[g]!) value += part.moments.n * part.value();
    }
    return Number.isNaN(value) ? -Infinity : value;
  }

  at(theta: ArrayLike<number>): number | null {
    const value = this.valueAt(theta);
    if (value === -Infinity) return null;
    const { score, information, q } = this;
    score.fill(0);
    information.fill(0);
    for (const parts of this.parts)
      for (const part of parts) {
        part.columns();
        const { n } = part.moments;
        const { list } = part.directions;
        for (let s = 0; s < list.length; s++) {
          const one = list[s]!;
          const a = one.parameter;
          score[a] = score[a]! + n * part.slope(one);
          for (let t = 0; t <= s; t++) {
            const two = list[t]!;
            const b = two.parameter;
            const add = n * part.information(one, two);
            information[a * q + b] = information[a * q + b]! + add;
            if (s !== t) information[b * q + a] = information[b * q + a]! + add;
          }
        }
      }
    return value;
  }

  /** Minus the second derivatives of the log-likelihood at the point of the last `at`, q x q. */
  observedInformation(): Float64Array {
    const { q } = this;
    const observed = new Float64Array(q * q);
    for (const parts of this.parts)
      for (const part of parts) {
        const { n } = part.moments;
        const { list } = part.directions;
        for (let s = 0; s < list.length; s++)
          for (let t = 0; t <= s; t++) {
            const [a, b] = [list[s]!.parameter, list[t]!.parameter];
            const add = n * part.curvature(list[s]!, list[t]!);
            observed[a * q + b] = observed[a * q + b]! - add;
            if (s !== t) observed[b * q + a] = observed[b * q + a]! - add;
          }
      }
    return observed;
  }
}
