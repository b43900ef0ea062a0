import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { Link, useLocation } from "react-router";
import type { Analysis, AnalysisState } from "../../analysis/analysis";
import { useAnalysis } from "../../analysis/use-analysis";
import type { StudyContext } from "../../analysis/use-study";
import type { PlainProblem } from "../../workers/attempt";
import { SettingMends } from "./setting-mends";

/** Where the theory is written, what is wrong with it stands beside the sentences. */
const BESIDE_THE_SENTENCES = "hypotheses";

/**
 * Is there something that stops the analysis? A theory that states no effect yet, or a study that
 * has no data yet, stops nothing.
 */
export const isStopped = (problem: PlainProblem | null): problem is PlainProblem =>
  problem !== null && problem.code !== "nothing_to_estimate" && problem.condition !== "no_rows";

/** Are the first numbers on their way? */
export const isWaiting = ({ evidence, problem, status }: AnalysisState): boolean =>
  evidence === null && problem === null && status === "estimating";

const problemOf = ({ problem }: AnalysisState) => problem;
const hasEvidence = ({ evidence }: AnalysisState): boolean => evidence !== null;

const leftOutOf = ({ leftOut }: AnalysisState) => leftOut;

/** What of the theory could not be read, on every screen whose numbers are without it. */
export function LeftOutNotice({ analysis }: { analysis: Analysis }) {
  const leftOut = useAnalysis(analysis, leftOutOf);
  const stopped = isStopped(useAnalysis(analysis, problemOf));
  const screen = useLocation().pathname.split("/").at(-1)!;
  if (leftOut.length === 0 || stopped || screen === BESIDE_THE_SENTENCES) return null;
  const names = leftOut.filter((part) => part.name !== null);
  const lines = leftOut.filter((part) => part.name === null);
  return (
    <Alert
      severity="warning"
      sx={{ m: "16px 24px 0" }}
      action={
        <Button component={Link} to="hypotheses" size="small" sx={{ whiteSpace: "nowrap" }}>
          Mend {leftOut.length === 1 ? "it" : "them"}
        </Button>
      }
    >
      {lines.length > 0 &&
        `${lines.length === 1 ? "A sentence" : `${lines.length} sentences`} could not be read and ${lines.length === 1 ? "is" : "are"} left out of everything here: ${lines.map(({ text }) => `“${text}”`).join(", ")}. `}
      {names.map(({ name, text }) => `“${name}” is left out of “${text}”.`).join(" ")}
    </Alert>
  );
}

/** What stops the analysis, on every screen whose numbers then are old or missing. */
export function Fault({ context }: { context: StudyContext }) {
  const { analysis } = context;
  const screen = useLocation().pathname.split("/").at(-1)!;
  const problem = useAnalysis(analysis, problemOf);
  const old = useAnalysis(analysis, hasEvidence);
  if (!isStopped(problem) || screen === BESIDE_THE_SENTENCES) return null;
  const broken = problem.code === "unexpected";
  return (
    <Alert
      severity="warning"
      sx={{ m: "16px 24px 0" }}
      action={
        broken && (
          <Button size="small" onClick={analysis.retry}>
            Try again
          </Button>
        )
      }
    >
      {problem.message}
      {old && !broken
        ? " The numbers here are those of the last theory that could be estimated."
        : ""}
      <SettingMends context={context} />
    </Alert>
  );
}
