import { inverseGram, orthogonalFactor } from "../../numerics/orthogonal";
import { mean } from "../../numerics/moments";
import { centreOf, productColumn, type Column, type Equation } from "../../design";
import type { EquationFit } from "./fit";

/**
 * How coefficients of equations with products are reported: of raw columns; of columns whose
 * components are centred wherever they predict; or with centred components in products only. Slopes
 * of highest order, fitted values and all effects are the same in each. With `standardised` the
 * design holds z-scores already, and nothing is left to map.
 */
export type Centring = "none" | "mean" | "products" | "standardised";

/**
 * Linear map from the coefficients as fitted (intercept first) to those reported, row-major p x p.
 */
export type MetricMap = Float64Array;

/**
 * The map for one equation. Products are fitted about the means of their components; a raw product
 * expands as (x - a)(w - b) = xw - bx - aw + ab, and so on.
 * @param centred names of the variables that are centred as predictors (`mean` only)
 */
export function metricMap(
  { columns }: Equation,
  centring: Centring,
  centred: ReadonlySet<string>,
): MetricMap {
  const p = columns.length + 1;
  const map = new Float64Array(p * p);
  for (let j = 0; j < p; j++) map[j * p + j] = 1;
  const at = new Map(columns.map((c, j) => [setKey([c]), j + 1]));
  columns.forEach((column, j) => {
    if (column.components && centring === "none") {
      for (const { kept, weight } of expansion(column.components)) {
        const row = kept.length === 0 ? 0 : at.get(setKey(kept))!;
        map[row * p + j + 1] = map[row * p + j + 1]! + weight;
      }
    }
    if (!column.components && centring === "mean" && centred.has(column.variable))
      map[j + 1] = centreOf(column);
  });
  return map;
}

/** A set of columns, a product standing for its components, in no order. */
const setKey = (columns: Column[]): string =>
  columns
    .flatMap((c) => c.components ?? [c])
    .map((c) => c.key)
    .sort()
    .join("\u0000");

/** The lower-order terms of a product about centres, with their weights. */
function expansion(components: Column[]): { kept: Column[]; weight: number }[] {
  const all = components.reduce<{ kept: Column[]; weight: number }[]>(
    (terms, c) =>
      terms.flatMap(({ kept, weight }) => [
        { kept: [...kept, c], weight },
        { kept, weight: -centreOf(c) * weight },
      ]),
    [{ kept: [], weight: 1 }],
  );
  return all.filter((term) => term.kept.length < components.length);
}

/**
 * A fit with its coefficients, their covariance columns and the collinearity of its columns in
 * another metric.
 */
export function inMetric(
  fit: EquationFit,
  map: MetricMap,
  centring: Centring,
  centred: ReadonlySet<string>,
): EquationFit {
  const { equation } = fit;
  const hasProducts = equation.columns.some((c) => c.components);
  if (!hasProducts && centring !== "mean") return fit;
  const columns = equation.columns.map((column) => {
    if (column.components)
      return centring === "none"
        ? productColumn(
            column.components,
            column.components.map(() => 0),
          )
        : column;
    if (centring !== "mean" || !centred.has(column.variable) || column.contrast !== null)
      return column;
    const centre = mean(column.values);
    return { ...column, values: column.values.map((v) => v - centre) };
  });
  return mapped(fit, map, columns);
}

/**
 * A fit once more, with every numeric variable a z-score (code columns aside) and products made of
 * z-scores. What is said of its columns (collinearity) stays that of the fit given.
 */
export function inZScores(fit: EquationFit): EquationFit {
  const scaled = withCoefficients(fit, standardMap(fit.equation));
  // The mean of the outcome over its SD is a constant that no linear map of the coefficients can
  // take off.
  scaled.b[0] = scaled.b[0]! - mean(fit.equation.y) / fit.equation.sdY;
  return scaled;
}

/**
 * A new fit with coefficients mapped and the collinearity of `columns`; the fit given stays as it
 * is.
 */
function mapped(fit: EquationFit, map: MetricMap, columns: Column[]): EquationFit {
  const factor = orthogonalFactor(columns.map((c) => c.values));
  const k = columns.length;
  const inverse = factor.dependent ? null : inverseGram(factor.r, k);
  return {
    ...withCoefficients(fit, map),
    equation: { ...fit.equation, columns },
    vif: Float64Array.from({ length: k }, (_, j) => (inverse ? inverse[j * k + j]! : NaN)),
    factor: factor.dependent ? fit.factor : factor,
  };
}

/** The same fit with its coefficients, and what they make of the outcome, mapped. */
function withCoefficients(fit: EquationFit, map: MetricMap): EquationFit {
  const { p } = fit;
  const coefficient = (i: number): number =>
    fit.b.reduce((sum, b, j) => sum + map[i * p + j]! * b, 0);
  return {
    ...fit,
    b: Float64Array.from({ length: p }, (_, i) => coefficient(i)),
    pseudoInverse: Array.from({ length: p }, (_, i) => mixed(fit.pseudoInverse, map, i)),
  };
}

function mixed(columns: Float64Array[], map: MetricMap, row: number): Float64Array {
  const p = columns.length;
  const out = new Float64Array(columns[0]!.length);
  for (let j = 0; j < p; j++) {
    const weight = map[row * p + j]!;
    if (weight === 0) continue;
    const column = columns[j]!;
    for (let i = 0; i < out.length; i++) out[i] = out[i]! + weight * column[i]!;
  }
  return out;
}

/**
 * The map to coefficients of z-scores throughout (code columns aside), products being products of
 * z-scores.
 */
export function standardMap({ columns, sdY }: Equation): MetricMap {
  const p = columns.length + 1;
  const map = new Float64Array(p * p);
  map[0] = 1 / sdY;
  columns.forEach((column, j) => {
    const parts = column.components ?? [column];
    const scale = parts.reduce((all, c) => all * (c.contrast === null ? c.sd : 1), 1);
    map[(j + 1) * p + j + 1] = scale / sdY;
    if (!column.components && column.contrast === null) map[j + 1] = centreOf(column) / sdY;
  });
  return map;
}
