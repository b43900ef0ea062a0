import { coefficientLabel, compileExpression } from "../../model";
import { exp } from "../../numerics/elementary";
import { mean } from "../../numerics/moments";
import type { RareOutcome } from "./types";
import type { Triad } from "./causal-model";
import { reportedCoefficient } from "./reported";
import type { FittedResponses } from "./fitted-responses";

/** Above this share of yes an odds ratio is no ratio of probabilities. */
const RARE = 0.1;

/**
 * Natural effects as odds ratios in closed form, for a rare yes/no outcome with a logistic model
 * and one straight-line mediator, covariates at their means (VanderWeele & Vansteelandt 2010, Am J
 * Epidemiol 172): an approximation beside the integrated effects; null for other models.
 */
export function rareOutcome(
  fit: FittedResponses,
  { at, block, outcome, contrast }: Triad,
): RareOutcome | null {
  const { model, parameters, estimation } = fit;
  const vector = fit.vector();
  const find = (name: string) => model.responses.find((r) => r.outcome === name)!;
  const [mediator] = block as [string];
  const [ofM, ofY] = [find(mediator), find(outcome)];
  const products = ofY.terms.filter((t) => t.length > 1);
  const own = (term: readonly string[]): boolean =>
    term.length === 2 && term.includes(contrast.key) && term.includes(mediator);
  const siblings = new Set(contrast.x1.keys());
  const suits =
    at === null &&
    block.length === 1 &&
    ofY.family === "logistic" &&
    ofM.family === "linear" &&
    ofM.terms.every((t) => t.length < 2) &&
    products.every((t) => own(t) || (siblings.has(t[0]!) && t[1] === mediator));
  if (!suits) return null;
  const value = (response: string, term: readonly string[]): number => {
    const name = term.length === 0 ? "intercept" : term.join(":");
    const place = parameters.index.get(coefficientLabel(response, name))!;
    return compileExpression(reportedCoefficient(fit, place))(vector, 0);
  };
  const crossed = products.find(own);
  const [x1, x0] = [contrast.x1.get(contrast.key)!, contrast.x0.get(contrast.key)!];
  const [t1, t2] = [value(outcome, [contrast.key]), value(outcome, [mediator])];
  const t3 = crossed ? value(outcome, crossed) : 0;
  const covariates = ofM.terms.flatMap((t) =>
    t.length === 1 && !siblings.has(t[0]!) ? [t[0]!] : [],
  );
  const b0 = covariates.reduce(
    (sum, c) => sum + value(mediator, [c]) * mean(model.base.get(c)!),
    value(mediator, []),
  );
  const b1 = value(mediator, [contrast.key]);
  const s2 = vector[estimation.shape.variance[model.responses.indexOf(ofM)]!]!;
  const d = x1 - x0;
  const direct =
    (t1 + t3 * (b0 + b1 * x0 + t2 * s2)) * d + (t3 * t3 * s2 * (x1 * x1 - x0 * x0)) / 2;
  const share = mean(ofY.equation.y);
  return {
    pureDirect: exp(direct),
    totalIndirect: exp((t2 + t3 * x1) * b1 * d),
    share,
    rare: share <= RARE,
  };
}
