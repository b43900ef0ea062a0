import { plain, pClause, thousands, type Evidence } from "../evidence";
import type { ResponseModelEvidence } from "../estimators";
import { operand, sourced, step, testSteps } from "./paper";
import type { Working, WorkingStep } from "./types";

/** How a model of each family is estimated, and where that stands. */
const FITTED: Record<ResponseModelEvidence["family"], [words: string, source: string]> = {
  linear: ["least squares", "Gauss 1823"],
  logistic: [
    "maximum likelihood, by weighted least squares until nothing moves",
    "Nelder & Wedderburn 1972, JRSS-A 135",
  ],
  probit: [
    "maximum likelihood, by weighted least squares until nothing moves",
    "Nelder & Wedderburn 1972, JRSS-A 135",
  ],
  poisson: [
    "maximum likelihood, by weighted least squares until nothing moves",
    "Nelder & Wedderburn 1972, JRSS-A 135",
  ],
  negative_binomial: [
    "maximum likelihood, coefficients and θ by turns",
    "Lawless 1987, Can J Stat 15",
  ],
};

/**
 * Where the numbers of one term of a model of a response come from; null where the model has no
 * such term.
 */
export function coefficientWorking(
  model: ResponseModelEvidence,
  term: string,
  { errors, settings: { level }, unit }: Evidence,
): Working | null {
  const c = model.coefficients.find((each) => each.term === term);
  if (!c) return null;
  const robust = errors === "HC0";
  const se = robust ? c.se.hc0 : c.se.classical;
  const [words, source] = FITTED[model.family];
  const name = model.family === "linear" ? `t(${model.n - model.coefficients.length})` : "z";
  return {
    title: `${term.replaceAll(":", " × ")}, model of ${model.outcome}`,
    steps: [
      sourced("b", null, `${words}: ${plain(c.estimate)}`, source),
      sourced(
        "SE",
        robust
          ? "√ of its place in A⁻¹ B A⁻¹"
          : "√ of its place in the inverse of the information A",
        robust
          ? `B the cross-products of the rows' scores: ${plain(se)}; from the model alone ${plain(c.se.classical)}`
          : plain(se),
        robust ? "Huber 1967; White 1982, Econometrica 50" : source,
      ),
      ...testSteps({ ...c, se }, name, level),
      ...ratioSteps(c, model.family),
      ...averageSteps(model, term, robust),
    ],
    rows: `${thousands(model.n)} ${unit || "rows"}${model.exposure ? `, over the exposure ${model.exposure}` : ""}.`,
  };
}

function ratioSteps(
  { estimate, lower, upper, ratio }: ResponseModelEvidence["coefficients"][number],
  family: ResponseModelEvidence["family"],
): WorkingStep[] {
  if (!ratio) return [];
  return [
    step(
      family === "logistic" ? "Odds ratio" : "Rate ratio",
      "exp(b), and of its limits",
      `exp(${plain(estimate)}) = ${plain(ratio.estimate)}, from exp(${plain(lower)}) = ${plain(ratio.lower)} to exp(${plain(upper)}) = ${plain(ratio.upper)}`,
    ),
  ];
}

/** The mean change of the response with a column, over the rows as they are. */
function averageSteps(
  { marginal, outcome, family }: ResponseModelEvidence,
  term: string,
  robust: boolean,
) {
  const own = marginal.find((m) => m.column === term);
  if (!own || family === "linear") return [];
  const { se, lower, upper, p } = robust ? own.robust : own.model;
  return [
    sourced(
      "Average effect",
      `mean over the rows of (${outcome} expected with ${term} at 1 − at 0), or of the slope there where ${term} has more values`,
      `${plain(own.estimate)}, everything else as each row has it`,
      "Greene 2018, Econometric Analysis, ch. 17",
    ),
    step(
      "Its error and interval",
      "√(g′ V g), g the gradient of that mean",
      `${plain(se)}; ${plain(own.estimate)} ± ${plain((upper - lower) / (2 * se))} × ${plain(se)} = [${plain(lower)}, ${plain(upper)}]${p === null ? "" : `; ${operand(own.estimate)} / ${plain(se)} = ${plain(own.estimate / se)}, ${pClause(p)}`}`,
    ),
  ];
}
