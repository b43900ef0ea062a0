import { cube } from "../../numerics/elementary";
import { shapiroWilk } from "../../numerics/shapiro-wilk";
import { chiSquaredP, fisherP, studentQuantile } from "../../numerics/distributions";
import { mean, sumOfSquares } from "../../numerics/moments";
import { orthogonalFactor, dot } from "../../numerics/orthogonal";
import { LEVERAGE_ONE } from "./covariance";
import type { EquationFit } from "./fit";
import { cooksDistance } from "./residuals";
import type { FTest } from "../../model";
import type { ChiSquaredTest, EquationChecks, InfluentialRow } from "../sections";

/**
 * Residual checks of one equation: moments; Breusch & Pagan 1979 (Econometrica 47) and Koenker 1981
 * (J Econometrics 17); RESET (Ramsey 1969, JRSS-B 31); leverage, studentised residuals and Cook's
 * distance (Cook 1977, Technometrics 19).
 * @param rows 0-based file row of each case of the sample
 * @returns null where the fit is perfect and residuals mean nothing
 */
export function equationChecks(
  fit: EquationFit,
  rows: ArrayLike<number>,
  level: number,
): EquationChecks | null {
  if (fit.perfect) return null;
  return {
    ...residualShape(fit),
    ...heteroscedasticity(fit),
    reset: reset(fit),
    ...influence(fit, rows, level),
  };
}

function residualShape({ residuals, n }: EquationFit) {
  let m2 = 0;
  let m3 = 0;
  let m4 = 0;
  for (const e of residuals) {
    m2 += e * e;
    m3 += cube(e);
    m4 += (e * e) ** 2;
  }
  m2 /= n;
  const skewness = m3 / n / (m2 * Math.sqrt(m2));
  const excessKurtosis = m4 / n / m2 ** 2 - 3;
  return {
    skewness,
    excessKurtosis,
    adjustedSkewness: (skewness * Math.sqrt(n * (n - 1))) / (n - 2),
    adjustedExcessKurtosis: (((n + 1) * excessKurtosis + 6) * (n - 1)) / ((n - 2) * (n - 3)),
    shapiroWilk: shapiroWilk(residuals),
  };
}

function heteroscedasticity(fit: EquationFit) {
  const { n, p, rss, residuals, factor } = fit;
  const squares = residuals.map((e) => (e * e) / (rss / n));
  const centre = mean(squares);
  const ess = factor.q.reduce((sum, q) => sum + dot(q, squares) ** 2, 0);
  const test = (statistic: number): ChiSquaredTest => ({
    statistic,
    df: p - 1,
    p: chiSquaredP(statistic, p - 1),
  });
  return { breuschPagan: test(ess / 2), koenker: test((n * ess) / sumOfSquares(squares, centre)) };
}

function reset(fit: EquationFit): FTest | null {
  const { n, df, rss, equation, residuals } = fit;
  if (df - 2 <= 0) return null;
  const fitted = residuals.map((e, i) => equation.y[i]! - e);
  const centre = mean(fitted);
  const spread = Math.sqrt(sumOfSquares(fitted, centre) / (n - 1));
  if (!(spread > 0)) return null;
  const z = fitted.map((v) => (v - centre) / spread);
  const powers = [z.map((v) => v * v), z.map(cube)];
  const columns = [...equation.columns.map((c) => c.values), ...powers];
  const factor = orthogonalFactor(columns, undefined, undefined, fit.factor);
  if (factor.dependent) return null;
  const k = equation.columns.length;
  const gained = dot(factor.q[k]!, residuals) ** 2 + dot(factor.q[k + 1]!, residuals) ** 2;
  const F = gained / 2 / ((rss - gained) / (df - 2));
  return { F, df1: 2, df2: df - 2, p: fisherP(F, 2, df - 2) };
}

function influence(fit: EquationFit, rows: ArrayLike<number>, level: number) {
  const { n, p, df, s2, residuals, leverage } = fit;
  const alpha = 1 - level;
  const outlierCritical = df > 1 ? studentQuantile(1 - alpha / (2 * n), df - 1) : NaN;
  const list: InfluentialRow[] = [];
  let highLeverage = 0;
  for (let i = 0; i < n; i++) {
    const h = leverage[i]!;
    if (h > (2 * p) / n) highLeverage += 1;
    if (h > LEVERAGE_ONE) continue;
    const r = residuals[i]! / Math.sqrt(s2 * (1 - h));
    list.push({
      row: rows[i]! + 1,
      cook: cooksDistance(r, h, p),
      leverage: h,
      studentisedInternal: r,
      studentisedExternal: r * Math.sqrt((df - 1) / (df - r * r)),
    });
  }
  return {
    topCook: [...list].sort((a, b) => b.cook - a.cook).slice(0, 5),
    highLeverage,
    highCook: list.filter((row) => row.cook > 4 / n).length,
    outlierCritical,
    outliers: list.filter((row) => Math.abs(row.studentisedExternal) > outlierCritical).length,
  };
}
