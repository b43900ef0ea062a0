import { Dialog } from "@mui/material";
import { useEffect, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { effectsCsv, writeStudy } from "../../formats";
import type { StudyContext } from "../analysis/use-study";
import { setMode } from "../theme/theme";
import { download, fileName } from "./download";
import "./dialog.css";

const OPEN = "hebel-open-palette";
export const openPalette = (): void => void dispatchEvent(new Event(OPEN));

interface Command {
  name: string;
  keys?: string;
  run: () => void;
}

/** Every command by name (Ctrl or Cmd K), and the keyboard shortcuts of a study. */
export function CommandPalette({ context }: { context: StudyContext }) {
  const [open, setOpen] = useState(false);
  const commands = useCommands(context);
  useEffect(() => {
    const show = (): void => setOpen(true);
    addEventListener(OPEN, show);
    return () => removeEventListener(OPEN, show);
  }, []);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const mod = event.ctrlKey || event.metaKey;
      const key = event.key.toLowerCase();
      const typing =
        event.target instanceof HTMLElement && event.target.matches("input, textarea, select");
      if (mod && key === "k") {
        event.preventDefault();
        setOpen((was) => !was);
      } else if (mod && key === "z" && !typing) {
        event.preventDefault();
        document
          .querySelector<HTMLButtonElement>(`[data-history=${event.shiftKey ? "redo" : "undo"}]`)
          ?.click();
      } else if (event.altKey && ["1", "2", "3", "4", "5", "6", "7", "8"].includes(key)) {
        event.preventDefault();
        commands[Number(key) - 1]?.run();
      }
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, [commands]);
  return open ? <PaletteDialog commands={commands} close={() => setOpen(false)} /> : null;
}

function PaletteDialog({ commands, close }: { commands: Command[]; close: () => void }) {
  const [query, setQuery] = useState("");
  const [at, setAt] = useState(0);
  const found = commands.filter((c) => c.name.toLowerCase().includes(query.trim().toLowerCase()));
  const run = (command: Command | undefined): void => {
    if (!command) return;
    close();
    command.run();
  };
  return (
    <Dialog
      open
      onClose={close}
      fullWidth
      maxWidth="sm"
      aria-label="Commands"
      sx={{ "& .MuiDialog-container": { alignItems: "flex-start" } }}
    >
      <input
        className="palette-input"
        // The dialog exists to be typed into.
        // eslint-disable-next-line jsx-a11y/no-autofocus
        autoFocus
        role="combobox"
        aria-expanded
        aria-controls="palette-list"
        aria-activedescendant={found[at] ? `command-${at}` : undefined}
        aria-label="Find a command"
        placeholder="What do you want to do?"
        value={query}
        onChange={(e) => {
          setQuery(e.target.value);
          setAt(0);
        }}
        onKeyDown={(e) => {
          if (e.key === "ArrowDown") setAt((i) => Math.min(i + 1, found.length - 1));
          else if (e.key === "ArrowUp") setAt((i) => Math.max(i - 1, 0));
          else if (e.key === "Enter") run(found[at]);
        }}
      />
      <ul className="palette-list" id="palette-list" role="listbox" aria-label="Commands">
        {found.map((command, i) => (
          <li key={command.name} role="presentation">
            <button
              type="button"
              role="option"
              id={`command-${i}`}
              aria-selected={i === at}
              tabIndex={-1}
              onClick={() => run(command)}
              onMouseMove={() => setAt(i)}
            >
              {command.name}
              {command.keys && <kbd className="quiet">{command.keys}</kbd>}
            </button>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}

function useCommands({ study, raw, definition, analysis, stop, resume }: StudyContext): Command[] {
  const navigate = useNavigate();
  return useMemo(() => {
    const go = (screen: string) => () => void navigate(`/study/${study.id}/${screen}`);
    const list: Command[] = [
      { name: "Go to Data", keys: "Alt 1", run: go("data") },
      { name: "Go to Screening", keys: "Alt 2", run: go("screening") },
      { name: "Go to Measures", keys: "Alt 3", run: go("measures") },
      { name: "Go to Hypotheses", keys: "Alt 4", run: go("hypotheses") },
      { name: "Go to Evidence", keys: "Alt 5", run: go("evidence") },
      { name: "Go to Probe", keys: "Alt 6", run: go("probe") },
      { name: "Go to Checks", keys: "Alt 7", run: go("checks") },
      { name: "Go to Compare", keys: "Alt 8", run: go("compare") },
      { name: "Go to the shelf", run: () => void navigate("/") },
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
        name: "Settings of the analysis",
        run: () =>
          document
            .querySelector<HTMLButtonElement>('[aria-label="Settings of the analysis"]')
            ?.click(),
      },
      {
        name: "Undo",
        keys: "Ctrl Z",
        run: () => document.querySelector<HTMLButtonElement>("[data-history=undo]")?.click(),
      },
      {
        name: "Redo",
        keys: "Ctrl Shift Z",
        run: () => document.querySelector<HTMLButtonElement>("[data-history=redo]")?.click(),
      },
      { name: "Light look", run: () => setMode("light") },
      { name: "Dark look", run: () => setMode("dark") },
    ];
    const { evidence } = analysis;
    if (evidence) {
      list.push(
        {
          name: "Export the effects table (CSV)",
          run: () =>
            download(fileName(definition.title, "-effects.csv"), effectsCsv(evidence), "text/csv"),
        },
        {
          name: "Export the evidence (JSON)",
          run: () =>
            download(
              fileName(definition.title, "-evidence.json"),
              JSON.stringify(evidence, null, 2),
              "application/json",
            ),
        },
      );
    }
    if (analysis.status === "resampling") list.push({ name: "Stop resampling", run: stop });
    if (analysis.status === "stopped") list.push({ name: "Go on resampling", run: resume });
    return list;
  }, [navigate, study.id, raw, definition, analysis, stop, resume]);
}
