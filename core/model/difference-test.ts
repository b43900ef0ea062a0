import { chiSquaredP } from "../numerics/distributions";

/** A difference of two fits as a test of what the tighter model holds fixed. */
export interface DifferenceTest {
  chi2: number;
  df: number;
  p: number;
  /**
   * Scaled (Satorra & Bentler 2001); null where its scaling factor is not positive, and without
   * scaled tests.
   */
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
  chi2: number;
  df: number;
  /** Scaling factor of its test (Satorra & Bentler 1994); null where there is none. */
  scaling: number | null;
}

const ROUNDING = 1e-6;

/**
 * @param tight the model with more degrees of freedom
 * @returns null where the two cannot be compared: other cases, variables or estimator, or no more
 *   degrees of freedom
 */
export function differenceTest(tight: NestedFit, loose: NestedFit): DifferenceTest | null {
  const df = tight.df - loose.df;
  const same =
    tight.n === loose.n &&
    tight.estimator === loose.estimator &&
    [...tight.observed].sort().join("\u0000") === [...loose.observed].sort().join("\u0000");
  if (!same || df <= 0) return null;
  const chi2 = tight.chi2 - loose.chi2;
  // Without degrees of freedom a model has no scaling factor, and needs none.
  const scaling = loose.df === 0 ? 1 : loose.scaling;
  const c =
    tight.scaling === null || scaling === null
      ? null
      : (tight.df * tight.scaling - loose.df * scaling) / df;
  return {
    chi2,
    df,
    p: chiSquaredP(Math.max(0, chi2), df),
    scaled:
      c !== null && c > 0
        ? { scaling: c, chi2: chi2 / c, p: chiSquaredP(Math.max(0, chi2) / c, df) }
        : null,
    negativeScaling: c !== null && c <= 0,
    reversed: chi2 < -ROUNDING * Math.max(1, loose.chi2),
  };
}

/**
 * The scaling factor that a difference of fits is corrected by: of complete cases, of all where
 * values are missing, or of weighted moments, whichever exists.
 */
export const scalingOf = (fit: {
  satorraBentler: { scaling: number } | null;
  yuanBentler: { scaling: number } | null;
  scaled: { scaling: number } | null;
}): number | null => (fit.satorraBentler ?? fit.yuanBentler ?? fit.scaled)?.scaling ?? null;
