import { useMemo } from "react";
import { useNavigate } from "react-router";
import { effectsCsv, writeStudy } from "../../../formats";
import type { StudyContext } from "../../analysis/use-study";
import { isTyping, useCommands, type Command } from "../../commands/registry";
import { useLook } from "../../theme/theme";
import { download, fileName } from "../download";
import { SCREENS } from "./stages";

interface Actions {
  step: (way: "undo" | "redo") => void;
  openSettings: () => void;
  openGlossary: () => void;
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
        keys: `Alt ${i + 1}`,
        shortcut: (event: KeyboardEvent) => event.altKey && event.key === String(i + 1),
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
  togglePalette,
}: Actions): Command[] {
  const { choose } = useLook();
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
      { name: "Glossary", run: openGlossary },
      { name: "Print this page", run: () => print() },
      { name: "Light look", run: () => choose("light") },
      { name: "Dark look", run: () => choose("dark") },
    ],
    [step, openSettings, openGlossary, togglePalette, choose],
  );
}

function useFileCommands({ raw, definition, analysis: { evidence } }: StudyContext): Command[] {
  return useMemo(
    () => [
      {
        name: "Export the study (.hebel.json)",
        run: () =>
          download(
            fileName(definition.title, ".hebel.json"),
            writeStudy({ definition, table: raw }),
            "application/json",
          ),
      },
      {
        name: "Export the effects table (CSV)",
        available: evidence !== null,
        run: () =>
          download(fileName(definition.title, "-effects.csv"), effectsCsv(evidence!), "text/csv"),
      },
      {
        name: "Export the evidence (JSON)",
        available: evidence !== null,
        run: () =>
          download(
            fileName(definition.title, "-evidence.json"),
            JSON.stringify(evidence, null, 2),
            "application/json",
          ),
      },
    ],
    [raw, definition, evidence],
  );
}

function useRunCommands({ analysis: { status }, stop, resume }: StudyContext): Command[] {
  return useMemo(
    () => [
      { name: "Stop the bootstrap", available: status === "resampling", run: stop },
      { name: "Go on with the bootstrap", available: status === "stopped", run: resume },
    ],
    [status, stop, resume],
  );
}
