import { dfWords, pClause, percent, plain, VERDICT_WORDS } from "../evidence";
import type { Evidence, HypothesisEvidence } from "../evidence";
import { effectWorking } from "./effect";
import { step } from "./paper";
import type { Working, WorkingStep } from "./types";

/**
 * Where a decision comes from: the claimed effect with its error and limits, the test of the claim,
 * and the rule.
 */
export function claimWorking(hypothesis: HypothesisEvidence, evidence: Evidence): Working {
  const { label, sentence, effects, claim, adjusted, verdict, reason } = hypothesis;
  const single = effects.length === 1 ? evidence.effects.find((e) => e.id === effects[0]) : null;
  const own =
    single && single.estimate === claim?.estimate ? effectWorking(single, evidence) : null;
  return {
    title: `${label}: ${sentence}`,
    steps: [
      ...(own?.steps ?? []),
      ...(claim?.joint ? [jointStep(claim.joint)] : []),
      ...(claim && claim.tail === "one" && claim.joint === null ? [boundStep(claim)] : []),
      ...(adjusted ? [holmStep(adjusted, evidence)] : []),
      step("Decision", null, `${VERDICT_WORDS[verdict]}. ${reason}`),
    ],
    rows: own?.rows ?? `${evidence.sample.n} ${evidence.unit || "rows"}.`,
  };
}

type Claim = NonNullable<HypothesisEvidence["claim"]>;

function jointStep({
  reference,
  statistic,
  df1,
  df2,
  p,
  errors,
}: NonNullable<Claim["joint"]>): WorkingStep {
  const covariance = `V their covariance${errors === undefined ? "" : ` (${errors} errors)`}`;
  const name =
    reference === "F" ? `F(${df1}, ${dfWords(df2)})` : reference === "chi2" ? `χ²(${df1})` : "T";
  const [formula, how] =
    reference === "F"
      ? [`b′ V⁻¹ b / number of effects, b the effects and ${covariance}`, ""]
      : reference === "chi2"
        ? [`b′ V⁻¹ b, b the effects and ${covariance}`, ""]
        : [
            "b′ V⁻¹ b, b the effects and V the covariance of their bootstrap estimates",
            ": (1 + bootstrap estimates at least that far from b) / (1 + bootstrap estimates)",
          ];
  return step("Joint test", formula, `${name} = ${plain(statistic)}, ${pClause(p)}${how}`);
}

/** What the number of hypotheses makes of p. */
const holmStep = (
  { p, isBound }: NonNullable<HypothesisEvidence["adjusted"]>,
  { several }: Evidence,
): WorkingStep =>
  step(
    "Corrected for the number of hypotheses",
    "Holm: the smallest p times their number, the next times one less, and so on; never below the one before",
    `${several?.hypotheses ?? 1} hypotheses, ${pClause(p, isBound)}`,
  );

/** Of a one-tailed test: the bound that counts, at the whole error. */
function boundStep({ lower, upper, level, p, pIsBound }: Claim): WorkingStep {
  const bound =
    lower !== null ? `above ${plain(lower)}` : upper !== null ? `below ${plain(upper)}` : "none";
  return step(
    `One-tailed bound at ${percent(level)} %`,
    "the whole error on the side that counts",
    `${bound}${p === null ? "" : `, ${pClause(p, pIsBound)}`}`,
  );
}
