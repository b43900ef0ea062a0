import type { Claim } from "../effects";
import { choleskyInPlace, choleskySolveInPlace } from "../numerics/cholesky";
import type { EquationSpec } from "../theory";
import { jointPower, pathPower, type TestedPath } from "./exact-power";
import { sizeOf, type StudyPlan } from "../study";
import type { Population } from "./population";

/** Power that needs no simulation, where a closed form exists. */
export type ExactPower =
  { test: "t"; path: TestedPath } | { test: "joint"; first: TestedPath; second: TestedPath };

/** The exact power with so many people; null where they are too few for the test. */
export const exactAt = (exact: ExactPower, people: number, alpha: number): number | null =>
  exact.test === "t"
    ? pathPower(exact.path, people, alpha)
    : jointPower(exact.first, exact.second, people, alpha);

/**
 * The exact power of a sentence in a linear theory of normal variables: of the t test of one path,
 * or of the joint significance of the two paths of an indirect effect whose mediator and outcome
 * share all other predictors. Null where there is no such form.
 */
export function exactPowerOf(
  population: Population,
  plan: StudyPlan,
  claim: Claim,
): ExactPower | null {
  if (!population.isNormal || claim.kind !== "hypothesis") return null;
  const tested = (from: string, to: string): TestedPath | null =>
    testedPath(population, plan, from, to);
  const [chain, ...others] = claim.chains;
  const [from, to] = [claim.from.name, claim.to.name];
  if (!chain) {
    const path = tested(from, to);
    return path && { test: "t", path };
  }
  const [mediator, ...more] = chain.map((ref) => ref.name);
  if (others.length > 0 || more.length > 0) return null;
  const [first, second] = [tested(from, mediator!), tested(mediator!, to)];
  if (!first || !second || !sharesPredictors(population.theory.equations, mediator!, to))
    return null;
  return { test: "joint", first, second };
}

const predictorsOf = (e: EquationSpec): string[] => [
  ...e.predictors,
  ...e.moderators,
  ...e.covariates,
];

/** Is the outcome regressed on the mediator and on just what the mediator is regressed on? */
function sharesPredictors(equations: EquationSpec[], mediator: string, outcome: string): boolean {
  const of = (name: string): string[] =>
    predictorsOf(equations.find((e) => e.outcome === name)!).sort();
  return [...of(mediator), mediator].sort().join("\u0000") === of(outcome).join("\u0000");
}

function testedPath(
  population: Population,
  plan: StudyPlan,
  from: string,
  to: string,
): TestedPath | null {
  const equation = population.theory.equations.find((e) => e.outcome === to);
  const predictors = equation ? predictorsOf(equation) : [];
  if (!predictors.includes(from)) return null;
  const others = predictors.filter((p) => p !== from);
  return {
    size: sizeOf(plan, { from: [from], to }) ?? 0,
    predictorSd: Math.sqrt(1 - explainedBy(population, from, others)),
    residualSd: Math.sqrt(1 - population.explained.get(to)!),
    predictors: predictors.length,
  };
}

/** What others explain of a variable, from the correlations of the population. */
function explainedBy(population: Population, name: string, others: readonly string[]): number {
  const k = others.length;
  if (k === 0) return 0;
  const at = population.correlations();
  const matrix = new Float64Array(k * k);
  const r = Float64Array.from(others, (o) => at(o, name));
  others.forEach((a, i) => others.forEach((b, j) => (matrix[i * k + j] = at(a, b))));
  choleskyInPlace(matrix, k, k);
  const weights = r.slice();
  choleskySolveInPlace(matrix, k, k, weights);
  return weights.reduce((sum, w, i) => sum + w * r[i]!, 0);
}
