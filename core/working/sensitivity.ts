import { percent, plain, thousands } from "../evidence";
import type { LeftOut, LinearSensitivity } from "../sensitivity";
import { operand, sourced, step } from "./paper";
import type { Working } from "./types";

const IMAI = "Imai, Keele & Yamamoto 2010, Statistical Science 25";

/**
 * Where the indirect effect comes from that there would be if the errors of mediator and outcome
 * were correlated.
 * @param rho one of the correlations of the curve
 */
export function sensitivityWorking(
  effect: LinearSensitivity,
  rho: number,
  level: number,
): Working | null {
  const point = effect.curve.find((p) => Math.abs(p.rho - rho) < 1e-9);
  const still = effect.curve.find((p) => p.rho === 0);
  if (!point || !still) return null;
  const { distance, sigmaMediator, sigmaOutcome, rhoAtZero, mediator, outcome, total, n } = effect;
  const slant = point.rho / Math.sqrt(1 - point.rho * point.rho);
  const own = rhoAtZero / Math.sqrt(1 - rhoAtZero * rhoAtZero);
  // The residual SD of the outcome once the mediator is held is that without it times √(1 − ρ̃²).
  const spread = sigmaOutcome * Math.sqrt(1 - rhoAtZero * rhoAtZero);
  const b = (own * spread) / sigmaMediator;
  const a = b === 0 ? null : still.indirect / (distance * b);
  return {
    title: `${effect.treatment} through ${mediator} to ${outcome} at a correlation of ${plain(point.rho, 2)}`,
    steps: [
      sourced(
        "Indirect effect",
        "D a (b − ρ / √(1 − ρ²) × s₁ / s₂), s₁ the residual SD of the outcome with the mediator held, s₂ that of the mediator",
        a === null
          ? plain(point.indirect)
          : `${operand(distance)} × ${operand(a)} × (${plain(b)} − ${operand(slant)} × ${plain(spread)} / ${plain(sigmaMediator)}) = ${plain(point.indirect)}`,
        IMAI,
      ),
      step(
        "SE and interval",
        "√(g′ V g), V from the influence of every row on slopes and residual variances",
        `${plain(point.indirectSe)}: ${plain(point.indirect)} ± ${point.indirectSe > 0 ? plain((point.upper - point.lower) / (2 * point.indirectSe)) : "0"} × ${plain(point.indirectSe)} = [${plain(point.lower)}, ${plain(point.upper)}] at ${percent(level)} %`,
      ),
      step(
        "Direct effect",
        "total effect − indirect effect; the total does not hang on ρ",
        `${plain(total)} − ${operand(point.indirect)} = ${plain(point.direct)}`,
      ),
      sourced(
        "Zero at",
        "the correlation of the residuals of mediator and outcome, neither given the other",
        `ρ₀ = ${plain(rhoAtZero)}; squared ${plain(effect.r2Residual)}, the share of what is left of both that a common cause would have to explain, multiplied`,
        IMAI,
      ),
      step(
        "In shares of all variance",
        "ρ₀² (1 − R² of the mediator) (1 − R² of the outcome)",
        `${plain(effect.r2Residual)} × (1 − ${plain(effect.r2Mediator)}) × (1 − ${plain(effect.r2Outcome)}) = ${plain(effect.r2Total)}`,
      ),
    ],
    rows: `${thousands(n)} rows complete on treatment, mediator, outcome and covariates.`,
  };
}

/** Where both parts of an effect come from once something left out is allowed for. */
export function leftOutWorking(effect: LinearSensitivity, left: LeftOut): Working {
  const { indirect, total } = effect;
  const direct = total - indirect;
  const product = left.difference * left.effect;
  const needed = Math.abs(product);
  const SOURCE = "VanderWeele 2010, Epidemiology 21";
  return {
    title:
      left.covariate === null ? "Something guessed" : `Something as strong as ${left.covariate}`,
    steps: [
      ...(left.covariate === null
        ? []
        : [
            step(
              "How strong",
              null,
              `${left.covariate} itself: its difference between both treatments at the same mediator and other covariates ${plain(left.difference)}; its coefficient in the model of ${effect.outcome} ${plain(left.effect)}`,
            ),
          ]),
      sourced(
        "Indirect effect",
        "indirect + difference × effect on the outcome",
        `${plain(indirect)} + ${operand(left.difference)} × ${operand(left.effect)} = ${plain(left.indirect)}`,
        SOURCE,
      ),
      sourced(
        "Direct effect",
        "direct − difference × effect on the outcome",
        `${plain(direct)} − ${operand(left.difference)} × ${operand(left.effect)} = ${plain(left.direct)}`,
        SOURCE,
      ),
      ...(left.timesToZero === null
        ? []
        : [
            step(
              "Times as strong for zero",
              "√(|indirect| / |difference × effect|)",
              `√(${plain(Math.abs(indirect))} / ${plain(needed)}) = ${plain(left.timesToZero)}`,
            ),
          ]),
      ...(left.timesToLimit === null
        ? []
        : [
            step(
              "Times as strong for the interval",
              "√(distance of the nearer limit from zero / |difference × effect|)",
              left.timesToLimit === 0
                ? "The interval contains zero already: 0"
                : `√(${plain(left.timesToLimit * left.timesToLimit * needed)} / ${plain(needed)}) = ${plain(left.timesToLimit)}`,
            ),
          ]),
    ],
    rows: `${thousands(effect.n)} rows.`,
  };
}
