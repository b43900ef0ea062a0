import { pClause, percent, plain } from "../evidence";
import type { LinkProduct, ResponseInteraction } from "../estimators";
import { operand, sourced, step, testSteps } from "./paper";
import type { Working, WorkingStep } from "./types";

/**
 * Where a product of coefficients on the scale of a model comes from, its error, and what it is in
 * latent SDs.
 */
export function linkProductWorking(link: LinkProduct, level: number): Working {
  const { a, b, total, direct, product, difference, latentSd, rescaled } = link;
  const shares: WorkingStep[] =
    rescaled.withheld === null
      ? [
          step(
            "Shares by latent SDs",
            "a b / (a b + c′) and (c − c′) / c, each by its SD",
            `${operand(rescaled.product)} / (${plain(rescaled.product)} + ${operand(rescaled.direct)}) = ${plain(rescaled.proportionProduct)}; ${operand(rescaled.difference)} / ${operand(rescaled.total)} = ${plain(rescaled.proportionDifference)}`,
          ),
        ]
      : [];
  return {
    title: `${link.treatment} through ${link.mediator} to ${link.outcome}, ${link.contrast}`,
    steps: [
      step(
        "a b",
        "a × b",
        `${operand(a.estimate)} × ${operand(b.estimate)} = ${plain(product.estimate)}`,
      ),
      sourced(
        "SE of a b",
        "√(b² SE(a)² + a² SE(b)²)",
        `√(${operand(b.estimate)}² × ${plain(a.se)}² + ${operand(a.estimate)}² × ${plain(b.se)}²) = ${plain(product.se)}; robust ${plain(product.robustSe)}`,
        "Sobel 1982, Sociological Methodology 13",
      ),
      ...testSteps(product, "z", level),
      step(
        "c − c′",
        "without the mediator − with it",
        `${operand(total.estimate)} − ${operand(direct.estimate)} = ${plain(difference)}`,
      ),
      sourced(
        "By latent SDs",
        "coefficient / SD of what stands behind the response: of c in the model without the mediator, of b and c′ in the one with it",
        `b: ${operand(b.estimate)} / ${plain(latentSd.full)} = ${plain(rescaled.b)}; c: ${operand(total.estimate)} / ${plain(latentSd.total)} = ${plain(rescaled.total)}; c′: ${operand(direct.estimate)} / ${plain(latentSd.full)} = ${plain(rescaled.direct)}`,
        "Winship & Mare 1983, Am J Sociol 89; MacKinnon & Dwyer 1993, Evaluation Review 17",
      ),
      ...shares,
    ],
    rows: "From the models of the mediator and of the outcome, each with its own rows.",
  };
}

/** Where an interaction on the scale of the response comes from. */
export function responseInteractionWorking(
  { outcome, columns, kind, average, model, minimum, maximum, ...shares }: ResponseInteraction,
  level: number,
): Working {
  const [first, second] = columns;
  const formula = {
    cross_derivative: `mean over the rows of ∂²E(${outcome}) / ∂${first} ∂${second}`,
    difference_of_derivatives: `mean over the rows of the slope along the one at both values of the other, their difference`,
    double_difference: `mean over the rows of [E(${outcome}) at 1, 1 − at 1, 0] − [at 0, 1 − at 0, 0]`,
  }[kind];
  return {
    title: `${columns.join(" × ")} on ${outcome}`,
    steps: [
      sourced("Average", formula, plain(average), "Ai & Norton 2003, Economics Letters 80"),
      step("SE", "√(g′ V g), g the gradient of that mean", plain(model.se)),
      ...testSteps({ ...model, estimate: average }, "z", level),
      step(
        "Over the rows",
        null,
        `from ${plain(minimum)} to ${plain(maximum)}; below zero in ${percent(shares.shareNegative)} % of the rows, further from zero than its error allows by chance in ${percent(shares.shareSignificant)} %`,
      ),
    ],
    rows: `Every row with its covariates as they are${model.p === null ? "" : `; ${pClause(model.p)} of the average`}.`,
  };
}
