import { zQuantile } from "../../numerics/distributions";
import type { FittedModel } from "./fit-model";
import { smallestEigenvalue } from "./identification";
import { explainedShares } from "./standardised";

/** What is out of bounds in a solution; it is shown all the same. */
export type Improper =
  | {
      code: "negative-variance";
      variable: string;
      group: string;
      /** Of a variable that something explains: what is left of it. */
      residual: boolean;
      estimate: number;
      se: number | null;
      /** Does the 95 % interval contain zero? */
      mayBeZero: boolean | null;
    }
  | { code: "r2-above-one"; variable: string; group: string; value: number }
  | { code: "latent-correlation-beyond-one"; a: string; b: string; group: string; value: number }
  | {
      code: "latent-covariance-not-positive-definite" | "residual-covariance-not-positive-definite";
      group: string;
      eigenvalue: number;
    };

/** An eigenvalue of a correlation matrix below this is negative. */
const NEGATIVE = -1e-8;
const LEVEL = 0.975;

/**
 * Variances below zero, correlations beyond one and covariance matrices that are none, found after
 * unbounded estimation.
 */
export function improperSolutions(model: FittedModel): Improper[] {
  return model.models.flatMap((_, g) => [...negativeVariances(model, g), ...matrices(model, g)]);
}

function negativeVariances(
  { models, theta, errors, spec, implied }: FittedModel,
  g: number,
): Improper[] {
  const { slots, variables } = models[g]!;
  const group = spec.groups[g]!.name;
  const q = theta.length;
  const covariance = errors.by.expected ?? errors.by.robust ?? errors.by.naive;
  const list = slots.flatMap((slot): Improper[] => {
    const { matrix, row, column, parameter } = slot;
    if (matrix !== "S" || row !== column || parameter < 0 || !(theta[parameter]! < 0)) return [];
    const se = covariance ? Math.sqrt(covariance[parameter * q + parameter]!) : null;
    const estimate = theta[parameter]!;
    return [
      {
        code: "negative-variance",
        variable: variables[row]!,
        group,
        residual: slots.some((s) => s.matrix === "A" && s.row === row),
        estimate,
        se,
        mayBeZero: se === null ? null : estimate + zQuantile(LEVEL) * se >= 0,
      },
    ];
  });
  const above = [...explainedShares(models[g]!, implied[g]!)].flatMap(
    ([variable, value]): Improper[] =>
      value > 1 ? [{ code: "r2-above-one", variable, group, value }] : [],
  );
  return [...list, ...above];
}

function matrices({ models, spec, implied }: FittedModel, g: number): Improper[] {
  const { observed: p, variables } = models[g]!;
  const group = spec.groups[g]!.name;
  const { E, S, v } = implied[g]!;
  const list: Improper[] = [];
  const latent = variables.map((_, i) => i).slice(p);
  const correlation = (of: Float64Array, i: number, j: number): number =>
    of[i * v + j]! / Math.sqrt(of[i * v + i]! * of[j * v + j]!);
  for (const i of latent)
    for (const j of latent)
      if (j < i && Math.abs(correlation(E, i, j)) > 1)
        list.push({
          code: "latent-correlation-beyond-one",
          a: variables[j]!,
          b: variables[i]!,
          group,
          value: correlation(E, i, j),
        });
  const scaled = (of: Float64Array, which: number[]): number =>
    which.length === 0
      ? 0
      : smallestEigenvalue(
          Float64Array.from(which.flatMap((i) => which.map((j) => correlation(of, i, j)))),
          which.length,
        );
  const negative = latent.some((i) => E[i * v + i]! <= 0);
  const smallest = negative ? NaN : scaled(E, latent);
  if (negative || smallest < NEGATIVE)
    list.push({ code: "latent-covariance-not-positive-definite", group, eigenvalue: smallest });
  const residual = variables.map((_, i) => i).filter((i) => S[i * v + i]! !== 0);
  if (residual.every((i) => S[i * v + i]! > 0)) {
    const eigenvalue = scaled(S, residual);
    if (eigenvalue < NEGATIVE)
      list.push({ code: "residual-covariance-not-positive-definite", group, eigenvalue });
  }
  return list;
}
