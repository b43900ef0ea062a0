import { errorRate, percent, plain, thousands } from "../evidence";
import type { ExactPower, PlanFound, SimulatedShare } from "../planning";
import { operand, sourced, step } from "./paper";
import type { Working, WorkingStep } from "./types";

/**
 * A share of samples with its simulation error: count / samples, √(share (1 − share) / samples).
 */
const written = ({ share, se, samples }: SimulatedShare): string =>
  `${thousands(Math.round(share * samples))} / ${thousands(samples)} = ${plain(share)}; ± 1.96 × √(${plain(share)} × ${plain(1 - share)} / ${samples}) = ${plain(1.96 * se)}`;

const sharing = (what: string, of: string, share: SimulatedShare | null): WorkingStep[] =>
  share ? [step(what, of, written(share))] : [];

/**
 * Where the numbers of one sentence of a plan come from.
 * @param at its place among the sentences
 * @param level of the intervals
 */
export function plannedWorking(
  { point, exact: powers, forms }: PlanFound,
  at: number,
  level: number,
): Working {
  const sentence = point.sentences[at]!;
  const [form, power] = [forms?.[at] ?? null, powers[at] ?? null];
  const { truth, bias, meanEstimate, sd, meanSe, width } = sentence;
  const steps: WorkingStep[] = [
    ...sharing("Power", "samples in which the sentence is supported / samples", sentence.power),
    ...sharing("Opposite", "samples in which the opposite is found / samples", sentence.opposite),
    ...(form && power !== null ? exactSteps(form, power, point.people, level) : []),
    ...sharing(
      "Joint significance",
      "samples in which every path of it differs from zero by its t test / samples",
      sentence.joint,
    ),
    ...sharing(
      "Coverage",
      `${percent(level)} % intervals that hold the effect of the population / intervals`,
      sentence.coverage,
    ),
  ];
  if (width !== null)
    steps.push(
      step(
        `${percent(level)} % CI width`,
        "mean of upper limit − lower limit over the samples",
        plain(width),
      ),
    );
  if (truth !== null && bias !== null && meanEstimate !== null)
    steps.push(
      step(
        "Bias",
        "mean of the estimates − effect in the population",
        `${plain(meanEstimate)} − ${operand(truth)} = ${plain(bias)}`,
      ),
    );
  if (sd !== null && meanSe !== null)
    steps.push(
      step(
        "SD over samples, mean SE",
        "√(Σ (estimate − mean)² / (samples − 1)); Σ SE / samples",
        `${plain(sd)} and ${plain(meanSe)}: errors are ${meanSe > 0 && sd > 0 ? `${plain(meanSe / sd, 2)} times` : ""} what the estimates scatter`,
      ),
    );
  return {
    title: `${sentence.label} with ${thousands(point.people)}`,
    steps,
    rows: `${thousands(point.samples)} samples of ${thousands(point.people)} each, drawn from the population as it is expected and analysed as the study is set${point.failed > 0 ? `; in ${thousands(point.failed)} the analysis failed, and they count as not supported` : ""}.`,
  };
}

function exactSteps(form: ExactPower, power: number, people: number, level: number): WorkingStep[] {
  const paths = form.test === "t" ? [form.path] : [form.first, form.second];
  const alpha = 1 - level;
  return [
    sourced(
      "Exact power",
      form.test === "t"
        ? "Pr(|t| > point), t noncentral with δ = β s₁ √χ² / s₂, averaged over χ² on n − k"
        : "the same of both paths of the mediation, multiplied given what the predictors share",
      `${paths
        .map(
          (p) =>
            `β = ${plain(p.size)}, s₁ = ${plain(p.predictorSd)} (predictor, the others held), s₂ = ${plain(p.residualSd)} (residual of the outcome), ${people} − ${p.predictors} − 1 = ${people - p.predictors - 1} degrees of freedom`,
        )
        .join("; ")}, two-tailed at ${errorRate(alpha)}: ${plain(power)}`,
      "Johnson, Kotz & Balakrishnan 1995, Continuous Univariate Distributions 2, ch. 31",
    ),
  ];
}
