import type { OrderedColumn } from "../../../ordered";
import type { FittedModel } from "../fitted-model";
import { smallestEigenvalue } from "../identification";
import { inner, times } from "../moment-objective";
import type { TheoryModel } from "../theory-model";
import type { OrderedEvidence } from "../types";
import { omegaOfAnswers } from "./answers";
import type { OrderedModel } from "./ordered-model";
import { predictedShares } from "./predicted";
import { projection, solved } from "./projection";
import { correlationsOf } from "./problem";
import { thresholdsOf } from "./thresholds";

/** From this correlation on a pair is hardly told apart. */
export const NEAR_ONE = 0.99;

/** What is known of ordered answers besides the model: levels, thresholds, pairs, reliabilities. */
export function orderedEvidence(
  model: TheoryModel,
  fitted: FittedModel,
  ordered: OrderedModel,
  level: number,
): OrderedEvidence {
  const { staged, names, group } = ordered;
  const { observed } = fitted.spec;
  const p = observed.length;
  const correlations = correlationsOf(staged);
  const turned = new Set(
    model.built.factors.flatMap((m) =>
      m.items.filter((item) => item.reversed).map((item) => item.ref.name),
    ),
  );
  const found = thresholdsOf(ordered, fitted.spec.estimator === "adf");
  const variables = observed.flatMap((variable, i) => {
    const column = staged.columns[i]!;
    if (column.kind !== "ordered") return [];
    const thresholds = found
      .filter((t) => t.variable === i)
      .map(({ estimate, se }) => ({ estimate, se }));
    // Items that are keyed the other way were turned round: their levels read from the top.
    const levels = turned.has(variable) ? column.levels.map((level) => -level) : column.levels;
    return [{ variable, n: column.n, levels, counts: [...column.counts], thresholds }];
  });
  return {
    variables,
    outcomes: model.theory.equations.map((e) => e.outcome).filter((name) => names.has(name)),
    statistics: group.statistics.size,
    parameters: fitted.parameters + variables.reduce((sum, v) => sum + v.thresholds.length, 0),
    pairs: staged.pairs.map(({ a, b, n, r, kind, polychoric }) => ({
      a: observed[a]!,
      b: observed[b]!,
      n,
      r,
      kind,
      emptyCell: polychoric?.corrected ?? false,
    })),
    correlations: Array.from({ length: p }, (_, i) => [...correlations.slice(i * p, i * p + p)]),
    smallestEigenvalue: smallestEigenvalue(correlations, p),
    reliability: reliabilities(model, fitted, staged.columns, names),
    predicted: predictedShares(fitted, ordered, found, level),
  };
}

/** Omega of the answers, of factors all of whose items are ordered. */
function reliabilities(
  model: TheoryModel,
  fitted: FittedModel,
  columns: OrderedModel["staged"]["columns"],
  names: ReadonlySet<string>,
): OrderedEvidence["reliability"] {
  const { observed } = fitted.spec;
  const { A, E, Sigma, v, p } = fitted.implied[0]!;
  return model.built.factors.flatMap((measure) => {
    const items = measure.items.map((item) => item.ref.name);
    if (items.length < 2 || !items.every((item) => names.has(item))) return [];
    const at = model.place(measure.name.name);
    const places = items.map((item) => observed.indexOf(item));
    const loadings = places.map((i) => A[i * v + at]! * Math.sqrt(E[at * v + at]!));
    // Items that the factor lowers are turned round: thresholds from the other end, signs changed.
    const signs = loadings.map((l) => (l < 0 ? -1 : 1));
    const thresholds = places.map((i, k) => {
      const own = (columns[i] as OrderedColumn).thresholds;
      return signs[k] === 1 ? own : own.map((tau) => -tau).reverse();
    });
    const implied = places.map((i, k) =>
      places.map((j, l) => signs[k]! * signs[l]! * Sigma[i * p + j]!),
    );
    const keyed = loadings.map(Math.abs);
    const sum = keyed.reduce((total, l) => total + l, 0);
    const all = implied.flat().reduce((total, r) => total + r, 0);
    return [
      {
        factor: measure.name.name,
        omegaAnswers: omegaOfAnswers(thresholds, keyed, implied),
        omegaTendency: (sum * sum) / all,
      },
    ];
  });
}

/**
 * Residuals of the statistics in units of their standard errors: of e = s - sigma, whose covariance
 * is Q Gamma Q' / n with Q = I - D (D'WD)^-1 D'W.
 * @returns p x p; null where there is no residual
 */
export function generalisedResiduals(
  { objective, group }: OrderedModel,
  p: number,
): (number | null)[][] {
  const m = group.moments.length;
  const found = projection(group, objective.jacobian(0));
  const e = objective.residuals(0);
  const out: (number | null)[][] = Array.from({ length: p }, () =>
    Array.from({ length: p }, () => null),
  );
  if (!found) return out;
  const row = new Float64Array(m);
  for (let j = 0, at = p; j < p; j++)
    for (let i = j; i < p; i++, at++) {
      if (!group.counted[at]) continue;
      // A row of Q.
      row.fill(0);
      row[at] = 1;
      const shares = solved(
        found,
        found.D.map((column) => column[at]!),
      );
      shares.forEach((share, a) => {
        const own = found.WD[a]!;
        for (let c = 0; c < m; c++) row[c] = row[c]! - share * own[c]!;
      });
      const variance = inner(row, times(group.gamma, row)) / group.n;
      const own =
        variance > 1e-12 * group.gamma[at * m + at]! ? e[at]! / Math.sqrt(variance) : null;
      out[i]![j] = out[j]![i] = own;
    }
  return out;
}
