import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Typography from "@mui/material/Typography";
import { useDeferredValue, useMemo, useState, useEffect } from "react";
import { Link } from "react-router";
import {
  completeChoices,
  composeReport,
  hasSurface,
  partsWithContent,
  type Evidence,
  type ReportChoices,
  type ReportDocument,
  type ReportSources,
} from "../../core";
import { useAnalysis } from "../analysis/use-analysis";
import { useDataEvidence } from "../analysis/use-data-evidence";
import { useRobustness } from "../analysis/use-robustness";
import { NumbersOfBefore, useTaking } from "../components/ui/numbers-of-before";
import { useStudy } from "../analysis/use-study";
import { isWaiting } from "../components/frame/fault";
import { Contents } from "../components/report/contents";
import { FORMATS, savePack, saveReport, type ReportFormat } from "../components/report/exports";
import { Plan } from "../components/report/plan";
import { ReportPage } from "../components/report/page";
import { FigureStyles, StyleChoices } from "../components/report/style-choices";
import { Empty } from "../components/ui/empty";
import { Note, Screen, ScreenHead, Spacer } from "../components/ui/layout";
import { Waiting } from "../components/ui/waiting";

/** The results section of the paper: a page as it will be printed, and what stands on it. */
export default function Report() {
  const context = useStudy();
  const analysis = useAnalysis(context.analysis);
  const { definition } = context;
  // What goes into a paper rests on all samples, also where fewer were drawn while trying.
  const fewer = analysis.status === "trying";
  useEffect(() => {
    if (fewer) context.analysis.resume();
  }, [fewer, context.analysis]);
  const evidence = useDeferredValue(analysis.evidence, analysis.evidence);
  const described = useDataEvidence(context);
  const data = described.result?.value ?? null;
  const robustness = useRobustness(context);
  const choices = useMemo(() => completeChoices(definition.report), [definition.report]);
  const tried = robustness.status === "done" && !robustness.old ? robustness.found : null;
  const sources = useMemo(
    (): ReportSources | null => evidence && { evidence, data, definition, robustness: tried },
    [evidence, data, definition, tried],
  );
  const report = useMemo(() => sources && composeReport(sources, choices), [sources, choices]);
  const filled = useMemo(
    () => (sources ? partsWithContent(sources, choices) : new Set<never>()),
    [sources, choices],
  );
  // What the data say stands on top: without it parts would be missing, and the page move later on.
  if (evidence ? !described.result && !described.failed : isWaiting(analysis))
    return <Waiting title="Report" />;
  if (!evidence || !report)
    return (
      <Empty title="Report">
        There is nothing to report yet. <Link to="../hypotheses">Write a hypothesis</Link>, and its
        results stand here as they will be printed.
      </Empty>
    );
  const change = (patch: Partial<ReportChoices>): void =>
    context.edit({ report: { ...choices, ...patch } }, "report");
  const running = robustness.status === "running";
  const before = analysis.before || described.old;
  return (
    <NumbersOfBefore value={before}>
      <Screen sx={{ "@media print": { p: 0 } }}>
        <ScreenHead as="div" sx={{ mb: 1.75, "@media print": { display: "none" } }}>
          <Typography variant="h1">Report</Typography>
          <Spacer />
          <Take
            report={report}
            evidence={evidence}
            choices={choices}
            handOver={
              analysis.status === "done"
                ? () =>
                    savePack(
                      { definition, table: context.raw },
                      report,
                      evidence,
                      data,
                      choices.figures,
                    )
                : null
            }
          />
        </ScreenHead>
        {(analysis.status !== "done" || described.old) && (
          <Note sx={{ mb: 1.5, "@media print": { display: "none" } }} role="status">
            {before
              ? "This is the report of the study as it was before; new numbers are on their way."
              : "Intervals are still provisional: resampling has not come to its end."}
          </Note>
        )}
        {!data && (
          <Note sx={{ mb: 1.5 }} role="alert">
            Parts that describe the data are left out:{" "}
            {described.result?.problem?.message ??
              "describing them took more than this browser has; reload to try again."}
          </Note>
        )}
        <Box
          sx={{
            display: "grid",
            gap: 3.5,
            alignItems: "start",
            gridTemplateColumns: "minmax(0, 860px) minmax(250px, 320px)",
            "@media (max-width: 1000px)": { gridTemplateColumns: "minmax(0, 1fr)" },
            "@media print": { display: "block" },
          }}
        >
          <ReportPage report={report} evidence={evidence} figures={choices.figures} />
          <Box
            component="aside"
            aria-label="What stands in the report"
            sx={{
              display: "grid",
              gap: 3,
              position: "sticky",
              top: 16,
              maxHeight: "calc(100vh - 90px)",
              overflowY: "auto",
              pr: 0.5,
              "@media (max-width: 1000px)": { position: "static", maxHeight: "none" },
              "@media print": { display: "none" },
            }}
          >
            <Contents choices={choices} filled={filled} change={(parts) => change({ parts })} />
            {!tried && (
              <Box>
                <Button variant="outlined" disabled={running} onClick={robustness.start}>
                  {running
                    ? `Trying ${robustness.found.length} of ${robustness.total || "…"}`
                    : "Find out how robust the verdicts are"}
                </Button>
              </Box>
            )}
            <StyleChoices choices={choices} change={change} />
            <FigureStyles
              figures={choices.figures}
              surfaces={evidence.moderations.some((m) => m.path && hasSurface(m))}
              change={(patch) => change({ figures: { ...choices.figures, ...patch } })}
            />
            <Plan
              definition={definition}
              register={(registered) => context.edit({ registered }, "registration")}
            />
          </Box>
        </Box>
      </Screen>
    </NumbersOfBefore>
  );
}

/** The report as a file, or on paper. */
function Take({
  report,
  evidence,
  choices,
  handOver,
}: {
  report: ReportDocument;
  evidence: Evidence;
  choices: ReportChoices;
  /** Saves everything as one archive; null as long as its numbers would still change. */
  handOver: (() => Promise<void>) | null;
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [state, setState] = useState<{ making: string | null; problem: string | null }>({
    making: null,
    problem: null,
  });
  const save = (format: ReportFormat, name: string): void =>
    make(name, () => saveReport(format, report, evidence, choices.figures));
  const make = (name: string, saving: () => Promise<void>): void => {
    setAnchor(null);
    setState({ making: name, problem: null });
    saving().then(
      () => setState({ making: null, problem: null }),
      (error: unknown) =>
        setState({
          making: null,
          problem: `The file could not be made (${error instanceof Error ? error.message : String(error)}).`,
        }),
    );
  };
  const [word, ...others] = FORMATS;
  const taking = useTaking();
  return (
    <>
      <span role="status" className="quiet">
        {state.making && `Making: ${state.making} …`}
        {state.problem}
      </span>
      <Button variant="contained" onClick={() => save(...word)} {...taking}>
        Word document
      </Button>
      <Button variant="outlined" onClick={() => print()} {...taking}>
        Print or PDF
      </Button>
      <Button
        variant="outlined"
        aria-haspopup="menu"
        aria-expanded={anchor !== null}
        onClick={(e) => setAnchor(e.currentTarget)}
        {...taking}
      >
        Other files
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {others.map(([format, name]) => (
          <MenuItem key={format} onClick={() => save(format, name)}>
            {name}
          </MenuItem>
        ))}
        <MenuItem
          disabled={handOver === null}
          onClick={() => handOver && make("Archive", handOver)}
        >
          Everything in one archive, to hand over
        </MenuItem>
      </Menu>
    </>
  );
}
