import { plain, thousands } from "../evidence";
import type { ArrowEvidence, StructureSection } from "../estimators";
import { operand, sourced, step, testSteps } from "./paper";
import type { Working, WorkingStep } from "./types";

/**
 * What standard errors of a model of means and covariances are made of, and who it goes back to.
 */
const ERRORS: Record<string, [words: string, source: string]> = {
  expected: ["inverse of the expected information", "Bollen 1989, Structural Equations, ch. 4"],
  observed: ["inverse of the observed information", "Efron & Hinkley 1978, Biometrika 65"],
  robust: [
    "sandwich: inverse observed information about the cross-products of the cases' scores",
    "Huber 1967; White 1982, Econometrica 50",
  ],
  robust_expected: [
    "sandwich: inverse expected information about the fourth moments",
    "Satorra & Bentler 1994, in Latent Variables Analysis",
  ],
  naive: ["inverse of the weighted cross-products of the derivatives", "Browne 1984, BJMSP 37"],
  normal_theory: ["weighted moments with errors as if normal", "Browne 1984, BJMSP 37"],
};

/** What an arrow starts from, for people: a product of latent variables as such. */
export function arrowEnd(from: string, section: StructureSection): string {
  const product = productOf(from, section);
  return product ? `${product.x} × ${product.w}` : from;
}

const productOf = (from: string, { interactions }: StructureSection) =>
  interactions.find(({ x, w }) => from === `${x}:${w}` || from === `${w}:${x}`);

/** What an arrow is called: “y on x”, “variance of y”. */
function arrowTitle({ role, from, to }: ArrowEvidence, section: StructureSection): string {
  switch (role) {
    case "variance":
      return `Variance of ${to}`;
    case "intercept":
      return `Intercept of ${to}`;
    case "covariance":
      return `Covariance of ${from} and ${to}`;
    default:
      return `${to} on ${arrowEnd(from, section)}`;
  }
}

/**
 * Where the numbers of one arrow come from: estimate, error, test, what it is in SDs, and what is
 * explained where it ends.
 */
export function arrowWorking(arrow: ArrowEvidence, section: StructureSection): Working {
  const { method, counts, groups } = section;
  const se = arrow.se[method.errors] ?? null;
  const [words, source] = ERRORS[method.errors] ?? [method.errors, ""];
  const steps: WorkingStep[] = [estimateStep(arrow, section)];
  if (arrow.free && se !== null) {
    steps.push(
      sourced("SE", "√ of its place on the diagonal of V", `V the ${words}: ${plain(se)}`, source),
      ...testSteps({ ...arrow, se }, "z", method.level),
    );
  }
  steps.push(
    ...standardisedSteps(arrow),
    ...interactionSteps(arrow, section),
    ...explainedSteps(arrow, section),
  );
  const own = groups.length > 1 ? counts.byGroup.find((g) => g.group === arrow.group) : null;
  return {
    title: arrowTitle(arrow, section) + (own ? `, ${arrow.group}` : ""),
    steps,
    rows: own
      ? `${thousands(own.n)} cases of ${arrow.group}, estimated together with the other groups.`
      : `${thousands(counts.n)} cases.`,
  };
}

/** How the parameters are found, by estimator. */
const FOUND: Record<string, string> = {
  ml: "the values at which the likelihood is greatest, all parameters at once (maximum likelihood)",
  gls: "the values at which the squared differences of moments, weighted by observed covariances, are least",
  uls: "the values at which the squared differences of moments are least",
  adf: "the values at which the squared differences of moments, weighted by fourth moments, are least",
  dwls: "the values at which the squared differences of moments, each weighted by its own variance, are least",
};

function estimateStep(arrow: ArrowEvidence, { method, arrows }: StructureSection): WorkingStep {
  const { free, estimate, parameter } = arrow;
  if (!free) return step("Value", null, `Held at ${plain(estimate)}; it is not estimated.`);
  const equal = arrows.filter((a) => a !== arrow && a.free && a.parameter === parameter);
  const names = equal.map((a) => (a.arrow === arrow.arrow ? a.group : a.arrow));
  return step(
    "Estimate",
    FOUND[method.estimator] ?? null,
    `${plain(estimate)}${parameter !== null && equal.length > 0 ? `, held equal to that of ${[...new Set(names)].join(", ")}` : ""}`,
  );
}

/** In SDs of what the model implies: of both ends, of a variance's own. */
function standardisedSteps({ role, estimate, full }: ArrowEvidence): WorkingStep[] {
  if (full.estimate === null || role === "intercept" || estimate === 0) return [];
  const ratio = full.estimate / estimate;
  const [formula, times] =
    role === "variance"
      ? ["variance / implied variance", ratio]
      : role === "covariance"
        ? ["covariance / (SD × SD)", ratio]
        : ["b × SD of where it starts / SD of where it ends, as the model implies them", ratio];
  const divided = role === "variance" || role === "covariance";
  return [
    step(
      "Standardised",
      formula,
      divided
        ? `${operand(estimate)} / ${plain(1 / times)} = ${plain(full.estimate)}`
        : `${operand(estimate)} × ${plain(times)} = ${plain(full.estimate)}${full.se === null ? "" : `; SE by the delta method ${plain(full.se)}`}`,
    ),
  ];
}

/** Of a product of latent variables: in SDs of both, not of their product. */
function interactionSteps(
  { from, to, estimate }: ArrowEvidence,
  section: StructureSection,
): WorkingStep[] {
  const interactions = section.interactions.filter((i) => i.to === to);
  const own = productOf(from, { ...section, interactions });
  if (!own || estimate === 0) return [];
  const { estimate: standardised } = own.standardised;
  return [
    sourced(
      "In SDs of both",
      `b₃ × SD(${own.x}) × SD(${own.w}) / SD(${to})`,
      `${operand(estimate)} × ${plain(standardised / estimate)} = ${plain(standardised)}`,
      "Wen, Marsh & Hau 2010, Struct Equ Modeling 17",
    ),
  ];
}

/** How much of the variance of its end is explained, by everything that leads there. */
function explainedSteps({ role, to, group }: ArrowEvidence, { arrows, r2 }: StructureSection) {
  const found = r2.find((r) => r.variable === to && r.group === group);
  if (!found || (role !== "path" && role !== "loading")) return [];
  const left = arrows.find(
    (a) => a.role === "variance" && a.from === to && a.to === to && a.group === group,
  );
  if (!left || found.value >= 1) return [];
  return [
    step(
      `R² of ${to}`,
      "1 − residual variance / implied variance",
      `1 − ${operand(left.estimate)} / ${plain(left.estimate / (1 - found.value))} = ${plain(found.value)}`,
    ),
  ];
}
