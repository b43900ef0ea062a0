import { Link, NavLink } from "react-router";
import type { StudyContext } from "../analysis/use-study";
import { Mark } from "./mark";

type StageState = "empty" | "progress" | "look" | "ready";
const WORDS: Record<StageState, string> = {
  empty: "empty",
  progress: "in progress",
  look: "needs a look",
  ready: "up to date",
};

/** The stages of the work, each with its state. */
export function Rail({ context }: { context: StudyContext }) {
  const stages = stagesOf(context);
  return (
    <nav className="rail" aria-label="Stages of the work">
      <Link to="/" className="rail-home" aria-label="To the shelf" title="To the shelf">
        <Mark />
      </Link>
      <ol>
        {stages.map(({ to, name, state }) => (
          <li key={to}>
            <NavLink
              to={to}
              prefetch="render"
              className={({ isActive }) => (isActive ? "stage active" : "stage")}
            >
              <StateMark state={state} />
              {name}
              <span className="visually-hidden">({WORDS[state]})</span>
            </NavLink>
          </li>
        ))}
      </ol>
    </nav>
  );
}

function StateMark({ state }: { state: StageState }) {
  return (
    <svg className={`rail-state at-${state}`} viewBox="0 0 12 12" aria-hidden>
      {state === "look" ? (
        <path d="M6 0.8 11.2 6 6 11.2 0.8 6Z" />
      ) : (
        <circle cx="6" cy="6" r="4.8" />
      )}
    </svg>
  );
}

/** Warnings that say something about the model rather than the sample. */
const LOOK = new Set(["near_collinear", "leverage_one", "perfect_fit", "inconsistent_mediation"]);

function stagesOf({
  study,
  definition,
  analysis,
  dataset,
}: StudyContext): { to: string; name: string; state: StageState }[] {
  const { evidence, problem, complaints, status } = analysis;
  const hasTheory = definition.theory.trim() !== "";
  const aboutData =
    problem !== null &&
    ["not_numeric", "wrong_level", "no_complete_cases", "one_level", "constant_variable"].includes(
      problem.code,
    );
  const unsettled = evidence?.hypotheses.some((h) => h.verdict === "unsettled") ?? false;
  const hypotheses: StageState = !hasTheory
    ? "empty"
    : complaints.length > 0 || problem
      ? "look"
      : "ready";
  const waiting = status === "resampling" || status === "estimating" || status === "stopped";
  const result: StageState = !evidence
    ? "empty"
    : problem || unsettled
      ? "look"
      : waiting
        ? "progress"
        : "ready";
  return [
    {
      to: "data",
      name: "Data",
      state:
        study.rows === 0 ? "empty" : aboutData || dataset.problems.length > 0 ? "look" : "ready",
    },
    { to: "screening", name: "Screening", state: study.rows === 0 ? "empty" : "ready" },
    { to: "measures", name: "Measures", state: dataset.measures.length > 0 ? "ready" : "empty" },
    { to: "hypotheses", name: "Hypotheses", state: hypotheses },
    { to: "evidence", name: "Evidence", state: result },
    {
      to: "probe",
      name: "Probe",
      state: evidence && evidence.moderations.length > 0 ? result : "empty",
    },
    {
      to: "checks",
      name: "Checks",
      state: !evidence
        ? "empty"
        : evidence.warnings.some((w) => LOOK.has(w.code))
          ? "look"
          : "ready",
    },
    { to: "compare", name: "Compare", state: evidence ? "ready" : "empty" },
  ];
}
