import type { Design, Equation } from "../../design";
import { byCovariance } from "../../model";
import type { CompiledTheory } from "../../theory";
import type { ExactTest } from "../engine";
import type { EquationsSection } from "../sections";
import { covariances, type CovarianceSet } from "./covariance";
import { categoricalIn } from "./equations";
import { fitEquation, type EquationFit } from "./fit";
import { coefficientsF, linearTest } from "./tests";

/** The regression of an outcome on the exogenous columns alone. */
export interface ReducedRegression {
  fit: EquationFit;
  covariances: CovarianceSet;
}

/**
 * Reduced regressions of the outcomes whose total effects they test exactly: every equation
 * upstream of the outcome, and its own, must contain all exogenous columns (predictors and
 * covariates), since only then are the residuals orthogonal to them and the sum of paths equals the
 * reduced slope.
 */
export function reducedRegressions(
  theory: CompiledTheory,
  design: Design,
  clusters: Int32Array[] | null,
): Map<string, ReducedRegression> {
  const found = new Map<string, ReducedRegression>();
  const explained = new Set(design.equations.map((e) => e.outcome));
  for (const equation of design.equations) {
    const upstream = ancestors(theory, equation.outcome);
    if (upstream.length === 0) continue;
    const chain = design.equations.filter((e) => e === equation || upstream.includes(e.outcome));
    // A moderated path has no single total effect.
    if (chain.some((e) => e.columns.some((c) => c.components))) continue;
    const exogenous = new Map(
      chain
        .flatMap((e) => e.columns)
        .filter((c) => !explained.has(c.variable))
        .map((c) => [c.key, c]),
    );
    const complete = chain.every((e) =>
      [...exogenous.keys()].every((key) => e.columns.some((c) => c.key === key)),
    );
    if (!complete) continue;
    const reduced: Equation = {
      ...equation,
      columns: [...exogenous.values()],
      covariates: new Set(),
    };
    const fit = fitEquation(reduced, clusters);
    found.set(equation.outcome, { fit, covariances: covariances([fit]) });
  }
  return found;
}

/** Explained variables from which a path leads to `outcome`. */
function ancestors(theory: CompiledTheory, outcome: string): string[] {
  const found = new Set<string>();
  const walk = (name: string): void => {
    const spec = theory.equations.find((e) => e.outcome === name);
    for (const from of [
      ...(spec?.predictors ?? []),
      ...(spec?.moderators ?? []),
      ...(spec?.covariates ?? []),
    ]) {
      if (found.has(from)) continue;
      if (theory.equations.some((e) => e.outcome === from)) found.add(from);
      walk(from);
    }
  };
  walk(outcome);
  return [...found];
}

/**
 * How far, relative to its size or its standard error, the reduced slope may be from the total
 * effect and still be it.
 */
const SAME = 1e-8;

/**
 * The exact test of a total effect; null unless the slope of the reduced regression is that total
 * effect. Where covariates are explained upstream by the predictor, the regression without
 * mediators holds them fixed and is another quantity.
 * @param from the column that the effect starts from
 */
export function reducedTest(
  reduced: ReadonlyMap<string, ReducedRegression>,
  from: string | null,
  to: string | null,
  estimate: number,
  level: number,
): ExactTest | null {
  const regression = reduced.get(to!);
  const at = regression?.fit.equation.columns.findIndex((c) => c.key === from) ?? -1;
  if (!regression || at < 0) return null;
  const { fit } = regression;
  if (!isSame(fit, at, estimate)) return null;
  const pick = Array.from({ length: fit.p }, (_, j) => (j === at + 1 ? 1 : 0));
  return {
    terms: fit.equation.columns.map((c) => c.key),
    tests: byCovariance((kind) =>
      linearTest(fit, regression.covariances[kind], 0, kind, pick, level),
    ),
  };
}

function isSame({ b, s2, pseudoInverse }: EquationFit, at: number, total: number): boolean {
  const slope = b[at + 1]!;
  const se = Math.sqrt(s2 * pseudoInverse[at + 1]!.reduce((sum, v) => sum + v * v, 0));
  return Math.abs(slope - total) <= SAME * Math.max(Math.abs(slope), Math.abs(total), se);
}

/**
 * Joint test of a categorical predictor's total effects, where the reduced slopes are those
 * effects.
 * @param isExact does the total effect of a column on an outcome have an exact test?
 */
export function totalOmnibus(
  reduced: ReadonlyMap<string, ReducedRegression>,
  isExact: (from: string, to: string) => boolean,
): EquationsSection["totalOmnibus"] {
  return [...reduced].flatMap(([outcome, { fit, covariances: v }]) =>
    categoricalIn(fit.equation)
      .filter(({ positions }) =>
        positions.every((at) => isExact(fit.equation.columns[at - 1]!.key, outcome)),
      )
      .map(({ variable, positions }) => ({
        variable,
        outcome,
        test: byCovariance((kind) => coefficientsF(fit, v[kind], 0, kind, positions)),
      })),
  );
}
