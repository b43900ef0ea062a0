import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import { styled } from "@mui/material/styles";
import Typography from "@mui/material/Typography";
import {
  checksWorking,
  equationsOf,
  isFromMoments,
  listed,
  variablesOf,
  VERDICT_WORDS,
} from "../../core";
import { Link } from "react-router";
import { influentialRows, plain, type EquationEvidence, type Evidence } from "../../core";
import { useResiduals } from "../analysis/use-data-evidence";
import { useRobustness } from "../analysis/use-robustness";
import type { AnalysisState } from "../analysis/analysis";
import { useAnalysis } from "../analysis/use-analysis";
import { useStudy, type StudyContext } from "../analysis/use-study";
import { checkSentences } from "../components/checks/check-sentences";
import { ResidualFigure } from "../components/checks/residual-figure";
import { CompositeChecks } from "../components/composites/composite-checks";
import { SensitivityView } from "../components/checks/sensitivity-view";
import { UnmeasuredTables } from "../components/responses/unmeasured";
import { StructureChecks } from "../components/structure/structure-checks";
import { withFilter } from "../components/data/filters";
import { isWaiting } from "../components/frame/fault";
import { Empty } from "../components/ui/empty";
import { Waiting } from "../components/ui/waiting";
import { Screen } from "../components/ui/layout";
import { WorkingView } from "../components/ui/working-view";

/** What the estimates rest on: sample, collinearity, residuals, single rows, suppression. */
export default function Checks() {
  const context = useStudy();
  const analysis = useAnalysis(context.analysis);
  const { evidence } = analysis;
  if (!evidence && isWaiting(analysis)) return <Waiting title="Checks" />;
  if (!evidence) {
    return (
      <Empty title="Checks">
        There is no model to check yet. <Link to="../hypotheses">Write a hypothesis</Link> first.
      </Empty>
    );
  }
  return (
    <Screen
      sx={{ display: "grid", gap: 2.25, maxWidth: 1180, gridTemplateColumns: "minmax(0, 1fr)" }}
    >
      <Typography variant="h1">Checks</Typography>
      {isFromMoments(evidence) ? null : equationsOf(evidence).length > 0 ? (
        <Influence context={context} evidence={evidence} />
      ) : evidence.sections.some((s) => s.kind === "responses") ? (
        <Typography sx={{ fontFamily: "var(--serif)", maxWidth: "70ch" }}>
          Responses that are yes or no, or counts, have no residuals that a picture would help with.
          Few events, scatter beyond the model and values out of range are among the warnings on the{" "}
          <Link to="../evidence">Evidence</Link> screen.
        </Typography>
      ) : (
        <Typography sx={{ fontFamily: "var(--serif)", maxWidth: "70ch" }}>
          Residuals and influential cases belong to single regressions; this theory is estimated as
          a whole by {evidence.estimator.label}, so its measurement and its fit are looked at.
        </Typography>
      )}
      {evidence.sections.map((section) =>
        section.kind === "structure" ? (
          <StructureChecks key={section.kind} context={context} section={section} />
        ) : section.kind === "composites" ? (
          <CompositeChecks key={section.kind} context={context} section={section} />
        ) : section.kind === "sensitivity" ? (
          <SensitivityView key={section.kind} section={section} evidence={evidence} />
        ) : section.kind === "responses" ? (
          <UnmeasuredTables key={section.kind} section={section} evidence={evidence} />
        ) : null,
      )}
      {equationsOf(evidence).map((equation) => (
        <EquationChecks key={equation.outcome} context={context} equation={equation} />
      ))}
    </Screen>
  );
}

const Part = styled("section")({ borderTop: "1px solid var(--ink)", paddingTop: 10 });

const Columns = styled("div")({
  display: "grid",
  gridTemplateColumns: "minmax(0, 1fr) minmax(0, 460px)",
  gap: 32,
  alignItems: "start",
  marginTop: 8,
  "@media (max-width: 900px)": { gridTemplateColumns: "minmax(0, 1fr)" },
});

