import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Link from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { memo, useDeferredValue, useMemo, useState } from "react";
import { Link as RouterLink } from "react-router";
import { deviations, isNeverResampled, type Evidence as EvidenceObject } from "../../core";
import { effectsCsv } from "../../formats";
import { useAnalysis } from "../analysis/use-analysis";
import { useStudy } from "../analysis/use-study";
import { download, fileName } from "../components/download";
import { exportStudy } from "../components/export-study";
import { Before } from "../components/evidence/before";
import { useTaking } from "../components/ui/numbers-of-before";
import { Distribution } from "../components/evidence/distribution";
import { EffectsTable } from "../components/evidence/effects-table";
import { Equations } from "../components/evidence/equations";
import { GroupMeansTable } from "../components/evidence/group-means";
import { HypothesisTable } from "../components/evidence/hypothesis-table";
import { LedgerEntry } from "../components/evidence/ledger-entry";
import { CompositeView } from "../components/composites/composite-view";
import { ModelsView, TreatmentView } from "../components/responses/response-view";
import { StructureView } from "../components/structure/structure-view";
import { TableSection } from "../components/evidence/table-section";
import { isStopped, isWaiting } from "../components/frame/fault";
import { scaleOf } from "../components/interval-bar";
import { Note, Row, Screen } from "../components/ui/layout";
import { Waiting } from "../components/ui/waiting";

/**
 * What the analysis says: roles and sample, warnings, the ledger of hypotheses, every effect, the
 * equations.
 */
export default function Evidence() {
  const analysis = useAnalysis(useStudy().analysis);
  const { problem } = analysis;
  // A batch is drawn between the frames of what the reader does, never before them.
  const evidence = useDeferredValue(analysis.evidence, analysis.evidence);
  if (!evidence && isWaiting(analysis)) return <Waiting title="Evidence" />;
  if (!evidence)
    return (
      <Screen sx={{ display: "grid", gap: 1.75, maxWidth: "70ch" }}>
        <Typography variant="h1">Evidence</Typography>
        {!isStopped(problem) && (
          <Typography sx={{ fontFamily: "var(--serif)" }}>
            There is nothing to weigh yet.{" "}
            <Link component={RouterLink} to="../hypotheses">
              Write a hypothesis
            </Link>
            , and its evidence stands here at once.
          </Typography>
        )}
      </Screen>
    );
  return <Weighed evidence={evidence} />;
}

