import Button from "@mui/material/Button";
import { TableSection } from "../components/evidence/table-section";
import { equationsOf } from "../../core";
import { useState } from "react";
import { Link } from "react-router";
import { effectsCsv, writeStudy } from "../../formats";
import type { Evidence as EvidenceObject } from "../../core";
import { isStopped } from "../components/frame/fault";
import { useStudy } from "../analysis/use-study";
import { download, fileName } from "../components/download";
import { Distribution } from "../components/evidence/distribution";
import { EffectsTable } from "../components/evidence/effects-table";
import { EquationTable } from "../components/evidence/equation-table";
import { ErrorsTable } from "../components/evidence/errors-table";
import { LedgerEntry } from "../components/evidence/ledger-entry";
import { AboutScores, ScoresTable } from "../components/evidence/scores-table";
import { scaleOf } from "../components/interval-bar";
import { sampleWords } from "../components/evidence/sample-words";
import { Segments } from "../components/ui/segments";
import "./evidence.css";
import { Screen, ScreenHead, Spacer } from "../components/ui/layout";

/** What the analysis says: roles and sample, warnings, the ledger of hypotheses, every effect, the equations. */
export default function Evidence() {
  const { analysis, definition, raw } = useStudy();
  const { evidence, problem } = analysis;
  const [open, setOpen] = useState<string | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  if (!evidence) {
    return (
      <Screen className="evidence-empty">
        <h1>Evidence</h1>
        {!isStopped(problem) && (
          <p className="serif">
            There is nothing to weigh yet. <Link to="../hypotheses">Write a hypothesis</Link>, and
            its evidence stands here at once.
          </p>
        )}
      </Screen>
    );
  }
  const { hypotheses } = evidence;
  const opened = open ?? hypotheses[0]?.label ?? null;
  const ofOpened = hypotheses.find((h) => h.label === opened)?.effects[0];
  const shown = evidence.effects.find((e) => e.id === (chosen ?? ofOpened)) ?? evidence.effects[0];
  const claims = hypotheses.flatMap((h) => (h.claim ? [h.claim] : []));
  return (
    <Screen className="evidence">
      <Before evidence={evidence} />
      <div className="evidence-columns">
        <section aria-label="Ledger of hypotheses">
          {hypotheses.map((h) => (
            <LedgerEntry
              key={h.label}
              hypothesis={h}
              evidence={evidence}
              scale={scaleOf(claims)}
              open={opened === h.label}
              toggle={() => {
                setOpen(opened === h.label ? "" : h.label);
                setChosen(null);
              }}
            />
          ))}
          {evidence.several && <p className="quiet several">{evidence.several.words}</p>}
        </section>
        <aside className="evidence-side" aria-label="Resamples">
          {shown && (
            <>
              <h2>Resamples of one effect</h2>
              <p className="serif side-label">{shown.label}</p>
              <Distribution effect={shown} />
            </>
          )}
          <div className="side-exports">
            <Button
              onClick={() =>
                download(
                  fileName(definition.title, ".hebel.json"),
                  writeStudy({ definition, table: raw }),
                  "application/json",
                )
              }
            >
              Export the study
            </Button>
            <Button
              onClick={() =>
                download(
                  fileName(definition.title, "-effects.csv"),
                  effectsCsv(evidence),
                  "text/csv",
                )
              }
            >
              Effects as CSV
            </Button>
          </div>
        </aside>
      </div>
      <EffectsTable evidence={evidence} selected={shown?.id ?? null} select={setChosen} />
      {evidence.sections.map((section) =>
        section.kind === "equations" ? (
          <Equations key={section.kind} evidence={evidence} />
        ) : (
          <TableSection key={section.title} section={section} />
        ),
      )}
    </Screen>
  );
}

type View = "coefficients" | "errors" | "scores";

function Equations({ evidence }: { evidence: EvidenceObject }) {
  const [view, setView] = useState<View>("coefficients");
  const hasProducts = equationsOf(evidence).some((e) => e.coefficients.some((c) => c.zScores));
  return (
    <section aria-labelledby="equations">
      <ScreenHead as="div" className="section-head">
        <h2 id="equations">Equations</h2>
        <Spacer />
        <Segments
          label="What to show of the equations"
          value={view}
          choices={[
            ["coefficients", "coefficients"],
            ["errors", "errors side by side"],
            ...(hasProducts ? [["scores", "as z-scores"] as [View, string]] : []),
          ]}
          choose={setView}
        />
      </ScreenHead>
      {equationsOf(evidence).map((equation) => (
        <div key={equation.outcome} className="equation">
          {view === "coefficients" && <EquationTable equation={equation} evidence={evidence} />}
          {view === "errors" && <ErrorsTable equation={equation} evidence={evidence} />}
          {view === "scores" && <ScoresTable equation={equation} evidence={evidence} />}
        </div>
      ))}
      {view === "scores" && <AboutScores />}
    </section>
  );
}

/** Roles and sample before any number, then what needs a look. */
function Before({ evidence }: { evidence: EvidenceObject }) {
  const { roles, sample, warnings, codings } = evidence;
  return (
    <header className="before">
      <h1>Before you read</h1>
      <dl>
        <dt>sample</dt>
        <dd>
          <strong>{sample.n}</strong> {sampleWords(evidence)}
        </dd>
        <dt>roles</dt>
        <dd>
          {roles.predictors.join(", ")}{" "}
          {roles.mediators.length > 0 && (
            <>
              through <strong>{roles.mediators.join(", ")}</strong>
            </>
          )}{" "}
          to <strong>{roles.outcomes.join(", ")}</strong>
          {roles.moderators.length > 0 && `; moderated by ${roles.moderators.join(", ")}`}
          {roles.covariates.length > 0 && `; adjusted for ${roles.covariates.join(", ")}`}
        </dd>
        {codings.map((c) => (
          <div key={c.variable} className="before-row">
            <dt>{c.variable}</dt>
            <dd>
              {c.coding} coding: {c.columns.map((col) => col.contrast).join("; ")}
            </dd>
          </div>
        ))}
      </dl>
      <ul className="before-warnings">
        {warnings.map((w) => (
          <li key={`${w.code} ${w.about.join()}`}>◆ {w.message}</li>
        ))}
      </ul>
    </header>
  );
}
