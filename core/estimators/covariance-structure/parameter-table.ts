import { arrowName } from "./arrows";
import { STRUCTURE_ERRORS, type StructureErrors } from "./error-matrices";
import type { FittedModel } from "./fit-model";
import { arrowScale } from "./product-units";
import { deltaError, differentiated, standardisedArrows } from "./standardised";

/** A number with its standard error; NaN where there is none. */
export interface WithError {
  estimate: number;
  se: number;
}

/** What is known of one arrow. */
export interface ArrowEstimate {
  arrow: string;
  kind: "path" | "covariance" | "intercept";
  from: string;
  to: string;
  group: string;
  free: boolean;
  /** Name of the parameter, shared by arrows that are held equal; null where fixed. */
  parameter: string | null;
  estimate: number;
  se: Record<StructureErrors, number | null>;
  full: WithError;
  latent: WithError;
}

/** Which errors a model's tests rest on when nobody says otherwise. */
export function defaultErrors({ spec, sample }: FittedModel): StructureErrors {
  if (spec.estimator === "ml") return sample.missing ? "observed" : "expected";
  return spec.estimator === "gls" || spec.estimator === "adf" ? "naive" : "robust";
}

/**
 * Every arrow with its estimate, the standard errors that exist, and both standardised solutions.
 * @param errors the covariance that errors of standardised numbers rest on
 */
export function parameterTable(
  model: FittedModel,
  errors: StructureErrors = defaultErrors(model),
): ArrowEstimate[] {
  const { models, theta, spec } = model;
  const q = theta.length;
  const covariance = model.errors.by[errors];
  const scales = standardErrors(covariance, q);
  return models.flatMap((each, g) => {
    const intercept = reportedIntercept(model, g);
    const { full, latent } = standardisedArrows(model, each, scales, intercept);
    const units = each.slots.map((slot) =>
      arrowScale(endsOf(each, slot), spec.units ?? [], spec.groups[g]!.arrows, each.parameters),
    );
    const turned = differentiated(
      (at) =>
        Float64Array.from(each.slots, (slot, k) =>
          slot.matrix === "m"
            ? intercept(at, k)
            : (slot.parameter < 0 ? slot.value : at[slot.parameter]!) * (units[k]?.(at) ?? 1),
        ),
      theta,
      scales,
    );
    return each.slots.map((slot, k): ArrowEstimate => {
      const { parameter } = slot;
      const { kind, from, to } = endsOf(each, slot);
      const se = Object.fromEntries(
        STRUCTURE_ERRORS.map((name) => {
          const matrixOf = model.errors.by[name];
          return [name, matrixOf && parameter >= 0 ? deltaError(turned, k, matrixOf, q) : null];
        }),
      ) as ArrowEstimate["se"];
      const standardised = (of: typeof full): WithError => ({
        estimate: of.values[k]!,
        se: covariance ? deltaError(of, k, covariance, q) : NaN,
      });
      return {
        arrow: arrowName({ kind, from, to }),
        kind,
        from,
        to,
        group: spec.groups[g]!.name,
        free: parameter >= 0,
        parameter: parameter < 0 ? null : each.parameters[parameter]!,
        estimate: turned.values[k]!,
        se,
        full: standardised(full),
        latent: standardised(latent),
      };
    });
  });
}

function endsOf(
  { variables }: Pick<FittedModel["models"][number], "variables">,
  { matrix, row, column }: FittedModel["models"][number]["slots"][number],
): Pick<ArrowEstimate, "kind" | "from" | "to"> {
  return {
    kind: matrix === "A" ? "path" : matrix === "S" ? "covariance" : "intercept",
    from: matrix === "m" ? "" : variables[column]!,
    to: variables[row]!,
  };
}

export const standardErrors = (covariance: Float64Array | null, q: number): Float64Array =>
  Float64Array.from({ length: q }, (_, a) =>
    covariance ? Math.sqrt(covariance[a * q + a]!) : NaN,
  );

/**
 * Intercepts on the scale of the data: fitting works on centred variables, and an intercept there
 * is that of the data less the centre plus what the centres of its predictors explain, through
 * latent variables too.
 */
export function reportedIntercept(
  { models, sample }: Pick<FittedModel, "models" | "sample">,
  g: number,
): (theta: ArrayLike<number>, slot: number) => number {
  const { slots, observed: p, variables } = models[g]!;
  const centres = sample.centres[g]!;
  const into = variables.map((_, i) => slots.filter((s) => s.matrix === "A" && s.row === i));
  const free = new Set(slots.flatMap((s) => (s.matrix === "m" && s.parameter >= 0 ? [s.row] : [])));
  const explained = (theta: ArrayLike<number>, i: number): number =>
    into[i]!.reduce(
      (sum, { parameter, value, column }) =>
        sum + (parameter < 0 ? value : theta[parameter]!) * shift(theta, column),
      0,
    );
  /**
   * What was taken off a variable: of a latent one with a fixed mean what follows from its
   * predictors.
   */
  const shift = (theta: ArrayLike<number>, i: number): number =>
    i < p ? centres[i]! : free.has(i) ? 0 : explained(theta, i);
  return (theta, k) => {
    const { row, parameter, value } = slots[k]!;
    if (row >= p && parameter < 0) return value;
    const own = parameter < 0 ? value : theta[parameter]!;
    return own + (row < p ? centres[row]! : 0) - explained(theta, row);
  };
}