const Weighed = memo(function Weighed({ evidence }: { evidence: EvidenceObject }) {
  const [open, setOpen] = useState<string | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const { hypotheses, effects } = evidence;
  const opened = open ?? hypotheses[0]?.label ?? null;
  const ofOpened = hypotheses.find((h) => h.label === opened)?.effects[0];
  const shown = effects.find((e) => e.id === (chosen ?? ofOpened)) ?? effects[0];
  const scale = useMemo(
    () => scaleOf(hypotheses.flatMap((h) => (h.claim ? [h.claim] : []))),
    [hypotheses],
  );
  return (
    <Screen sx={{ maxWidth: 1400 }}>
      <Before evidence={evidence} />
      <Deviations />
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1fr) 300px" },
          gap: { xs: 2, lg: 4 },
        }}
      >
        <section aria-label="Ledger of hypotheses">
          {hypotheses.map((h) => (
            <LedgerEntry
              key={h.label}
              hypothesis={h}
              evidence={evidence}
              scale={scale}
              open={opened === h.label}
              toggle={() => {
                setOpen(opened === h.label ? "" : h.label);
                setChosen(null);
              }}
            />
          ))}
          {evidence.several && (
            <Typography variant="body2" color="textSecondary" sx={{ mt: 1.75 }}>
              {evidence.several.words}
            </Typography>
          )}
        </section>
        <Box
          component="aside"
          aria-label="Bootstrap distribution"
          sx={{ pt: 1.75, display: "grid", gap: 1, alignContent: "start", minWidth: 0 }}
        >
          {shown && !isNeverResampled(evidence) && (
            <>
              <Typography variant="h2">Bootstrap distribution</Typography>
              <Typography
                color="textSecondary"
                sx={{ fontFamily: "var(--serif)", fontStyle: "italic" }}
              >
                {shown.label}
              </Typography>
              <Distribution effect={shown} evidence={evidence} />
            </>
          )}
          <Exports evidence={evidence} />
        </Box>
      </Box>
      <Box sx={{ mt: 4, display: "grid", gap: 2, gridTemplateColumns: "minmax(0, 1fr)" }}>
        <HypothesisTable evidence={evidence} />
        <Groups evidence={evidence} />
      </Box>
      {evidence.sections.map((section) =>
        section.kind === "responses" ? (
          <TreatmentView key={section.kind} section={section} evidence={evidence} />
        ) : null,
      )}
      <EffectsTable evidence={evidence} selected={shown?.id ?? null} select={setChosen} />
      {evidence.sections.map((section) =>
        section.kind === "equations" ? (
          <Equations key={section.kind} evidence={evidence} />
        ) : section.kind === "structure" ? (
          <StructureView key={section.kind} section={section} />
        ) : section.kind === "composites" ? (
          <CompositeView key={section.kind} section={section} evidence={evidence} />
        ) : section.kind === "responses" ? (
          <ModelsView key={section.kind} section={section} evidence={evidence} />
        ) : section.kind === "sensitivity" ? null : (
          <TableSection key={section.title} section={section} />
        ),
      )}
    </Screen>
  );
});

/** The numbers of this page, and the study itself, as files. */
function Exports({ evidence }: { evidence: EvidenceObject }) {
  const { study, definition, raw } = useStudy();
  const taking = useTaking();
  return (
    <Row role="group" aria-label="Take along">
      <Button onClick={() => exportStudy(study, definition, raw)}>Export the study</Button>
      <Button
        {...taking}
        onClick={() =>
          download(fileName(definition.title, "-effects.csv"), effectsCsv(evidence), "text/csv")
        }
      >
        Effects as CSV
      </Button>
    </Row>
  );
}

/** Means of the outcomes in the groups of every binary and categorical predictor. */
function Groups({ evidence: { groupMeans } }: { evidence: EvidenceObject }) {
  if (groupMeans.length === 0) return null;
  return (
    <section aria-labelledby="groups">
      <Typography variant="h2" id="groups" sx={{ mt: 2, mb: 1 }}>
        Groups
      </Typography>
      <Box
        sx={{
          display: "grid",
          gap: 3,
          gridTemplateColumns: "repeat(auto-fit, minmax(min(320px, 100%), 460px))",
        }}
      >
        {groupMeans.map((means) => (
          <GroupMeansTable key={`${means.variable} ${means.outcome}`} means={means} />
        ))}
      </Box>
    </section>
  );
}

/**
 * What differs from the plan that was laid down, sentence by sentence, before any number is read.
 */
function Deviations() {
  const { definition, analysis } = useStudy();
  const { registered } = definition;
  const n = useAnalysis(analysis, ({ evidence }) => evidence?.sample.n ?? null);
  const off = useMemo(
    () => (registered ? deviations(registered, definition, n) : null),
    [registered, definition, n],
  );
  if (!registered || !off) return null;
  const when = registered.when.slice(0, 10);
  if (off.length === 0)
    return (
      <Typography variant="body2" color="textSecondary" sx={{ my: 1 }}>
        As planned on {when}: hypotheses, measures, exclusions and settings are those laid down.
      </Typography>
    );
  return (
    <Note role="note" aria-label="Deviations from the plan" sx={{ my: 1.25 }}>
      Not as planned on {when}:
      <Box component="ul" sx={{ pl: 2.25, my: 0.25 }}>
        {off.map((what) => (
          <li key={what}>{what}</li>
        ))}
      </Box>
    </Note>
  );
}
