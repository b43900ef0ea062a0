import { chiSquaredP } from "../../numerics/distributions";
import { squaredDistance } from "../../model";
import type { ModelFit } from "./model-fit";

/** A difference of two fits as a test of what the tighter model holds fixed. */
export interface DifferenceTest {
  chi2: number;
  df: number;
  p: number;
  /** Scaled (Satorra & Bentler 2001); null where its scaling factor is not positive, and without scaled tests. */
  scaled: { scaling: number; chi2: number; p: number } | null;
  /** The scaling factor of the difference is not positive. */
  negativeScaling: boolean;
  /** The tighter model fits better by more than rounding: not nested, or a local optimum. */
  reversed: boolean;
}

/** What is compared of a fitted model. */
export interface NestedFit {
  n: number;
  observed: readonly string[];
  estimator: string;
  fit: Pick<ModelFit, "plain" | "satorraBentler" | "yuanBentler">;
}

const ROUNDING = 1e-6;

/**
 * @param tight the model with more degrees of freedom
 * @returns null where the two cannot be compared: other cases, variables or estimator, or no more degrees of freedom
 */
export function differenceTest(
  tight: NestedFit,
  loose: NestedFit,
  scaling: "satorraBentler" | "yuanBentler" = "satorraBentler",
): DifferenceTest | null {
  const df = tight.fit.plain.df - loose.fit.plain.df;
  const same =
    tight.n === loose.n &&
    tight.estimator === loose.estimator &&
    [...tight.observed].sort().join("\u0000") === [...loose.observed].sort().join("\u0000");
  if (!same || df <= 0) return null;
  const chi2 = tight.fit.plain.chi2 - loose.fit.plain.chi2;
  const c0 = tight.fit[scaling]?.scaling;
  // Without degrees of freedom a model has no scaling factor, and needs none.
  const c1 = loose.fit.plain.df === 0 ? 1 : loose.fit[scaling]?.scaling;
  const c =
    c0 === undefined || c1 === undefined
      ? null
      : (tight.fit.plain.df * c0 - loose.fit.plain.df * c1) / df;
  return {
    chi2,
    df,
    p: chiSquaredP(Math.max(0, chi2), df),
    scaled:
      c !== null && c > 0
        ? { scaling: c, chi2: chi2 / c, p: chiSquaredP(Math.max(0, chi2) / c, df) }
        : null,
    negativeScaling: c !== null && c <= 0,
    reversed: chi2 < -ROUNDING * Math.max(1, loose.fit.plain.chi2),
  };
}

export interface WaldTest {
  wald: number;
  df: number;
  p: number;
}

/**
 * Wald test that linear functions of the parameters are zero.
 * @param values of the functions; @param gradients one row of q weights per function; @param covariance q x q
 * @returns null where their covariance is singular
 */
export function waldTest(
  values: ArrayLike<number>,
  gradients: readonly ArrayLike<number>[],
  covariance: Float64Array,
  q: number,
): WaldTest | null {
  const k = gradients.length;
  const v = new Float64Array(k * k);
  for (let i = 0; i < k; i++)
    for (let j = 0; j < k; j++)
      for (let a = 0; a < q; a++) {
        const left = gradients[i]![a]!;
        if (left === 0) continue;
        for (let b = 0; b < q; b++)
          v[i * k + j] = v[i * k + j]! + left * covariance[a * q + b]! * gradients[j]![b]!;
      }
  const wald = squaredDistance(values, v);
  return wald === null ? null : { wald, df: k, p: chiSquaredP(wald, k) };
}
