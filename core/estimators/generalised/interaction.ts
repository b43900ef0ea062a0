import { normalP, zQuantile } from "../../numerics/distributions";
import { extent, mean, twoValues } from "../../numerics/moments";
import type { Covariance } from "../../model";
import type { ResponseInteraction, TestedNumber } from "./types";
import type { Response } from "./causal-model";
import { familyOf } from "./families";
import type { FittedResponses } from "./fitted-responses";
import { termDerivative, termValue, type Base, type Setting, type Term } from "./terms";
import { interactionWords } from "./words";

/**
 * One of the places that an interaction compares: columns that are set, and whether it is added or
 * taken away.
 */
interface Corner {
  sign: 1 | -1;
  set: Setting;
}

/**
 * Interactions on the scale of the response (Ai & Norton 2003, Economics Letters 80), for every
 * stated product of two columns: how much the change of the mean response with one column changes
 * with the other, row by row and on average; from value to value where a column has two, as a
 * derivative otherwise. Covariates stay as they are.
 */
export function responseInteractions(fit: FittedResponses, level: number): ResponseInteraction[] {
  return fit.model.responses.flatMap((response) => {
    if (response.family === "linear") return [];
    return fit.products
      .filter((p) => p.outcome === response.outcome && p.components.length === 2)
      .map(({ components }) =>
        interactionOf(fit, response, [components[0]!.key, components[1]!.key], level),
      );
  });
}

function interactionOf(
  fit: FittedResponses,
  response: Response,
  keys: [string, string],
  level: number,
): ResponseInteraction {
  const { base, n } = fit.model;
  const stepped = keys.filter((key) => twoValues(base.get(key)!) !== null);
  const by = keys.filter((key) => !stepped.includes(key));
  const rows = rowsOf(fit, response, cornersOf(fit, stepped), by);
  const { values, gradients, p } = rows;
  const average = mean(values);
  const g = new Float64Array(p);
  for (let i = 0; i < n; i++) for (let k = 0; k < p; k++) g[k] = g[k]! + gradients[i * p + k]! / n;
  const { start } = fit.parameters.equations.find((e) => e.outcome === response.outcome)!;
  const classical = fit.covariances.classical;
  const z = zQuantile(1 - (1 - level) / 2);
  const test = (covariance: Covariance): TestedNumber => {
    const se = spreadOf(g, 0, p, covariance, start);
    return {
      se,
      lower: average - z * se,
      upper: average + z * se,
      p: normalP(average / se),
    };
  };
  let significant = 0;
  for (let i = 0; i < n; i++)
    if (Math.abs(values[i]!) > z * spreadOf(gradients, i * p, p, classical, start)) significant++;
  const [minimum, maximum] = extent(values);
  const found = {
    outcome: response.outcome,
    columns: keys,
    kind: (["cross_derivative", "difference_of_derivatives", "double_difference"] as const)[
      stepped.length
    ]!,
    average,
    model: test(classical),
    robust: test(fit.covariances.HC0),
    minimum,
    maximum,
    shareNegative: values.filter((v) => v < 0).length / n,
    shareSignificant: significant / n,
  };
  return { ...found, words: interactionWords(found, response.family) };
}

/**
 * Every combination of the two values of some columns; the others of a set of code columns at zero.
 */
function cornersOf({ model, columns }: FittedResponses, stepped: readonly string[]): Corner[] {
  return stepped.reduce<Corner[]>(
    (corners, key) => {
      const [low, high] = twoValues(model.base.get(key)!)!;
      const own = columns.get(key)!;
      const siblings = [...columns.values()].filter(
        (c) => c.contrast !== null && c.variable === own.variable && c.key !== key,
      );
      const others = siblings.map((c) => [c.key, 0] as const);
      return corners.flatMap(({ sign, set }): Corner[] => [
        { sign, set: new Map([...set, ...others, [key, high]]) },
        { sign: sign === 1 ? -1 : 1, set: new Map([...set, ...others, [key, low]]) },
      ]);
    },
    [{ sign: 1, set: new Map() }],
  );
}

/**
 * The interaction of each row, and its gradient in the coefficients.
 * @param by columns that it is a derivative by
 */
function rowsOf(
  fit: FittedResponses,
  { terms, equation, family: id }: Response,
  corners: readonly Corner[],
  by: readonly string[],
): { values: Float64Array; gradients: Float64Array; p: number } {
  const { base, n } = fit.model;
  const p = terms.length;
  const family = familyOf(id);
  const { beta } = fit.estimation.fits.find((f) => f.equation === equation)!;
  const values = new Float64Array(n);
  const gradients = new Float64Array(n * p);
  const [x, w] = by;
  for (const { sign, set } of corners)
    for (let i = 0; i < n; i++) {
      const row = (keys: readonly string[]): Float64Array => changeRow(terms, base, i, set, keys);
      const z = row([]);
      const eta = (equation.offset?.[i] ?? 0) + dot(z, beta);
      const zx = x === undefined ? null : row([x]);
      const zw = w === undefined ? null : row([w]);
      const zxw = zx && zw ? row([x!, w!]) : null;
      const [g1, g2] = [family.slope(eta), family.curvature(eta)];
      const ex = zx ? dot(zx, beta) : 0;
      const ew = zw ? dot(zw, beta) : 0;
      const exw = zxw ? dot(zxw, beta) : 0;
      const value = zxw ? g1 * exw + g2 * ex * ew : zx ? g1 * ex : family.mean(eta);
      values[i] = values[i]! + sign * value;
      // How the value changes with the linear predictor, and with its derivatives.
      const along = zxw ? g2 * exw + family.bend(eta) * ex * ew : zx ? g2 * ex : g1;
      for (let k = 0; k < p; k++) {
        const own = zxw ? g1 * zxw[k]! + g2 * (zx![k]! * ew + zw![k]! * ex) : zx ? g1 * zx[k]! : 0;
        gradients[i * p + k] = gradients[i * p + k]! + sign * (along * z[k]! + own);
      }
    }
  return { values, gradients, p };
}

/** A row of the design, differentiated by some columns. */
const changeRow = (
  terms: readonly Term[],
  base: Base,
  i: number,
  set: Setting,
  by: readonly string[],
): Float64Array =>
  Float64Array.from(terms, (term) =>
    by.length === 0 ? termValue(term, base, i, set) : termDerivative(term, by, base, i, set),
  );

const dot = (a: Float64Array, b: Float64Array): number =>
  a.reduce((sum, v, k) => sum + v * b[k]!, 0);

/** The delta-method error of a function of one equation's coefficients. */
function spreadOf(
  gradient: Float64Array,
  from: number,
  p: number,
  { size, values }: Covariance,
  start: number,
): number {
  let variance = 0;
  for (let j = 0; j < p; j++)
    for (let k = 0; k < p; k++)
      variance +=
        gradient[from + j]! * gradient[from + k]! * values[(start + j) * size + start + k]!;
  return Math.sqrt(Math.max(0, variance));
}
