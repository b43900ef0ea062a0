import { centreOf, productColumn, type Column } from "../../design";
import {
  byCovariance,
  coefficientLabel,
  number,
  parameter,
  type Covariance,
  type Expression,
  type Link,
  type Polynomial,
} from "../../model";
import { mean, standardDeviation } from "../../numerics/moments";
import type { CovarianceKind } from "../../study";
import type { Line } from "../engine";
import type { Response } from "./causal-model";
import type { FamilyId } from "./families";
import { sandwich } from "./generalised-fit";
import type { FittedResponses } from "./fitted-responses";

/** How the linear predictor of each family becomes a mean. */
export const LINKS: Record<FamilyId, Link> = {
  linear: "identity",
  logistic: "logit",
  probit: "probit",
  poisson: "log",
  negative_binomial: "log",
};

/** Products that the theory states, apart from those of treatments with mediators. */
const stated = (fit: FittedResponses, outcome: string): Set<string> =>
  new Set(
    fit.products
      .filter((p) => p.outcome === outcome)
      .map((p) => p.components.map((c) => c.key).join(":")),
  );

/**
 * The effect of a column on the linear predictor of a response, as a function of its moderators
 * about their centres. A mediator that goes with a treatment in a product stands at its centre.
 */
export function linkSlope(fit: FittedResponses, outcome: string, key: string): Polynomial {
  const response = fit.model.responses.find((r) => r.outcome === outcome)!;
  const known = stated(fit, outcome);
  const at = (term: readonly string[]): Expression =>
    parameter(fit.parameters.index.get(coefficientLabel(outcome, term.join(":")))!);
  const own = response.terms.find((t) => t.length === 1 && t[0] === key);
  return [
    { moderators: [], expression: own ? at(own) : number(0) },
    ...response.terms
      .filter((t) => t.length > 1 && t.includes(key) && known.has(t.join(":")))
      .map((t) => ({ moderators: t.filter((k) => k !== key).sort(), expression: at(t) })),
  ];
}

/**
 * Responses with products as linear predictors of columns about their means; products are of
 * columns about their centres already.
 */
export function linkLines(fit: FittedResponses): Line[] {
  return fit.model.responses.flatMap((response): Line[] => {
    const { outcome, terms, family, equation } = response;
    if (stated(fit, outcome).size === 0) return [];
    const columns = columnsOf(fit, response);
    const p = terms.length;
    const map = aboutMeans(columns);
    const { start } = fit.parameters.equations.find((e) => e.outcome === outcome)!;
    const b = fit.vector().slice(start, start + p);
    b[0] = b.reduce((sum, v, k) => sum + map[k]! * v, 0);
    const n = equation.y.length;
    return [
      {
        outcome,
        link: LINKS[family],
        // With an exposure, what is drawn is the rate per unit of it.
        outcomeMean: mean(equation.y),
        outcomeSd: standardDeviation(equation.y),
        columns,
        b,
        covariances: byCovariance((kind) => blockOf(fit, kind, start, p, map)) as Record<
          CovarianceKind,
          Covariance
        >,
        df: () => (family === "linear" ? n - p : Infinity),
      },
    ];
  });
}

/** Main columns and products, in the order of the terms after the intercept. */
function columnsOf(fit: FittedResponses, { terms }: Response): Column[] {
  return terms.slice(1).map((term) => {
    const parts = term.map((key) => fit.columns.get(key)!);
    return parts.length === 1 ? parts[0]! : productColumn(parts, parts.map(centreOf));
  });
}

/**
 * The linear predictor where every column is at its mean: the coefficients' weights are these
 * means. Row-major, the rest as it is.
 */
function aboutMeans(columns: readonly Column[]): Float64Array {
  const p = columns.length + 1;
  const map = new Float64Array(p * p);
  for (let k = 0; k < p; k++) map[k * p + k] = 1;
  columns.forEach((column, j) => (map[j + 1] = mean(column.values)));
  return map;
}

function blockOf(
  { covariances }: FittedResponses,
  kind: CovarianceKind,
  start: number,
  p: number,
  map: Float64Array,
): Covariance {
  const { size, values } = covariances[kind];
  const own = new Float64Array(p * p);
  for (let j = 0; j < p; j++)
    for (let k = 0; k < p; k++) own[j * p + k] = values[(start + j) * size + start + k]!;
  return { size: p, values: sandwich(map, own, p, p) };
}

/** The outcome and its columns in the rows of the sample. */
export function linkPoints(
  fit: FittedResponses,
  outcome: string,
): { y: Float64Array; columns: Column[] } | null {
  const response = fit.model.responses.find((r) => r.outcome === outcome);
  return response ? { y: response.equation.y, columns: columnsOf(fit, response) } : null;
}
