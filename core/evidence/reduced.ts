import type { EffectPair } from "../effects";
import {
  coefficientTest,
  covariances,
  fitEquation,
  type CovarianceSet,
  type Design,
  type Equation,
  type EquationFit,
} from "../estimators/least-squares";
import type { CompiledTheory } from "../theory";
import { byCovariance, categoricalIn, jointF } from "./equations";
import type { EffectEvidence, Evidence } from "./types";

/** The regression of an outcome on the exogenous columns alone. */
export interface ReducedRegression {
  fit: EquationFit;
  covariances: CovarianceSet;
}

/**
 * Reduced regressions of the outcomes whose total effects they test exactly: every equation upstream of the
 * outcome, and its own, must contain all exogenous columns (predictors and covariates), since only then are the
 * residuals orthogonal to them and the sum of paths equals the reduced slope.
 */
export function reducedRegressions(theory: CompiledTheory, design: Design): Map<string, ReducedRegression> {
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
    const complete = chain.every((e) => [...exogenous.keys()].every((key) => e.columns.some((c) => c.key === key)));
    if (!complete) continue;
    const reduced: Equation = { ...equation, columns: [...exogenous.values()], covariates: new Set() };
    const fit = fitEquation(reduced);
    found.set(equation.outcome, { fit, covariances: covariances([fit]) });
  }
  return found;
}

/** Explained variables from which a path leads to `outcome`. */
function ancestors(theory: CompiledTheory, outcome: string): string[] {
  const found = new Set<string>();
  const walk = (name: string): void => {
    const spec = theory.equations.find((e) => e.outcome === name);
    for (const from of [...(spec?.predictors ?? []), ...(spec?.moderators ?? []), ...(spec?.covariates ?? [])]) {
      if (found.has(from)) continue;
      if (theory.equations.some((e) => e.outcome === from)) found.add(from);
      walk(from);
    }
  };
  walk(outcome);
  return [...found];
}

export function reducedTest(pair: EffectPair, reduced: Map<string, ReducedRegression>, level: number): EffectEvidence["reduced"] {
  const regression = reduced.get(pair.to);
  const at = regression?.fit.equation.columns.findIndex((c) => c.key === pair.from) ?? -1;
  if (!regression || at < 0) return null;
  const { fit } = regression;
  return {
    terms: fit.equation.columns.map((c) => c.key),
    tests: byCovariance((kind) => {
      const v = regression.covariances[kind];
      return coefficientTest(fit.b[at + 1]!, v.values[(at + 1) * v.size + at + 1]!, fit.df, level);
    }),
  };
}

/** Joint test of a categorical predictor's total effects. */
export function totalOmnibus(reduced: Map<string, ReducedRegression>): Evidence["totalOmnibus"] {
  return [...reduced].flatMap(([outcome, { fit, covariances: v }]) =>
    categoricalIn(fit.equation).map(({ variable, positions }) => ({
      variable,
      outcome,
      test: byCovariance((kind) => jointF(fit, 0, v, kind, positions)),
    })),
  );
}
