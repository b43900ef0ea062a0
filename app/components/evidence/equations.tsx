import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { equationsOf, equationWorking, isFromMoments, type Evidence } from "../../../core";
import { ScreenHead, Spacer } from "../ui/layout";
import { Segments } from "../ui/segments";
import { WorkingView } from "../ui/working-view";
import { EquationTable } from "./equation-table";
import { ErrorsTable } from "./errors-table";
import { AboutScores, ScoresTable } from "./scores-table";

type View = "coefficients" | "errors" | "scores";

/**
 * Every equation as a table: its coefficients, their standard errors side by side, or with
 * standardised variables.
 */
export function Equations({ evidence }: { evidence: Evidence }) {
  const [view, setView] = useState<View>("coefficients");
  const equations = equationsOf(evidence);
  const hasProducts = equations.some((e) => e.coefficients.some((c) => c.zScores));
  return (
    <section aria-labelledby="equations">
      <ScreenHead as="div" style={{ margin: "30px 0 8px" }}>
        <Typography variant="h2" id="equations">
          Equations
        </Typography>
        <Spacer />
        <Segments
          label="What to show of the equations"
          value={view}
          choices={[
            ["coefficients", "coefficients"],
            // Of covariances alone only one kind of error is known.
            ...(isFromMoments(evidence)
              ? []
              : [["errors", "standard errors side by side"] as [View, string]]),
            ...(hasProducts ? [["scores", "standardised variables"] as [View, string]] : []),
          ]}
          choose={setView}
        />
      </ScreenHead>
      {equations.map((equation) => (
        <Box key={equation.outcome} sx={{ mb: 2.75 }}>
          {view === "coefficients" && (
            <>
              <EquationTable
                equation={equation}
                evidence={evidence}
                heading={<Typography variant="h3">{equation.outcome}</Typography>}
              />
              <WorkingView
                working={equationWorking(equation, evidence)}
                summary={`Show the working of ${equation.outcome}`}
              />
            </>
          )}
          {view === "errors" && <ErrorsTable equation={equation} evidence={evidence} />}
          {view === "scores" && <ScoresTable equation={equation} evidence={evidence} />}
        </Box>
      ))}
      {view === "scores" && <AboutScores />}
    </section>
  );
}
