import type { ArrowModel } from "./arrows";
import type { FittedModel } from "./fit-model";
import { ImpliedMoments } from "./implied";

/** Functions of all parameters, with their derivatives: one row per function. */
export interface Functions {
  values: Float64Array;
  /** Row-major functions x q. */
  jacobian: Float64Array;
}

/**
 * Central differences are taken at one and two steps of this share of a parameter's standard error.
 */
const STEP = 0.02;

/**
 * Values and derivatives of functions of the parameters, by five-point differences (error of the
 * fourth power of the step).
 * @param at writes the values at a parameter vector
 * @param scales what a step is a share of, per parameter: its standard error
 */
export function differentiated(
  at: (theta: Float64Array) => Float64Array,
  theta: Float64Array,
  scales: ArrayLike<number>,
): Functions {
  const values = at(theta).slice();
  const q = theta.length;
  const jacobian = new Float64Array(values.length * q);
  const moved = theta.slice();
  for (let a = 0; a < q; a++) {
    const scale = scales[a]!;
    const h = STEP * (Number.isFinite(scale) && scale > 0 ? scale : Math.abs(theta[a]!) || 1);
    const look = (steps: number): Float64Array => {
      moved[a] = theta[a]! + steps * h;
      return at(moved).slice();
    };
    const [left2, left, right, right2] = [look(-2), look(-1), look(1), look(2)];
    moved[a] = theta[a]!;
    for (let f = 0; f < values.length; f++)
      jacobian[f * q + a] = (8 * (right[f]! - left[f]!) - (right2[f]! - left2[f]!)) / (12 * h);
  }
  return { values, jacobian };
}

/** Standard error of a function by the delta method; NaN where there is none. */
export function deltaError(
  { jacobian }: Functions,
  f: number,
  covariance: Float64Array,
  q: number,
): number {
  let variance = 0;
  for (let a = 0; a < q; a++) {
    const left = jacobian[f * q + a]!;
    if (left === 0) continue;
    for (let b = 0; b < q; b++) variance += left * covariance[a * q + b]! * jacobian[f * q + b]!;
  }
  return variance >= 0 ? Math.sqrt(variance) : NaN;
}

/** What an arrow becomes in SDs: of all variables, and of latent variables alone. */
export interface StandardisedArrows {
  full: Functions;
  latent: Functions;
}

/**
 * Both standardised solutions of the arrows of a group, in the order of its slots, with derivatives
 * that take the SDs as functions of the parameters.
 */
export function standardisedArrows(
  { theta }: Pick<FittedModel, "theta">,
  model: ArrowModel,
  scales: ArrayLike<number>,
  intercept: (theta: Float64Array, slot: number) => number,
): StandardisedArrows {
  const implied = new ImpliedMoments(model);
  const { slots, observed: p } = model;
  const write =
    (latentOnly: boolean) =>
    (at: Float64Array): Float64Array => {
      const { E, S, v } = implied.at(at);
      const sd = (i: number): number => (latentOnly && i < p ? 1 : Math.sqrt(E[i * v + i]!));
      const residualSd = (i: number): number => Math.sqrt(S[i * v + i]!);
      return Float64Array.from(slots, ({ matrix, row, column, parameter, value }, k) => {
        const x = parameter < 0 ? value : at[parameter]!;
        if (matrix === "A") return (x * sd(column)) / sd(row);
        if (matrix === "m") return intercept(at, k) / sd(row);
        if (row === column) return x / (sd(row) * sd(row));
        if (!latentOnly) return x / (residualSd(row) * residualSd(column));
        const own = (i: number): number => (i < p ? 1 : residualSd(i));
        return x / (own(row) * own(column));
      });
    };
  return {
    full: differentiated(write(false), theta, scales),
    latent: differentiated(write(true), theta, scales),
  };
}

/** 1 - residual variance / implied variance of every endogenous variable, by name. */
export function explainedShares(model: ArrowModel, implied: ImpliedMoments): Map<string, number> {
  const { slots, variables } = model;
  const endogenous = new Set(slots.flatMap((s) => (s.matrix === "A" ? [s.row] : [])));
  const { S, E, v } = implied;
  return new Map(
    variables.flatMap((name, i) =>
      endogenous.has(i) ? [[name, 1 - S[i * v + i]! / E[i * v + i]!] as const] : [],
    ),
  );
}
