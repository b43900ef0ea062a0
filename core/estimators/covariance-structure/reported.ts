import { coefficientLabel, sdLabel, type Parameters, type Covariance } from "../../model";
import { COVARIANCES, type CovarianceKind } from "../../study";
import type { CompiledTheory } from "../../theory";
import { productKey } from "./model-parts";
import type { TheoryModel } from "./theory-model";

/**
 * What of a model's parameters the rest of the pipeline sees: the coefficients of the theory's
 * equations, group by group, each parameter once, and implied SDs. An equation with products begins
 * with an intercept, which is zero: everything is about means.
 */
export function reportedParameters(theory: CompiledTheory, model: TheoryModel): Parameters {
  const parameters: Parameters = {
    labels: [],
    roles: [],
    index: new Map(),
    equations: [],
    covered: 0,
  };
  const add = (label: string, role: Parameters["roles"][number]): void => {
    if (parameters.index.has(label)) return;
    parameters.index.set(label, parameters.labels.length);
    parameters.labels.push(label);
    parameters.roles.push(role);
  };
  const { spec, interactions } = model.built;
  for (const { outcome, predictors, moderators, covariates, products } of theory.equations) {
    const start = parameters.labels.length;
    if (products.length > 0 && spec.groups.length === 1)
      add(coefficientLabel(outcome, "intercept"), "coefficient");
    const names = [...new Set([...predictors, ...moderators, ...covariates])].flatMap(
      (name) => model.codes.of(name)?.map((c) => c.key) ?? [name],
    );
    for (const key of [...names, ...products.map(productKey)])
      for (const { arrows } of spec.groups) {
        const arrow = arrows.find(
          (a) => a.kind === "path" && a.to === outcome && a.from === model.nodeOf(key),
        );
        if (arrow && arrow.label !== null) add(arrow.label, "coefficient");
        if (!arrow && interactions.some((i) => i.label === coefficientLabel(outcome, key)))
          add(coefficientLabel(outcome, key), "coefficient");
      }
    parameters.equations.push({ outcome, start, count: parameters.labels.length - start });
  }
  for (const name of model.scaled) add(sdLabel(name), "sd");
  parameters.covered = parameters.labels.length;
  return parameters;
}

/** Covariances of some parameters that stand together, by kind. */
export const blocksOf = (
  covariances: Record<CovarianceKind, Covariance>,
  start: number,
  size: number,
): Record<CovarianceKind, Covariance> =>
  Object.fromEntries(
    COVARIANCES.map((kind) => {
      const { values, size: all } = covariances[kind];
      const block = new Float64Array(size * size);
      for (let i = 0; i < size; i++)
        for (let j = 0; j < size; j++) block[i * size + j] = values[(start + i) * all + start + j]!;
      return [kind, { size, values: block }];
    }),
  ) as Record<CovarianceKind, Covariance>;
