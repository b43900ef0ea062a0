import type { Estimated } from "./estimated";
import { inner, times } from "./moment-objective";
import { normalTheoryWeight } from "./moment-weights";
import {
  sandwich,
  scoreProducts,
  weightedFourthMoments,
  type WeightedFourthMoments,
} from "./sandwich";
import { inverseOf } from "./scoring";

/** Kinds of standard errors that a model of covariances can have. */
export const STRUCTURE_ERRORS = [
  "expected",
  "observed",
  "robust",
  "robust_expected",
  "naive",
  "normal_theory",
] as const;
export type StructureErrors = (typeof STRUCTURE_ERRORS)[number];

/**
 * Covariances of the parameters by kind, q x q; null where a kind does not exist. With what they
 * are made of.
 */
export interface ErrorMatrices {
  by: Record<StructureErrors, Float64Array | null>;
  /** Minus the second derivatives, and the sum of the cross-products of case scores; ML only. */
  observedInformation: Float64Array | null;
  scores: Float64Array | null;
  /** For Satorra and Bentler's correction; ML with complete rows only. */
  fourth: WeightedFourthMoments | null;
  /** Cross-products through the weights, and their inverse; weighted estimators with rows only. */
  weightedMeat: Float64Array | null;
  bread: Float64Array | null;
}

/**
 * Expected and observed information, and the two sandwiches (Huber 1967; White 1982; Satorra &
 * Bentler 1994) of ML; the naive and robust covariances of weighted moments (Browne 1984).
 * @param rows single cases are known
 */
export function covariancesOf(model: Estimated, rows: boolean): ErrorMatrices {
  const none: ErrorMatrices = {
    by: {
      expected: null,
      observed: null,
      robust: null,
      robust_expected: null,
      naive: null,
      normal_theory: null,
    },
    observedInformation: null,
    scores: null,
    fourth: null,
    weightedMeat: null,
    bread: null,
  };
  return model.likelihood ? ofLikelihood(model, rows, none) : ofWeights(model, rows, none);
}

function ofLikelihood(
  { likelihood, sample, spec }: Estimated,
  rows: boolean,
  none: ErrorMatrices,
): ErrorMatrices {
  const { q, information } = likelihood!;
  const expected = inverseOf(information, q);
  const observedInformation = likelihood!.observedInformation();
  const observed = inverseOf(observedInformation, q);
  const byCases = rows && spec.convention === "normal";
  const scores = byCases ? scoreProducts(likelihood!, sample.groups) : null;
  const fourth =
    byCases && !sample.missing ? weightedFourthMoments(likelihood!, sample.groups) : null;
  return {
    ...none,
    observedInformation,
    scores,
    fourth,
    bread: expected,
    by: {
      ...none.by,
      expected,
      observed,
      robust: observed && scores ? sandwich(observed, scores, q) : null,
      robust_expected: expected && fourth ? sandwich(expected, fourth.meat, q) : null,
    },
  };
}

function ofWeights(
  { weighted, spec }: Estimated,
  rows: boolean,
  none: ErrorMatrices,
): ErrorMatrices {
  const { objective, groups } = weighted!;
  const { q } = objective;
  const bread = inverseOf(objective.information, q);
  const robust = rows ? meatOf(weighted!, (g) => groups[g]!.gamma!) : null;
  const p = spec.observed.length;
  // Under unit weights the moments' own covariance is what normal theory says at the implied
  // moments.
  const theory =
    spec.estimator === "uls"
      ? meatOf(weighted!, (g) => {
          const weight = normalTheoryWeight(objective.implied[g]!.Sigma, p, spec.means);
          return weight && inverseOf(weight, Math.round(Math.sqrt(weight.length)));
        })
      : null;
  const naive = spec.estimator === "gls" || spec.estimator === "adf";
  return {
    ...none,
    weightedMeat: robust,
    bread,
    by: {
      ...none.by,
      naive: naive ? bread : null,
      robust: bread && robust ? sandwich(bread, robust, q) : null,
      normal_theory: bread && theory ? sandwich(bread, theory, q) : null,
    },
  };
}

/** Sum over groups of n Delta' W Gamma W Delta. */
function meatOf(
  { objective, groups }: NonNullable<Estimated["weighted"]>,
  gammaOf: (g: number) => Float64Array | null,
): Float64Array | null {
  const { q } = objective;
  const meat = new Float64Array(q * q);
  for (let g = 0; g < groups.length; g++) {
    const gamma = gammaOf(g);
    if (!gamma) return null;
    const { weight, n } = groups[g]!;
    const left = objective.jacobian(g).map((column) => column && times(weight, column));
    const right = left.map((column) => column && times(gamma, column));
    left.forEach((one, a) =>
      right.forEach((two, b) => {
        if (one && two) meat[a * q + b] = meat[a * q + b]! + n * inner(one, two);
      }),
    );
  }
  return meat;
}
