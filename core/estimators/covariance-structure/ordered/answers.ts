import type { Quantity } from "../../../model";
import type { QuantityReading } from "../../engine";
import { Phi2 } from "../../../numerics/bivariate-normal";
import { Phi } from "../../../numerics/distributions";

/**
 * Covariance of the answers (levels counted 0, 1, ...) of two items whose tendencies correlate r: K(r)
 * = sum_cd Phi2(tau_jc, tau_kd, r) - sum_c Phi(tau_jc) sum_d Phi(tau_kd); r = 1 for an item with
 * itself.
 */
export function answerCovariance(
  first: ArrayLike<number>,
  second: ArrayLike<number>,
  r: number,
): number {
  let sum = 0;
  let one = 0;
  let other = 0;
  for (let c = 0; c < first.length; c++) {
    one += Phi(first[c]!);
    for (let d = 0; d < second.length; d++)
      sum += r >= 1 ? Phi(Math.min(first[c]!, second[d]!)) : Phi2(first[c]!, second[d]!, r);
  }
  for (let d = 0; d < second.length; d++) other += Phi(second[d]!);
  return sum - one * other;
}

/**
 * Reliability of the sum of ordered answers by one factor (Green & Yang 2009, Psychometrika 74):
 * what the factor makes of their variance, against all of it as the model implies it.
 * @param thresholds by item, keyed the same way; @param loadings standardised
 * @param correlations implied of the tendencies, k x k
 */
export function omegaOfAnswers(
  thresholds: readonly ArrayLike<number>[],
  loadings: readonly number[],
  correlations: readonly (readonly number[])[],
): number {
  let common = 0;
  let all = 0;
  for (let j = 0; j < loadings.length; j++)
    for (let k = 0; k < loadings.length; k++) {
      const [one, other] = [thresholds[j]!, thresholds[k]!];
      common += answerCovariance(one, other, loadings[j]! * loadings[k]!);
      all += answerCovariance(one, other, j === k ? 1 : correlations[j]![k]!);
    }
  return common / all;
}

/** Shares of answers at each level that a tendency of this mean has. */
export const levelShares = (thresholds: ArrayLike<number>, mean: number, sd: number): number[] => {
  const below = Array.from(thresholds, (tau) => Phi((tau - mean) / sd));
  return [...below, 1].map((value, c) => value - (c === 0 ? 0 : below[c - 1]!));
};

/** How an effect on an observed ordered outcome is read. */
export const tendencyReading = (
  names: ReadonlySet<string> | undefined,
  { to }: Pick<Quantity, "to">,
): QuantityReading | null =>
  to !== null && names?.has(to)
    ? {
        measure: "SDs of the tendency behind the answers",
        sizedIn: `the tendency behind ${to}`,
        scale: null,
        between: null,
        name: null,
        rests: null,
      }
    : null;
