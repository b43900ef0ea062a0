import { Matrix, inverse } from "ml-matrix";
import { isConstant } from "../screening/block";
import { fisherQuantile } from "../numerics/distributions";
import { correlation, mean, standardDeviation } from "../numerics/moments";
import { StudyProblem, type Warning } from "../problems";
import { oneFactor, type OneFactor } from "./one-factor";
import { warning } from "../wording";

export interface ItemStatistics {
  item: string;
  mean: number;
  sd: number;
  /** Correlation with the sum of the other items. */
  correctedItemTotal: number | null;
  /** On the other items; null where they determine the item exactly. */
  squaredMultipleCorrelation: number | null;
  /** Raw alpha of the other items; null for two items. */
  alphaIfDropped: number | null;
}

export interface Omega extends OneFactor {
  /**
   * (sum of loadings)2 over the total variance the model implies, in raw and in standardised units
   * (McDonald 1999).
   */
  total: number;
  totalStandardised: number;
  loadingsRaw: number[];
  uniquenessesRaw: number[];
  /** From the standardised loadings (Joreskog 1971; Fornell & Larcker 1981). */
  compositeReliability: number;
  ave: number;
}

export interface Reliability {
  items: string[];
  /** Complete rows over the items. */
  n: number;
  k: number;
  /** Null when the items cancel exactly. */
  alpha: number | null;
  /** Feldt, Woodruff & Salih (1987), at the level asked for. */
  alphaCi: [number, number] | null;
  alphaStandardised: number;
  meanInterItemCorrelation: number;
  /** k x k. */
  interItem: number[][];
  itemStatistics: ItemStatistics[];
  /** Null for fewer than three items. */
  omega: Omega | null;
  /** Two items only. */
  spearmanBrown: number | null;
  warnings: Warning[];
}

/** Sum of all covariances below this share of the sum of variances: the items cancel. */
const CANCELLED = 1e-12;
const FEWEST_ROWS = 3;

/**
 * Reliability of a battery of items on its complete rows.
 * @param names k >= 2 items
 * @param columns k columns of complete rows, reversed items already reversed
 * @param level of the interval, e.g. 0.95
 * @throws StudyProblem `too_few_items`, `too_few_cases` or `constant_variable`
 */
export function reliability(names: string[], columns: Float64Array[], level: number): Reliability {
  const k = names.length;
  const n = columns[0]?.length ?? 0;
  refuseUnusable(names, columns, n);
  const covariance = covarianceMatrix(columns);
  const r = correlationMatrix(columns);
  const variances = covariance.map((row, i) => row[i]!);
  const alpha = alphaOf(covariance);
  const meanR = meanOffDiagonal(r);
  const itemStatistics = itemStatisticsOf(names, columns, covariance, r);
  const omega = k >= 3 ? omegaOf(r, variances.map(Math.sqrt), n) : null;
  return {
    items: names,
    n,
    k,
    alpha,
    alphaCi: alpha === null ? null : feldt(alpha, n, k, level),
    alphaStandardised: (k * meanR) / (1 + (k - 1) * meanR),
    meanInterItemCorrelation: meanR,
    interItem: r,
    itemStatistics,
    omega,
    spearmanBrown: k === 2 ? (2 * r[0]![1]!) / (1 + r[0]![1]!) : null,
    warnings: warningsOf(alpha, itemStatistics, omega, names),
  };
}

function refuseUnusable(names: string[], columns: Float64Array[], n: number): void {
  if (names.length < 2) {
    throw new StudyProblem("one_item", {}, { variables: names });
  }
  if (n < FEWEST_ROWS) {
    throw new StudyProblem(
      "few_rows_for_reliability",
      { names, n, least: FEWEST_ROWS },
      { variables: names },
    );
  }
  const still = names.filter((_, j) => isConstant(columns[j]!));
  if (still.length > 0) {
    throw new StudyProblem("items_never_vary", { names: still }, { variables: still });
  }
}

/**
 * Coefficient alpha (Cronbach 1951, Psychometrika 16) of a covariance matrix; null when the items
 * cancel.
 */
export function alphaOf(covariance: number[][]): number | null {
  const k = covariance.length;
  const variances = covariance.reduce((sum, row, i) => sum + row[i]!, 0);
  const total = covariance.flat().reduce((a, b) => a + b, 0);
  if (total <= CANCELLED * variances) return null;
  return (k / (k - 1)) * (1 - variances / total);
}

/**
 * Interval of alpha from the F distribution (Feldt, Woodruff & Salih 1987, Appl Psychol Meas 11).
 */
