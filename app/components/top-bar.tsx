import { Tooltip } from "@mui/material";
import { useState, type ReactNode } from "react";
import { Link, useFetcher } from "react-router";
import { INTERVAL_WORDS, percent, thousands } from "../../core";
import type { StudyContext } from "../analysis/use-study";
import { setMode, useMode } from "../theme/theme";
import { openPalette } from "./command-palette";
import { RedoIcon, ThemeIcon, UndoIcon } from "./icons";
import { SettingsDialog } from "./settings-dialog";

/** Study, sample and run: what a reader must know before any number. */
export function TopBar({
  context,
  history,
}: {
  context: StudyContext;
  history: { undo: number; redo: number };
}) {
  const { definition, edit, study, analysis } = context;
  const [settingsOpen, setSettingsOpen] = useState(false);
  const n = analysis.evidence?.sample.n;
  return (
    <header className="topbar">
      <input
        className="topbar-title"
        aria-label="Title of the study"
        value={definition.title}
        size={Math.max(8, definition.title.length)}
        onChange={(e) => edit({ title: e.target.value }, "title")}
      />
      <input
        className="topbar-question"
        aria-label="Research question"
        placeholder="What is the question?"
        value={definition.question}
        onChange={(e) => edit({ question: e.target.value }, "question")}
      />
      <History id={study.id} history={history} flush={context.flush} />
      <Link
        className="button"
        to="data"
        title="Rows with an answer on every variable of the theory"
      >
        <strong>{n ?? study.rows}</strong> of {study.rows} {definition.unit}
      </Link>
      <RunChip context={context} open={() => setSettingsOpen(true)} />
      <ThemeToggle />
      <button type="button" className="button" onClick={openPalette} aria-label="Commands, Ctrl K">
        Ctrl K
      </button>
      <Progress context={context} />
      {settingsOpen && <SettingsDialog context={context} close={() => setSettingsOpen(false)} />}
    </header>
  );
}

function RunChip({ context, open }: { context: StudyContext; open: () => void }) {
  const { settings } = context.definition;
  const { status, done, requested, secondsLeft } = context.analysis;
  const running = status === "resampling" && done < requested;
  return (
    <>
      {running && (
        <span className="chip-note" role="status">
          {thousands(done)} of {thousands(requested)}
          {secondsLeft !== null && `, ${secondsLeft} s left`}{" "}
          <button type="button" className="button bare" onClick={context.stop}>
            Stop
          </button>
        </span>
      )}
      {status === "stopped" && (
        <span className="chip-note" role="status">
          stopped at {thousands(done)}{" "}
          <button type="button" className="button bare" onClick={context.resume}>
            Go on
          </button>
        </span>
      )}
      <button
        type="button"
        className="button"
        onClick={open}
        aria-haspopup="dialog"
        aria-label="Settings of the analysis"
      >
        <strong>{thousands(settings.replications)}</strong>{" "}
        <span>
          resamples · {INTERVAL_WORDS[settings.interval]} {percent(settings.level)} %
          <span className="run-seed"> · seed {settings.seed}</span>
        </span>
      </button>
    </>
  );
}

function Progress({ context }: { context: StudyContext }) {
  const { status, done, requested } = context.analysis;
  if (status !== "resampling" || requested === 0) return null;
  return (
    <div
      className="progress"
      role="progressbar"
      aria-label="Resamples"
      aria-valuemin={0}
      aria-valuemax={requested}
      aria-valuenow={done}
    >
      <span style={{ transform: `scaleX(${done / requested})` }} />
    </div>
  );
}

function History({
  id,
  history,
  flush,
}: {
  id: string;
  history: { undo: number; redo: number };
  flush: () => Promise<void>;
}) {
  const fetcher = useFetcher({ key: `history ${id}` });
  const step = async (intent: "undo" | "redo"): Promise<void> => {
    await flush();
    await fetcher.submit(JSON.stringify({ intent }), {
      method: "post",
      action: `/study/${id}`,
      encType: "application/json",
    });
  };
  return (
    <span>
      <StepButton
        name="Undo"
        keys="Ctrl Z"
        depth={history.undo}
        step={() => void step("undo")}
        icon={<UndoIcon />}
      />
      <StepButton
        name="Redo"
        keys="Ctrl Shift Z"
        depth={history.redo}
        step={() => void step("redo")}
        icon={<RedoIcon />}
      />
    </span>
  );
}

function StepButton({
  name,
  keys,
  depth,
  step,
  icon,
}: {
  name: string;
  keys: string;
  depth: number;
  step: () => void;
  icon: ReactNode;
}) {
  return (
    <Tooltip title={`${name} (${keys})`}>
      <span>
        <button
          type="button"
          className="button bare"
          aria-label={name}
          data-history={name.toLowerCase()}
          disabled={depth === 0}
          onClick={step}
        >
          {icon}
        </button>
      </span>
    </Tooltip>
  );
}

export function ThemeToggle() {
  const mode = useMode();
  const other = mode === "dark" ? "light" : "dark";
  return (
    <button
      type="button"
      className="button bare"
      aria-label={`Switch to the ${other} look`}
      title={`Switch to the ${other} look`}
      onClick={() => setMode(other)}
    >
      <ThemeIcon />
    </button>
  );
}
