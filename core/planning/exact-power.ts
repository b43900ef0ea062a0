import { Phi, studentQuantile } from "../numerics/distributions";
import { exp, ln } from "../numerics/elementary";
import { gaussLegendre } from "../numerics/gauss-legendre";

/** Nodes of every integral; the integrands are smooth, and 96 leave an error below 1e-12. */
const NODES = 96;
/**
 * The root of a chi-squared variable has an SD of about 0.7; beyond so many units on each side
 * nothing is left.
 */
const REACH = 8;

/**
 * Mean of f(root of a chi-squared variable), by Gauss-Legendre quadrature over the bulk of its
 * density, whose constant the same nodes find.
 */
function overChi(df: number, f: (root: number) => number): number {
  const middle = Math.sqrt(Math.max(0, df - 0.5));
  const low = Math.max(0, middle - REACH);
  const half = (middle + REACH - low) / 2;
  const { nodes, weights } = gaussLegendre(NODES);
  const logs = Float64Array.from(nodes, (x) => {
    const r = low + half * (x + 1);
    return (df - 1) * ln(r) - (r * r) / 2;
  });
  const top = logs.reduce((a, b) => Math.max(a, b), -Infinity);
  let sum = 0;
  let all = 0;
  nodes.forEach((x, i) => {
    const density = weights[i]! * exp(logs[i]! - top);
    all += density;
    sum += density * f(low + half * (x + 1));
  });
  return sum / all;
}

/** Pr(|N(centre, 1)| > bound). */
const beyond = (centre: number, bound: number): number =>
  Phi(centre - bound) + Phi(-centre - bound);

/** One standardised path of a linear theory of normal variables, as a t test sees it. */
export interface TestedPath {
  size: number;
  /** SD of what is left of the predictor once the other predictors of the outcome are held. */
  predictorSd: number;
  /** SD of the residual of the outcome. */
  residualSd: number;
  /** Predictors of the outcome, this one among them. */
  predictors: number;
}

/**
 * Power of the two-sided t test of one path when predictors are random and normal: given the
 * predictors it is that of the noncentral t distribution, and what the predictor has of its own is
 * a chi-squared variable with n - k degrees of freedom (k predictors).
 * @returns null where there are too few people for a test
 */
export function pathPower(path: TestedPath, people: number, alpha: number): number | null {
  const df = people - path.predictors - 1;
  if (df < 1) return null;
  return overChi(people - path.predictors, (root) => givenPredictors(path, root, df, alpha));
}

/** The same given the length of what the predictor has of its own, in units of its SD. */
function givenPredictors(path: TestedPath, root: number, df: number, alpha: number): number {
  const critical = studentQuantile(1 - alpha / 2, df);
  const centre = (path.size * path.predictorSd * root) / path.residualSd;
  return overChi(df, (spread) => beyond(centre, (critical * spread) / Math.sqrt(df)));
}

/**
 * Power of the joint significance test of a product of two paths, x to m and m to y, where y is
 * regressed on x, m and the covariates that m is regressed on, too, all of them normal. With S the
 * sum of squares of x and U that of the residual of m, both in units of their variances, S and U
 * are independent chi-squared variables; given them, so are the two tests (derivation in
 * docs/decisions.md).
 * @param first the path x to m; `predictors` counts x and the covariates
 * @param second the path m to y; its `predictorSd` is the residual SD of m
 */
export function jointPower(
  first: TestedPath,
  second: TestedPath,
  people: number,
  alpha: number,
): number | null {
  const dfOfFirst = people - first.predictors - 1;
  const dfOfSecond = people - second.predictors - 1;
  if (dfOfSecond < 1) return null;
  const critical = studentQuantile(1 - alpha / 2, dfOfFirst) / Math.sqrt(dfOfFirst);
  return overChi(dfOfFirst, (rest) => {
    const powerOfFirst = overChi(people - first.predictors, (root) =>
      beyond((first.size * first.predictorSd * root) / first.residualSd, critical * rest),
    );
    return powerOfFirst * givenPredictors(second, rest, dfOfSecond, alpha);
  });
}
