import { dfWords, errorsName, plain, pClause, thousands, type Evidence } from "../evidence";
import type { CovarianceKind } from "../study";
import { ERROR_SOURCES } from "./effect";
import type { CoefficientEvidence, EquationEvidence } from "../estimators";
import { operand, sourced, step, testSteps } from "./paper";
import type { Working, WorkingStep } from "./types";

/**
 * Where the numbers of one regression equation come from: what it explains, and every coefficient
 * with its test and VIF.
 */
export function equationWorking(equation: EquationEvidence, evidence: Evidence): Working {
  const { outcome, n, p, dfResidual, r2, adjustedR2, rss, residualVariance, residualSd } = equation;
  const { errors, unit } = evidence;
  const total = r2 < 1 ? rss / (1 - r2) : null;
  const steps: WorkingStep[] = [
    {
      what: "Residual SD",
      formula: "√(Σ residual² / (n − coefficients))",
      numbers: `√(${plain(rss)} / (${n} − ${p})) = √${plain(residualVariance)} = ${plain(residualSd)}`,
      source: null,
    },
    {
      what: "R²",
      formula: "1 − Σ residual² / Σ (y − ȳ)²",
      numbers:
        total === null
          ? plain(r2)
          : `1 − ${plain(rss)} / ${plain(total)} = ${plain(r2)}; adjusted 1 − (1 − ${plain(r2)}) × ${n - 1} / ${dfResidual} = ${plain(adjustedR2)}`,
      source: null,
    },
    ...equation.coefficients.flatMap((c): WorkingStep[] => {
      const test = c.errors[errors];
      return test
        ? [step(c.label, "t = b / SE", `${written(c.b, test.se)}, ${pClause(test.p)}${vifOf(c)}`)]
        : [];
    }),
  ];
  return {
    title: `Equation of ${outcome}`,
    steps,
    rows: `${thousands(n)} ${unit || "rows"}; least squares, ${errorsName(errors)} errors.`,
  };
}

const written = (b: number, se: number): string => `${plain(b)} / ${plain(se)} = ${plain(b / se)}`;

const vifOf = ({ vif, tolerance }: CoefficientEvidence): string =>
  vif === null || tolerance === null
    ? ""
    : `; VIF 1 / (1 − ${plain(1 - tolerance)}) = ${plain(vif)}`;

/**
 * Where the numbers of one term of a regression come from; null where the equation has no such
 * term.
 */
export function termWorking(
  equation: EquationEvidence,
  term: string,
  { errors, settings: { level }, unit }: Evidence,
): Working | null {
  const c = equation.coefficients.find((each) => each.term === term);
  const test = c?.errors[errors];
  if (!c || !test) return null;
  const steps: WorkingStep[] = [
    step("b", "(X′X)⁻¹ X′y", `by least squares: ${plain(c.b)}`),
    errorStep(c, errors),
    ...testSteps({ ...test, estimate: c.b }, `t(${dfWords(test.df)})`, level),
  ];
  if (c.beta !== null && c.b !== 0)
    steps.push(
      step(
        "Beta",
        `b × SD(${c.label}) / SD(${equation.outcome})`,
        `${operand(c.b)} × ${plain(c.beta / c.b)} = ${plain(c.beta)}`,
      ),
    );
  if (c.zScores)
    steps.push(
      step(
        "b of z-scores",
        "every numeric variable a z-score, products made of z-scores",
        plain(c.zScores.b),
      ),
    );
  if (c.semipartial !== null)
    steps.push(
      step(
        "Semipartial r",
        "t of classical errors × √((1 − R²) / degrees of freedom)",
        plain(c.semipartial),
      ),
    );
  if (c.vif !== null && c.tolerance !== null)
    steps.push(
      step(
        "VIF",
        "1 / (1 − R² by the other predictors)",
        `1 / (1 − ${plain(1 - c.tolerance)}) = ${plain(c.vif)}`,
      ),
    );
  return {
    title: `${c.label}, equation of ${equation.outcome}`,
    steps,
    rows: `${thousands(equation.n)} ${unit || "rows"}.`,
  };
}

/** The error in use, and the others beside it. */
function errorStep({ errors: all }: CoefficientEvidence, used: CovarianceKind): WorkingStep {
  const others = (Object.keys(all) as CovarianceKind[])
    .filter((kind) => kind !== used && Number.isFinite(all[kind]?.se))
    .map((kind) => `${errorsName(kind)} ${plain(all[kind]!.se)}`);
  return sourced(
    "SE",
    "√ of its place on the diagonal of V",
    `${errorsName(used)} errors: ${plain(all[used]!.se)}${others.length > 0 ? `; others: ${others.join(", ")}` : ""}`,
    ERROR_SOURCES[used] ?? "Classical: V = s² (X′X)⁻¹",
  );
}
