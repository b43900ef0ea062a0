import { styled } from "@mui/material/styles";
import Typography from "@mui/material/Typography";
import { useDeferredValue, useEffect, useMemo, useState } from "react";
import { parseTheory } from "../../core";
import { useAnalysis } from "../analysis/use-analysis";
import { useStudy } from "../analysis/use-study";
import { isStopped } from "../components/frame/fault";
import { SettingMends } from "../components/frame/setting-mends";
import { choicesOf } from "../components/theory/choices";
import { Picture } from "../components/theory/picture";
import { Sentences } from "../components/theory/sentences";
import { prepareEditor, TextView } from "../components/theory/text-view";
import { detailsOf, VariableDetails } from "../components/theory/variable-details";
import { Note, ScreenHead, Spacer } from "../components/ui/layout";
import { Segments } from "../components/ui/segments";

const Sides = styled("div")({
  display: "grid",
  gridTemplateColumns: "minmax(400px, 36%) minmax(0, 1fr)",
  height: "100%",
  "@media (max-width: 900px)": { gridTemplateColumns: "minmax(0, 1fr)", height: "auto" },
});

const Composer = styled("section")({
  backgroundColor: "var(--sheet)",
  borderRight: "1px solid var(--line)",
  padding: "16px 16px 24px 24px",
  overflow: "auto",
});

/** The sentences beside the picture they draw, with live estimates. */
export default function Hypotheses() {
  const context = useStudy();
  const { definition, edit, dataset } = context;
  const analysis = useAnalysis(context.analysis);
  const [view, setView] = useState<"sentences" | "text">("sentences");
  const [focus, setFocus] = useState<number | null>(null);
  // A study opens with its numbers: the picture is drawn first, the fields a moment later.
  const fields = useDeferredValue(true, false);
  const { statements, complaints } = useMemo(
    () =>
      parseTheory(
        definition.theory,
        dataset.table.columns
          .map((c) => c.name)
          .filter((name) => dataset.origins.get(name) !== "measure"),
      ),
    [definition.theory, dataset],
  );
  const held = useMemo(() => detailsOf(dataset), [dataset]);
  const { variables, groupings, details } = useMemo(
    () => choicesOf(dataset, statements, held),
    [dataset, statements, held],
  );
  useEffect(prepareEditor, []);
  const change = (theory: string): void => edit({ theory }, "theory");
  return (
    <Sides>
      <Composer aria-label="Composer">
        <ScreenHead as="div">
          <Typography variant="h1">What you expect</Typography>
          <Spacer />
          <Segments
            label="View"
            value={view}
            choices={[
              ["sentences", "Sentences"],
              ["text", "Text"],
            ]}
            choose={setView}
          />
        </ScreenHead>
        {view === "sentences" && fields && (
          <VariableDetails value={details}>
            <Sentences
              text={definition.theory}
              statements={statements}
              complaints={complaints}
              variables={variables}
              groupings={groupings}
              evidence={analysis.evidence}
              change={change}
              focus={setFocus}
            />
          </VariableDetails>
        )}
        {view === "text" && (
          <TextView
            text={definition.theory}
            complaints={complaints}
            variables={variables}
            change={change}
          />
        )}
        {isStopped(analysis.problem) && (
          <Note role="alert" sx={{ mt: 1.75 }}>
            {analysis.problem.message}
            <SettingMends context={context} />
          </Note>
        )}
      </Composer>
      <Picture context={context} focus={focus} />
    </Sides>
  );
}