export function feldt(alpha: number, n: number, k: number, level: number): [number, number] {
  const gamma = (1 - level) / 2;
  const df1 = n - 1;
  const df2 = (n - 1) * (k - 1);
  return [
    1 - (1 - alpha) * fisherQuantile(1 - gamma, df1, df2),
    1 - (1 - alpha) * fisherQuantile(gamma, df1, df2),
  ];
}

function itemStatisticsOf(
  names: string[],
  columns: Float64Array[],
  covariance: number[][],
  r: number[][],
): ItemStatistics[] {
  const k = names.length;
  const inverted = invert(r);
  return names.map((item, i) => {
    const others = columns[0]!.map((_, row) =>
      columns.reduce((sum, column, j) => (j === i ? sum : sum + column[row]!), 0),
    );
    const rest = covariance.filter((_, a) => a !== i).map((row) => row.filter((_, b) => b !== i));
    const total = correlation(columns[i]!, others);
    return {
      item,
      mean: mean(columns[i]!),
      sd: standardDeviation(columns[i]!),
      correctedItemTotal: Number.isFinite(total) && !isConstant(others) ? total : null,
      squaredMultipleCorrelation: inverted ? 1 - 1 / inverted[i]![i]! : null,
      alphaIfDropped: k === 2 ? null : alphaOf(rest),
    };
  });
}

function omegaOf(r: number[][], sds: number[], n: number): Omega | null {
  const factor = oneFactor(r, n);
  if (!factor) return null;
  const loadingsRaw = factor.loadings.map((l, i) => l * sds[i]!);
  const uniquenessesRaw = factor.uniquenesses.map((u, i) => u * sds[i]! ** 2);
  return {
    ...factor,
    total: shareOfCommon(loadingsRaw, uniquenessesRaw),
    totalStandardised: shareOfCommon(factor.loadings, factor.uniquenesses),
    loadingsRaw,
    uniquenessesRaw,
    compositeReliability: compositeReliability(factor.loadings),
    ave: averageVarianceExtracted(factor.loadings),
  };
}

function shareOfCommon(loadings: number[], uniquenesses: number[]): number {
  const common = sum(loadings) ** 2;
  return common / (common + sum(uniquenesses));
}

/** Composite reliability of standardised loadings (Joreskog 1971, Psychometrika 36). */
export const compositeReliability = (loadings: number[]): number =>
  shareOfCommon(
    loadings,
    loadings.map((l) => 1 - l * l),
  );

/** Average variance extracted by standardised loadings (Fornell & Larcker 1981). */
export const averageVarianceExtracted = (loadings: number[]): number =>
  sum(loadings.map((l) => l * l)) / loadings.length;

function warningsOf(
  alpha: number | null,
  items: ItemStatistics[],
  omega: Omega | null,
  names: string[],
): Warning[] {
  const warnings: Warning[] = [];
  if (alpha === null || alpha < 0)
    warnings.push(warning("alpha_negative", { defined: alpha !== null }, names));
  const against = items
    .filter((s) => s.correctedItemTotal !== null && s.correctedItemTotal < 0)
    .map((s) => s.item);
  if (against.length > 0)
    warnings.push(warning("negative_item_total", { items: against }, against));
  if (omega?.heywood) {
    const bound = names.filter((_, i) => omega.atBound[i]);
    warnings.push(warning("heywood", {}, bound));
  }
  if (omega && omega.loadings.some((l) => l > 0) && omega.loadings.some((l) => l < 0)) {
    const negative = names.filter((_, i) => omega.loadings[i]! < 0);
    warnings.push(warning("mixed_sign_loadings", { items: negative }, negative));
  }
  return warnings;
}

/** Covariances with divisor n - 1. */
export function covarianceMatrix(columns: Float64Array[]): number[][] {
  const n = columns[0]!.length;
  const centred = columns.map((c) => {
    const m = mean(c);
    return c.map((v) => v - m);
  });
  return centred.map((a) =>
    centred.map((b) => a.reduce((total, v, i) => total + v * b[i]!, 0) / (n - 1)),
  );
}

export const correlationMatrix = (columns: Float64Array[]): number[][] =>
  columns.map((a, i) => columns.map((b, j) => (i === j ? 1 : correlation(a, b))));

function invert(r: number[][]): number[][] | null {
  try {
    const found = inverse(new Matrix(r)).to2DArray();
    // A diagonal below one, or beyond 1e8, belongs to a matrix without an inverse worth having (1 -
    // R2 < 1e-8).
    return found.every((row, i) => row[i]! >= 1 - 1e-9 && row[i]! < 1e8) ? found : null;
  } catch {
    return null;
  }
}

function meanOffDiagonal(r: number[][]): number {
  const k = r.length;
  return (sum(r.flat()) - k) / (k * (k - 1));
}

const sum = (values: number[]): number => values.reduce((a, b) => a + b, 0);
