import type { CovarianceKind } from "../../study";
import { ModelFault } from "./arrows";
import { STRUCTURE_ERRORS } from "./error-matrices";
import { fitModel, type FittedModel } from "./fit-model";
import { ImpliedMoments } from "./implied";
import { reportFit, type ReportPlan } from "./kernel";
import { fitModerated, type ModeratedFit } from "./latent-moderated";
import { standardErrors } from "./parameter-table";
import { differentiated } from "./standardised";
import type { TheoryModel } from "./theory-model";
import { faultProblem } from "./wording";

/** The estimates of a theory, whichever way they were found. */
export interface Estimates {
  /** With full information: the same model without the interactions. */
  fitted: FittedModel;
  moderated: ModeratedFit | null;
  /** Coefficients, SDs, flag and averages, as a report plan wants them. */
  report(plan: ReportPlan): Float64Array;
  /** Covariances of coefficients and SDs, by kind. */
  covariances(plan: ReportPlan): Map<CovarianceKind, Float64Array>;
  /** Implied SD of a variable, over all groups. */
  sd(place: number): number;
}

/** @throws StudyProblem that says why there is no estimate */
export function estimatesOf({ built, sample }: TheoryModel): Estimates {
  try {
    if (built.interactions.length === 0) return linearEstimates(fitModel(built.spec, sample));
    return moderatedEstimates(fitModerated(built.spec, built.interactions, sample));
  } catch (error) {
    if (error instanceof ModelFault) throw faultProblem(error);
    throw error;
  }
}

const sharesOf = (fitted: FittedModel): number[] =>
  fitted.sample.groups.map((group) => group.n / fitted.n);

function linearEstimates(fitted: FittedModel): Estimates {
  const implied = fitted.models.map((model) => new ImpliedMoments(model));
  const shares = sharesOf(fitted);
  const at = (theta: Float64Array, plan: ReportPlan): Float64Array => {
    implied.forEach((each) => each.at(theta));
    const out = new Float64Array(
      plan.coefficients.length + plan.sds.length + 1 + plan.averages.length,
    );
    reportFit(implied, theta, plan, shares, out);
    return out;
  };
  return {
    fitted,
    moderated: null,
    report: (plan) => at(fitted.theta, plan),
    covariances: (plan) =>
      covarianceMap(
        (theta) => at(theta, plan),
        fitted.theta,
        STRUCTURE_ERRORS.flatMap((kind) => {
          const matrix = fitted.errors.by[kind];
          return matrix ? [[kind, matrix] as const] : [];
        }),
        plan,
      ),
    sd: (place) => at(fitted.theta, { coefficients: [], sds: [place], averages: [] })[0]!,
  };
}

function moderatedEstimates(moderated: ModeratedFit): Estimates {
  const { linear, likelihood, theta, model, observed, robust } = moderated;
  const at = (point: Float64Array, plan: ReportPlan): Float64Array => {
    const { E } = likelihood.implied(point);
    const v = model.variables.length;
    return Float64Array.from([
      ...plan.coefficients.map((parameter) => (parameter < 0 ? 0 : point[parameter]!)),
      ...plan.sds.map((place) => Math.sqrt(E[place * v + place]!)),
      0,
      ...plan.averages.map((plan_) =>
        plan_.kind === "covariance" ? E[plan_.a * v + plan_.b]! : plan_.kind === "share" ? 1 : 0,
      ),
    ]);
  };
  const known = [
    ["observed", observed],
    ["robust", robust],
  ] as const;
  // The interactions' parameters follow those of the linear model, which a plan made of labels
  // knows.
  return {
    fitted: { ...linear, models: [model] },
    moderated,
    report: (plan) => at(theta, plan),
    covariances: (plan) =>
      covarianceMap(
        (point) => at(point, plan),
        theta,
        known.flatMap(([kind, matrix]) => (matrix ? [[kind, matrix] as const] : [])),
        plan,
      ),
    sd: (place) => at(theta, { coefficients: [], sds: [place], averages: [] })[0]!,
  };
}

/** J V J' for the coefficients and SDs of a report. */
function covarianceMap(
  at: (theta: Float64Array) => Float64Array,
  theta: Float64Array,
  known: readonly (readonly [CovarianceKind, Float64Array])[],
  plan: ReportPlan,
): Map<CovarianceKind, Float64Array> {
  const q = theta.length;
  const size = plan.coefficients.length + plan.sds.length;
  if (known.length === 0) return new Map();
  const { jacobian } = differentiated(at, theta, standardErrors(known[0]![1], q));
  return new Map(
    known.map(([kind, matrix]) => {
      const half = new Float64Array(size * q);
      for (let i = 0; i < size; i++)
        for (let a = 0; a < q; a++) {
          const weight = jacobian[i * q + a]!;
          if (weight !== 0)
            for (let b = 0; b < q; b++)
              half[i * q + b] = half[i * q + b]! + weight * matrix[a * q + b]!;
        }
      const out = new Float64Array(size * size);
      for (let i = 0; i < size; i++)
        for (let j = 0; j < size; j++) {
          let sum = 0;
          for (let b = 0; b < q; b++) sum += half[i * q + b]! * jacobian[j * q + b]!;
          out[i * size + j] = sum;
        }
      return [kind, out] as const;
    }),
  );
}
