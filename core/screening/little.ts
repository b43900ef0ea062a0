import { chiSquaredP } from "../numerics/distributions";
import { StudyProblem, type Warning } from "../problems";
import type { NumberColumn } from "../data";
import { blockFactor, completeBlock, requireVariance } from "./block";
import { normalEm } from "./normal-em";
import { patternsOf } from "./patterns";
import { warning } from "../wording";

export interface LittleResult {
  variables: string[];
  n: number;
  rowsAllMissing: number;
  patterns: number;
  df: number;
  /** With the covariance times n / (n - 1). */
  d2: number;
  p: number | null;
  /** With the maximum-likelihood covariance itself. */
  d2MlCovariance: number;
  pMlCovariance: number | null;
  emMean: number[];
  /** Divisor n. */
  emCovariance: number[][];
  observedLogLikelihood: number;
  warnings: Warning[];
}

/**
 * Little's test that values are missing completely at random (1988, JASA 83), for continuous
 * variables. Rows with nothing observed are dropped and counted.
 * @throws StudyProblem `no_observed`, `constant_variable`, `too_few_cases` or `collinear`
 */
export function littleTest(variables: NumberColumn[]): LittleResult {
  const names = variables.map((v) => v.name);
  const columns = variables.map((v) => v.values);
  requireVariance(names, columns);
  const complete = completeBlock(variables);
  if (complete.rows.length > names.length && complete.columns.every((c) => new Set(c).size > 1)) {
    blockFactor(complete, "The test of missing values");
  }
  const all = patternsOf(columns, columns[0]!.length);
  const patterns = all.filter((p) => p.key.includes("1"));
  const rowsAllMissing = all.find((p) => !p.key.includes("1"))?.rows.length ?? 0;
  const n = patterns.reduce((sum, p) => sum + p.rows.length, 0);
  const p = names.length;
  const fit = normalEm(columns, patterns);
  if (!fit) {
    throw new StudyProblem("too_close_for_little", { names }, { variables: names });
  }
  const gaps = patterns.some((pattern) => pattern.key.includes("0"));
  const df =
    patterns.reduce(
      (sum, pattern) => sum + [...pattern.key].filter((mark) => mark === "1").length,
      0,
    ) - p;
  const warnings: Warning[] = [];
  if (!gaps) warnings.push(warning("no_missing", {}, names));
  if (!fit.converged) warnings.push(warning("not_converged", { steps: fit.steps }, names));
  const d2 = gaps ? (fit.distance * (n - 1)) / n : 0;
  const d2Ml = gaps ? fit.distance : 0;
  const tested = gaps && df > 0;
  return {
    variables: names,
    n,
    rowsAllMissing,
    patterns: patterns.length,
    df: gaps ? df : 0,
    d2,
    p: tested ? chiSquaredP(d2, df) : null,
    d2MlCovariance: d2Ml,
    pMlCovariance: tested ? chiSquaredP(d2Ml, df) : null,
    emMean: [...fit.mean],
    emCovariance: names.map((_, i) => [...fit.covariance.slice(i * p, i * p + p)]),
    observedLogLikelihood: fit.logLikelihood,
    warnings,
  };
}
