import { isStopped } from "./fault";
import type { AnalysisState } from "../../analysis/analysis";
import type { StudyContext } from "../../analysis/use-study";

export type StageState = "empty" | "progress" | "look" | "ready";
export const STATE_WORDS: Record<StageState, string> = {
  empty: "empty",
  progress: "in progress",
  look: "needs a look",
  ready: "up to date",
};

/** Names and addresses of the screens, in the order of the work. */
export const SCREENS = [
  ["data", "Data"],
  ["screening", "Screening"],
  ["measures", "Measures"],
  ["hypotheses", "Hypotheses"],
  ["plan", "Plan"],
  ["evidence", "Evidence"],
  ["probe", "Probe"],
  ["checks", "Checks"],
  ["compare", "Compare"],
  ["report", "Report"],
] as const;

/** Warnings that say something about the model rather than the sample. */
const LOOK = new Set(["near_collinear", "leverage_one", "perfect_fit", "inconsistent_mediation"]);
/** Problems that the data, not the sentences, have. */
const OF_DATA = new Set([
  "not_numeric",
  "wrong_level",
  "no_complete_cases",
  "one_level",
  "constant_variable",
]);

/** How far each stage of the work has come, in the order of the screens. */
export function stagesOf(context: StudyContext, state: AnalysisState): StageState[] {
  const states = {
    data: dataState(context, state),
    screening: context.study.rows === 0 ? "empty" : "ready",
    measures: context.dataset.measures.length > 0 ? "ready" : "empty",
    hypotheses: hypothesesState(context, state),
    plan: context.definition.plan?.sizes?.length ? "ready" : "empty",
    ...resultStates(state),
  } as const;
  return SCREENS.map(([to]) => states[to]);
}

function dataState({ study, dataset }: StudyContext, { problem }: AnalysisState): StageState {
  if (study.rows === 0) return "empty";
  const broken = problem !== null && OF_DATA.has(problem.code);
  return broken || dataset.problems.length > 0 ? "look" : "ready";
}

function hypothesesState({ definition }: StudyContext, analysis: AnalysisState): StageState {
  if (definition.theory.trim() === "") return "empty";
  return analysis.complaints.length > 0 || isStopped(analysis.problem) ? "look" : "ready";
}

function resultStates({ evidence, problem, status }: AnalysisState) {
  if (!evidence)
    return {
      evidence: "empty",
      probe: "empty",
      checks: "empty",
      compare: "empty",
      report: "empty",
    } as const;
  const unsettled = evidence.hypotheses.some((h) => h.verdict === "unsettled");
  const waiting =
    status === "resampling" ||
    status === "estimating" ||
    status === "stopped" ||
    status === "trying";
  const result: StageState = problem || unsettled ? "look" : waiting ? "progress" : "ready";
  const probe: StageState = evidence.moderations.length > 0 ? result : "empty";
  const checks: StageState = evidence.warnings.some((w) => LOOK.has(w.code)) ? "look" : "ready";
  return { evidence: result, probe, checks, compare: "ready", report: result } as const;
}
