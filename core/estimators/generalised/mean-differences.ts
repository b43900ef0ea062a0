import {
  coefficientLabel,
  multiply,
  number,
  parameter,
  product,
  subtract,
  type Expression,
} from "../../model";
import type { FittedResponses } from "./fitted-responses";

type Fitted = Pick<FittedResponses, "model" | "plan" | "theory" | "parameters" | "estimation">;

/** The mean that stands at a place of the plan. */
const meanAt =
  ({ estimation }: Fitted) =>
  (place: number): Expression =>
    parameter(estimation.estimated + place);

/**
 * What would have been under one value less what would have been under the other, along one path.
 * @returns null where slopes tell
 */
export function meanDifference(
  fit: Fitted,
  key: string,
  nodes: readonly string[],
): Expression | null {
  const { plan, model } = fit;
  const at = meanAt(fit);
  const outcome = nodes.at(-1)!;
  if (nodes.length === 2) return stepDifference(fit, key, nodes[0]!, outcome);
  const means = plan.triads.find(
    ({ triad }) =>
      triad.at === null &&
      triad.contrast.key === key &&
      triad.outcome === outcome &&
      triad.mediator === nodes[1],
  );
  if (means && nodes.length === 3) return subtract(at(means.nested[1][1]), at(means.nested[1][0]));
  // A moderated path is no one number: slopes tell, along what moderates it and on average.
  const moderated = fit.theory.moderated.some(({ from, to }) =>
    nodes.some((node, i) => node === from && nodes[i + 1] === to),
  );
  if (moderated) return null;
  const contrast = model.contrasts.find((c) => c.key === key);
  const steps = nodes.slice(1).map((node, i) => coefficient(fit, node, i === 0 ? key : nodes[i]!));
  const linear = model.responses.every((r) => r.family === "linear");
  return contrast && linear ? multiply(product(steps), number(contrast.distance)) : null;
}

/** Past a block of mediators, and through all of it; null where there is none. */
export function blockDifferences(
  fit: Fitted,
  key: string,
  outcome: string,
): { direct: Expression; indirect: Expression } | null {
  const at = meanAt(fit);
  const means = fit.plan.triads.find(
    ({ triad }) =>
      triad.at === null &&
      triad.block.length > 1 &&
      triad.contrast.key === key &&
      triad.outcome === outcome,
  )?.nested;
  return means
    ? {
        direct: subtract(at(means[1][0]), at(means[0][0])),
        indirect: subtract(at(means[1][1]), at(means[1][0])),
      }
    : null;
}

function stepDifference(
  fit: Fitted,
  key: string,
  from: string,
  outcome: string,
): Expression | null {
  // Where something moderates the step, slopes are told on the scale of the model.
  if (fit.theory.moderated.some((m) => m.from === from && m.to === outcome)) return null;
  const at = meanAt(fit);
  const { triads, responses, marginal } = fit.plan;
  const means = triads.find(
    ({ triad }) => triad.at === null && triad.contrast.key === key && triad.outcome === outcome,
  );
  if (means) return subtract(at(means.nested[1][0]), at(means.nested[0][0]));
  const response = responses.find((r) => r.contrast.key === key && r.outcome === outcome);
  if (response) return subtract(at(response.x1), at(response.x0));
  const own = marginal.find((m) => m.key === key && m.outcome === outcome);
  if (!own) return null;
  const [one, zero] = own.places;
  return zero === undefined ? at(one) : subtract(at(one), at(zero));
}

function coefficient({ parameters }: Fitted, outcome: string, term: string): Expression {
  const at = parameters.index.get(coefficientLabel(outcome, term));
  return at === undefined ? number(0) : parameter(at);
}
