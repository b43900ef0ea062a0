import { centreOf, productColumn, type Column } from "../../design";
import {
  add,
  byCovariance,
  coefficientLabel,
  number,
  parameter,
  product,
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
import type { ResponsesFit } from "./response-fit";
import type { Term } from "./terms";

const LINKS: Record<FamilyId, Link> = {
  linear: "identity",
  logistic: "logit",
  probit: "probit",
  poisson: "log",
  negative_binomial: "log",
};

/** Products that the theory states, apart from those of treatments with mediators. */
const stated = (fit: ResponsesFit, outcome: string): Set<string> =>
  new Set(
    fit.products
      .filter((p) => p.outcome === outcome)
      .map((p) => p.components.map((c) => c.key).join(":")),
  );

/**
 * The effect of a column on the linear predictor of a response, as a function of its moderators about their centres. A mediator
 * that goes with a treatment in a product stands at its centre.
 */
export function linkSlope(fit: ResponsesFit, outcome: string, key: string): Polynomial {
  const response = fit.model.responses.find((r) => r.outcome === outcome)!;
  const known = stated(fit, outcome);
  let centre: Expression = number(0);
  const terms: Polynomial = [];
  for (const term of response.terms) {
    if (!term.includes(key)) continue;
    const at = fit.parameters.index.get(coefficientLabel(outcome, term.join(":")))!;
    const b = parameter(at);
    const others = term.filter((k) => k !== key);
    const held = (keys: readonly string[]): Expression[] =>
      keys.map((k) => number(centreOf(fit.columns.get(k)!)));
    centre = add(centre, product([b, ...held(others)]));
    if (!known.has(term.join(":"))) continue;
    for (const other of others)
      terms.push({
        moderators: [other],
        expression: product([b, ...held(others.filter((k) => k !== other))]),
      });
    if (others.length === 2) terms.push({ moderators: [...others].sort(), expression: b });
  }
  return [{ moderators: [], expression: centre }, ...terms];
}

/**
 * Responses with products as linear predictors of columns about their means, from coefficients of columns as they are: a product of
 * columns is multiplied out about their centres.
 */
export function linkLines(fit: ResponsesFit): Line[] {
  return fit.model.responses.flatMap((response): Line[] => {
    const { outcome, terms, family, equation } = response;
    if (stated(fit, outcome).size === 0) return [];
    const columns = columnsOf(fit, response);
    const map = multipliedOut(terms, columns);
    if (!map) return [];
    const p = terms.length;
    const start = fit.parameters.equations.find((e) => e.outcome === outcome)!.start;
    const theta = fit.vector();
    const b = new Float64Array(p);
    for (let r = 0; r < p; r++)
      for (let k = 0; k < p; k++) b[r] = b[r]! + map[r * p + k]! * theta[start + k]!;
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
function columnsOf(fit: ResponsesFit, { terms }: Response): Column[] {
  return terms.slice(1).map((term) => {
    const parts = term.map((key) => fit.columns.get(key)!);
    return parts.length === 1 ? parts[0]! : productColumn(parts, parts.map(centreOf));
  });
}

/**
 * Coefficients about means from those of columns as they are, row-major; null where a product stands without the columns and
 * products that it is made of.
 */
function multipliedOut(terms: readonly Term[], columns: readonly Column[]): Float64Array | null {
  const p = terms.length;
  const keyOf = (term: readonly string[]): string => [...term].sort().join("\u0000");
  const place = new Map(terms.map((t, k) => [keyOf(t), k]));
  const centres = new Map(columns.filter((c) => !c.components).map((c) => [c.key, centreOf(c)]));
  const map = new Float64Array(p * p);
  for (const [k, term] of terms.entries()) {
    // Every subset of a product is a term of its own, times the centres of the rest.
    for (let subset = 0; subset < 1 << term.length; subset++) {
      const kept = term.filter((_, j) => subset & (1 << j));
      const weight = term.reduce(
        (all, key, j) => (subset & (1 << j) ? all : all * (centres.get(key) ?? NaN)),
        1,
      );
      if (weight === 0) continue;
      const row = place.get(keyOf(kept));
      if (row === undefined || !Number.isFinite(weight)) return null;
      map[row * p + k] = map[row * p + k]! + weight;
    }
  }
  // The first coefficient is the linear predictor where every column is at its mean.
  columns.forEach((column, j) => {
    const middle = column.components || column.contrast !== null ? mean(column.values) : 0;
    for (let k = 0; k < p; k++) map[k] = map[k]! + middle * map[(j + 1) * p + k]!;
  });
  return map;
}

function blockOf(
  { covariances }: ResponsesFit,
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
  fit: ResponsesFit,
  outcome: string,
): { y: Float64Array; columns: Column[] } | null {
  const response = fit.model.responses.find((r) => r.outcome === outcome);
  return response ? { y: response.equation.y, columns: columnsOf(fit, response) } : null;
}
