import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { useLocation } from "react-router";
import type { AnalysisState } from "../../analysis/analysis";
import type { StudyContext } from "../../analysis/use-study";
import type { PlainProblem } from "../../workers/attempt";

/** Where the theory is written, what is wrong with it stands beside the sentences. */
const BESIDE_THE_SENTENCES = "hypotheses";

/** Is there something that stops the analysis? A theory that states no effect yet stops nothing. */
export const isStopped = (problem: PlainProblem | null): problem is PlainProblem =>
  problem !== null && problem.code !== "nothing_to_estimate";

/** Are the first numbers on their way? */
export const isWaiting = ({ evidence, problem, status }: AnalysisState): boolean =>
  evidence === null && problem === null && status === "estimating";

/** What stops the analysis, on every screen whose numbers then are old or missing. */
export function Fault({ context: { analysis, retry } }: { context: StudyContext }) {
  const screen = useLocation().pathname.split("/").at(-1)!;
  const { problem, evidence } = analysis;
  if (!isStopped(problem) || screen === BESIDE_THE_SENTENCES) return null;
  const broken = problem.code === "unexpected";
  return (
    <Alert
      severity="warning"
      sx={{ m: "16px 24px 0" }}
      action={
        broken && (
          <Button size="small" onClick={retry}>
            Try again
          </Button>
        )
      }
    >
      {problem.message}
      {evidence && !broken
        ? " The numbers here are those of the last theory that could be estimated."
        : ""}
    </Alert>
  );
}
