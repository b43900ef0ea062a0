import { StudyProblem } from "../problems";
import type { CompiledTheory } from "../theory";

/** One arrow of a theory: what an outcome is regressed on, a variable or a product of some. */
export interface Arrow {
  from: string[];
  to: string;
  /** As the sentences have it, what moderates, and what is only held. */
  role: "path" | "moderator" | "covariate" | "product";
}

/**
 * Every arrow of a theory, in the order of its equations: paths, moderators, covariates, products.
 */
export const arrowsOf = ({ equations }: CompiledTheory): Arrow[] =>
  equations.flatMap(({ outcome: to, predictors, moderators, covariates, products }) => [
    ...predictors.map((name): Arrow => ({ from: [name], to, role: "path" })),
    ...moderators.map((name): Arrow => ({ from: [name], to, role: "moderator" })),
    ...covariates.map((name): Arrow => ({ from: [name], to, role: "covariate" })),
    ...products.map((names): Arrow => ({ from: names, to, role: "product" })),
  ]);

/**
 * The variables of a theory: those that nothing explains, then the outcomes, each after its
 * predictors.
 */
export function nodesOfTheory({ equations, groups }: CompiledTheory): {
  exogenous: string[];
  endogenous: string[];
} {
  const endogenous = equations.map((e) => e.outcome);
  const exogenous = [
    ...new Set(
      equations
        .flatMap((e) => [...e.predictors, ...e.moderators, ...e.covariates])
        .filter((name) => !endogenous.includes(name)),
    ),
  ];
  const by = groups?.by.name;
  if (by !== undefined && !exogenous.includes(by)) exogenous.push(by);
  return { exogenous, endogenous };
}

/**
 * Variables that sentences name without an arrow: what tells groups, what is compared, held,
 * modelled, or drawn as related.
 * @param items of measures, which are made with them
 * @throws StudyProblem `plan_of_exposures` where counts are relative to something
 */
export function mentioned(theory: CompiledTheory, items: ReadonlySet<string>): string[] {
  const { groups, compared, controlled, covariances, models } = theory;
  const exposure = models.find((m) => m.exposure)?.exposure;
  if (exposure) throw new StudyProblem("plan_of_exposures", { name: exposure.name });
  const names = [
    ...(groups ? [groups.by.name] : []),
    ...[...compared, ...controlled, ...models].map((s) => s.of.name),
    ...covariances.flatMap((s) => s.pairs.flatMap(({ a, b }) => [a.name, b.name])),
  ];
  return [...new Set(names)].filter((name) => !items.has(name));
}
