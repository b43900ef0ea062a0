import { byCovariance, type CoefficientTest } from "../../model";
import type { CovarianceKind } from "../../study";
import type { Equation } from "../../design";
import type { CoefficientEvidence, EquationEvidence } from "../sections";
import { equationChecks } from "./checks";
import { conditionNumbers } from "./condition";
import { blockOf, mappedCovariances, type CovarianceSet } from "./covariance";
import type { EquationFit } from "./fit";
import { generalisedVif } from "./generalised-vif";
import { inZScores, standardMap } from "./metric";
import { suppression } from "./suppression";
import { coefficientsF, linearTest } from "./tests";

/** One equation as it was fitted and as it is reported. */
export interface ReportedEquation {
  /** As fitted: products about the means of their components. */
  fitted: EquationFit;
  fittedCovariances: CovarianceSet;
  /** In the metric in which coefficients are reported. */
  reported: EquationFit;
  reportedCovariances: CovarianceSet;
  /** Where its coefficients begin in the covariances. */
  start: number;
  errors: CovarianceKind;
  level: number;
  /** 0-based file row of each case; null where rows are not known. */
  rows: ArrayLike<number> | null;
  /**
   * Every variable is a z-score: t limits would take the SDs as known, so the bootstrap stands
   * alone.
   */
  standardised: boolean;
  /** Coefficients of z-scores are wanted besides, as in a theory with products. */
  withZScores: boolean;
}

/** The evidence of one equation, without bootstrap results. */
export function equationEvidence(of: ReportedEquation): EquationEvidence {
  const { fitted, reported: fit, reportedCovariances: reported, start, level, errors: chosen } = of;
  const { equation } = fit;
  const keys = equation.columns.map((c) => c.key);
  const zScores = of.withZScores
    ? zScoresOf(fitted, blockOf(of.fittedCovariances, start, fitted.p))
    : null;
  const errors = (at: number) =>
    of.standardised ? noErrors() : coefficient(fit, at, start, reported, level).errors;
  return {
    outcome: equation.outcome,
    terms: keys,
    n: fit.n,
    p: fit.p,
    dfResidual: fit.df,
    r2: fit.r2,
    adjustedR2: fit.adjustedR2,
    residualVariance: fit.s2,
    residualSd: Math.sqrt(fit.s2),
    rss: fit.rss,
    // About the means: the test is the same in every metric, but raw products far from zero leave
    // it no digits.
    modelF: byCovariance((kind) =>
      coefficientsF(
        fitted,
        of.fittedCovariances[kind],
        start,
        kind,
        keys.map((_, j) => j + 1),
      ),
    ),
    conditionNumber: conditionNumbers(fit),
    coefficients: ["intercept", ...keys].map((_, at) => ({
      ...coefficient(fit, at, start, reported, level),
      errors: errors(at),
      zScores: zScores && {
        b: zScores.fit.b[at]!,
        errors: coefficient(zScores.fit, at, 0, zScores.covariances, level).errors,
      },
    })),
    omnibus: categoricalIn(equation).map(({ variable, positions }) => ({
      variable,
      test: byCovariance((kind) => coefficientsF(fit, reported[kind], start, kind, positions)),
      ...generalisedVif(fit, positions),
    })),
    // Without rows residuals are not known, whatever rows stand in for the moments.
    checks: of.rows && equationChecks(fit, of.rows, level),
    suppression: suppression(fit, (at) =>
      linearTest(fit, reported[chosen], start, chosen, pickOne(at, fit.p), level),
    ),
    r2Change: r2Changes(fitted, start, of.fittedCovariances),
  };
}

/** An equation once more, in z-scores. @param v the covariances of its coefficients */
const zScoresOf = (
  fit: EquationFit,
  v: CovarianceSet,
): { fit: EquationFit; covariances: CovarianceSet } => ({
  fit: inZScores(fit),
  covariances: mappedCovariances(v, [standardMap(fit.equation)]),
});

const noErrors = (): CoefficientEvidence["errors"] => byCovariance<CoefficientTest>(() => null);

const pickOne = (at: number, p: number): number[] =>
  Array.from({ length: p }, (_, i) => (i === at ? 1 : 0));

/**
 * Products that are part of no other product; the code columns of one categorical variable belong
 * together.
 */
function highestProducts({ columns }: Equation): { terms: string[]; positions: number[] }[] {
  const products = columns.flatMap((column, j) =>
    column.components
      ? [{ column, position: j + 1, parts: column.components.map((c) => c.variable) }]
      : [],
  );
  const highest = products.filter(
    (p) =>
      !products.some(
        (o) => o.parts.length > p.parts.length && p.parts.every((v) => o.parts.includes(v)),
      ),
  );
  const groups = new Map<string, { terms: string[]; positions: number[] }>();
  for (const { column, position } of highest) {
    const group = groups.get(column.variable) ?? { terms: [], positions: [] };
    group.terms.push(column.key);
    group.positions.push(position);
    groups.set(column.variable, group);
  }
  return [...groups.values()];
}

/** R2 change of the highest-order products: each alone while the others stay, and all together. */
function r2Changes(
  fit: EquationFit,
  start: number,
  covariances: CovarianceSet,
): EquationEvidence["r2Change"] {
  const groups = highestProducts(fit.equation);
  const together =
    groups.length > 1
      ? [{ terms: groups.flatMap((g) => g.terms), positions: groups.flatMap((g) => g.positions) }]
      : [];
  return [...groups, ...together].map(({ terms, positions }) => {
    const tests = byCovariance((kind) =>
      coefficientsF(fit, covariances[kind], start, kind, positions),
    );
    const F = tests.classical?.F ?? NaN;
    return { terms, r2Change: (F * positions.length * (1 - fit.r2)) / fit.df, tests };
  });
}

function coefficient(
  fit: EquationFit,
  at: number,
  start: number,
  covariances: CovarianceSet,
  level: number,
): CoefficientEvidence {
  const column = at === 0 ? null : fit.equation.columns[at - 1]!;
  const b = fit.b[at]!;
  const vif = column && Number.isFinite(fit.vif[at - 1]!) ? fit.vif[at - 1]! : null;
  const beta = column ? (b * column.sd) / fit.equation.sdY : null;
  return {
    term: column?.key ?? "intercept",
    label: column?.label ?? "intercept",
    variable: column?.variable ?? null,
    covariate: column !== null && fit.equation.covariates.has(column.key),
    moderator: column !== null && fit.equation.moderators.has(column.key),
    components: column?.components?.map(({ key, variable }) => ({ key, variable })) ?? null,
    zScores: null,
    b,
    errors: byCovariance((kind) =>
      linearTest(fit, covariances[kind], start, kind, pickOne(at, fit.p), level),
    ),
    beta,
    vif,
    tolerance: vif === null ? null : 1 / vif,
    semipartial: beta === null || vif === null ? null : beta / Math.sqrt(vif),
    bootstrap: null,
  };
}

/** Positions (intercept = 0) of each categorical predictor's code columns. */
export function categoricalIn(equation: Equation): { variable: string; positions: number[] }[] {
  const groups = new Map<string, number[]>();
  equation.columns.forEach((column, j) => {
    if (column.contrast !== null)
      groups.set(column.variable, [...(groups.get(column.variable) ?? []), j + 1]);
  });
  return [...groups].map(([variable, positions]) => ({ variable, positions }));
}