const List = styled("dl")({
  margin: 0,
  "& > div": {
    display: "grid",
    gridTemplateColumns: "150px minmax(0, 1fr)",
    gap: 12,
    padding: "7px 0",
    borderBottom: "1px solid var(--hair)",
  },
  "& dt": { color: "var(--quiet)" },
  "& .look dt": { color: "var(--rust)", fontWeight: 600 },
  "& dd": { margin: 0 },
});

const errorsOf = ({ evidence }: AnalysisState) => evidence?.errors;

function EquationChecks({
  context,
  equation,
}: {
  context: StudyContext;
  equation: EquationEvidence;
}) {
  const residuals = useResiduals(context, equation.outcome);
  const working = checksWorking(equation);
  const robust = useAnalysis(context.analysis, errorsOf) !== "classical";
  const named = new Set(
    (equation.checks?.topCook ?? []).filter((r) => r.cook > 4 / equation.n).map((r) => r.row),
  );
  return (
    <Part aria-labelledby={`checks-${equation.outcome}`}>
      <Typography variant="h2" id={`checks-${equation.outcome}`}>
        {equation.outcome}
      </Typography>
      <p className="quiet">
        explained by {listed(variablesOf(equation.coefficients))}; {equation.n} rows, R²{" "}
        {plain(equation.r2, 3)}
      </p>
      <Columns>
        <List>
          {checkSentences(equation, robust).map((check) => (
            <div key={check.title + check.text} className={check.look ? "look" : undefined}>
              <dt>
                {check.look && <span aria-label="deserves a look">◆ </span>}
                {check.title}
              </dt>
              <dd>{check.text}</dd>
            </div>
          ))}
        </List>
        {residuals && residuals.outcome === equation.outcome && (
          <ResidualFigure residuals={residuals} named={named} />
        )}
      </Columns>
      {working && <WorkingView working={working} summary="Show the working of these checks" />}
    </Part>
  );
}

/** Does a verdict hang on a few rows? */
function Influence({ context, evidence }: { context: StudyContext; evidence: Evidence }) {
  const { definition, edit } = context;
  const rows = influentialRows(evidence);
  const { found, status, old, problem, start } = useRobustness(context, "cases");
  const without = old ? undefined : found.find((s) => s.group === "cases");
  const own = found.find((s) => s.group === "as set");
  if (rows.length === 0)
    return <p className="serif">No row stands out by its influence on the coefficients.</p>;
  const changed = without?.claims.filter((c) => c.differs) ?? [];
  return (
    <Part
      aria-label="Influence"
      sx={{ display: "flex", flexWrap: "wrap", gap: 2.5, alignItems: "center" }}
    >
      <Typography sx={{ fontFamily: "var(--serif)", flex: "1 1 320px" }}>
        {problem
          ? problem.message
          : !without
            ? `The ${rows.length} most influential rows are ${rows.join(", ")}.`
            : changed.length === 0
              ? `No verdict changes without the ${rows.length} most influential rows (${rows.join(", ")}).`
              : `${changed.map((c) => `${c.label} would be ${VERDICT_WORDS[c.verdict]} instead of ${VERDICT_WORDS[own!.claims.find((o) => o.label === c.label)!.verdict]}`).join("; ")} without the ${rows.length} most influential rows (${rows.join(", ")}).`}
      </Typography>
      <Stack direction="row" spacing={1}>
        {!without && (
          <Button onClick={start} disabled={status === "running"}>
            {status === "running" ? "Trying without them …" : "Does a verdict hang on them?"}
          </Button>
        )}
        <Button
          onClick={() =>
            edit(
              {
                filters: withFilter(definition.filters, "influential rows", { kind: "rows", rows }),
              },
              "influential rows",
              "largest Cook's distances",
            )
          }
        >
          Leave these rows out
        </Button>
      </Stack>
    </Part>
  );
}
