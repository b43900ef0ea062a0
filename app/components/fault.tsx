import { Alert, Button } from "@mui/material";
import { useLocation } from "react-router";
import type { StudyContext } from "../analysis/use-study";

/** Screens that say what is wrong with the theory themselves, beside the sentence or above the numbers. */
const SAY_IT_THEMSELVES = ["hypotheses", "evidence", "probe"];

/** What stops the analysis, on every screen whose numbers then are old or missing. */
export function Fault({ context: { analysis, retry } }: { context: StudyContext }) {
  const screen = useLocation().pathname.split("/").at(-1)!;
  const { problem, evidence } = analysis;
  if (!problem || problem.code === "nothing_to_estimate" || SAY_IT_THEMSELVES.includes(screen))
    return null;
  const broken = problem.code === "unexpected";
  return (
    <Alert
      severity="warning"
      action={
        broken && (
          <Button color="inherit" size="small" onClick={retry}>
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
