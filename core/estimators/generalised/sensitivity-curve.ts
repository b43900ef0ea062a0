import {
  coefficientLabel,
  divide,
  multiply,
  number,
  parameter,
  type Expression,
} from "../../model";
import { indirectAt, linearTriads, RHOS, type LinearTriad } from "../../sensitivity";
import type { FittedResponses } from "./fitted-responses";

/**
 * Effects all by straight lines without a product of treatment and mediator: those whose
 * sensitivity can be told.
 */
export function sensitiveTriads({ theory, model }: FittedResponses): LinearTriad[] {
  const find = (outcome: string) => model.responses.find((r) => r.outcome === outcome)!;
  return linearTriads(
    theory,
    model.design,
    (outcome) => {
      const { family, terms } = find(outcome);
      return family === "linear" && terms.every((t) => t.length < 2);
    },
    ({ key }) => {
      const contrast = model.contrasts.find((c) => c.key === key)!;
      return { distance: contrast.distance, label: contrast.label };
    },
  );
}

/** How the resamples of a point of the curve are found again. */
export const curveLabel = (triad: number, at: number): string => `sensitivity ${triad + 1} ${at}`;

/** The indirect effect at every correlation of the errors, as a function of the parameters. */
export function curveFormulas(
  fit: FittedResponses,
  { treatment, mediator, outcome, distance, x }: LinearTriad,
): Expression[] {
  const { parameters, model, columns } = fit;
  const at = (label: string): Expression => parameter(parameters.index.get(label)!);
  const key = [...columns.values()].find((c) => c.variable === treatment && c.values === x)!.key;
  // Residual variances about n - p as they are estimated, about n in the formula.
  const variance = (name: string): Expression => {
    const p = model.responses.find((r) => r.outcome === name)!.terms.length;
    return multiply(number((model.n - p) / model.n), at(`variance(${name})`));
  };
  const a = at(coefficientLabel(mediator, key));
  const b = at(coefficientLabel(outcome, mediator));
  const ratio = divide(variance(outcome), variance(mediator));
  return RHOS.map((rho) => indirectAt(a, b, ratio, distance, rho));
}
