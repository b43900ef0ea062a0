import { useMemo } from "react";
import { useNavigate } from "react-router";
import { GLOSSARY } from "../../../core";
import { effectsCsv } from "../../../formats";
import type { AnalysisState } from "../../analysis/analysis";
import { useAnalysis } from "../../analysis/use-analysis";
import type { StudyContext } from "../../analysis/use-study";
import { isTyping, useCommands, type Command } from "../../commands/registry";
import { useLook } from "../../theme/theme";
import { download, fileName } from "../download";
import { exportStudy } from "../export-study";
import { SCREENS } from "./stages";

interface Actions {
  step: (way: "undo" | "redo") => void;
  openSettings: () => void;
  openGlossary: (term?: string) => void;
  openAbout: () => void;
  togglePalette: () => void;
}

const mod = (event: KeyboardEvent): boolean => event.ctrlKey || event.metaKey;
const is = (event: KeyboardEvent, key: string): boolean => event.key.toLowerCase() === key;

/** The commands of a study, whatever screen is open. */
export function useStudyCommands(context: StudyContext, actions: Actions): void {
  useCommands(useScreenCommands(context.study.id));
  useCommands(useGeneralCommands(actions));
  useCommands(useFileCommands(context));
  useCommands(useRunCommands(context));
}

function useScreenCommands(id: string): Command[] {
  const navigate = useNavigate();
  return useMemo(
    () => [
      ...SCREENS.map(([to, name], i) => ({
        name: `Go to ${name}`,
        keys: `Alt ${(i + 1) % 10}`,
        shortcut: (event: KeyboardEvent) => event.altKey && event.key === String((i + 1) % 10),
        run: () => void navigate(`/study/${id}/${to}`),
      })),
      { name: "Go to the shelf", run: () => void navigate("/") },
    ],
    [navigate, id],
  );
}

function useGeneralCommands({
  step,
  openSettings,
  openGlossary,
  openAbout,
  togglePalette,
}: Actions): Command[] {
  const { choose } = useLook();
  const navigate = useNavigate();
  return useMemo(
    () => [
      {
        name: "Find a command",
        keys: "Ctrl K",
        shortcut: (event) => mod(event) && is(event, "k"),
        run: togglePalette,
      },
      {
        name: "Undo",
        keys: "Ctrl Z",
        shortcut: (event) => mod(event) && is(event, "z") && !event.shiftKey && !isTyping(event),
        run: () => step("undo"),
      },
      {
        name: "Redo",
        keys: "Ctrl Shift Z",
        shortcut: (event) => mod(event) && is(event, "z") && event.shiftKey && !isTyping(event),
        run: () => step("redo"),
      },
      { name: "Analysis settings", run: openSettings },
      { name: "Manual", run: () => void navigate("/manual") },
      { name: "Glossary", run: () => openGlossary() },
      ...GLOSSARY.map(({ term }) => ({ name: `What is ${term}?`, run: () => openGlossary(term) })),
      { name: "About Hebel", run: openAbout },
      { name: "Print this page", run: () => print() },
      { name: "Light look", run: () => choose("light") },
      { name: "Dark look", run: () => choose("dark") },
    ],
    [step, openSettings, openGlossary, openAbout, togglePalette, choose, navigate],
  );
}

const hasEvidence = ({ evidence }: AnalysisState): boolean => evidence !== null;

function useFileCommands({ study, raw, definition, analysis }: StudyContext): Command[] {
  const available = useAnalysis(analysis, hasEvidence);
  return useMemo(
    () => [
      {
        name: "Export the study (.hebel.json)",
        run: () => exportStudy(study, definition, raw),
      },
      {
        name: "Export the effects table (CSV)",
        available,
        run: () =>
          download(
            fileName(definition.title, "-effects.csv"),
            effectsCsv(analysis.snapshot().evidence!),
            "text/csv",
          ),
      },
      {
        name: "Export the evidence (JSON)",
        available,
        run: () =>
          download(
            fileName(definition.title, "-evidence.json"),
            JSON.stringify(analysis.snapshot().evidence, null, 2),
            "application/json",
          ),
      },
    ],
    [study, raw, definition, analysis, available],
  );
}

const statusOf = ({ status }: AnalysisState) => status;

function useRunCommands({ analysis }: StudyContext): Command[] {
  const status = useAnalysis(analysis, statusOf);
  return useMemo(
    () => [
      { name: "Stop the bootstrap", available: status === "resampling", run: analysis.stop },
      {
        name: "Go on with the bootstrap",
        available: status === "stopped" || status === "trying",
        run: analysis.resume,
      },
    ],
    [status, analysis],
  );
}
