import Button from "@mui/material/Button";
import { Dialog } from "@mui/material";
import { useId } from "react";
import type { LogEntry } from "../../../core";
import { TextInput } from "../ui/text-input";
import { Spacer } from "../ui/layout";

interface Props {
  log: LogEntry[];
  /** Writes the reason of an entry. */
  explain: (log: LogEntry[]) => void;
  close: () => void;
}

/** What was done to data, variables and measures, when and why; the newest first. */
export function LogDialog({ log, explain, close }: Props) {
  const title = useId();
  return (
    <Dialog open onClose={close} maxWidth="md" fullWidth aria-labelledby={title}>
      <div className="dialog">
        <h2 id={title}>What was done to these data</h2>
        {log.length === 0 ? (
          <p className="quiet">
            Nothing yet. Every change of a cell, a variable or a measure will stand here, with the
            time and the reason, and goes into the study file.
          </p>
        ) : (
          <ol className="log" reversed>
            {[...log.entries()].reverse().map(([at, entry]) => (
              <li key={at}>
                <time dateTime={entry.when} className="quiet">
                  {new Date(entry.when).toLocaleString("en-GB", {
                    day: "numeric",
                    month: "short",
                    hour: "2-digit",
                    minute: "2-digit",
                  })}
                </time>
                <p>{entry.what}</p>
                <TextInput
                  className="input"
                  aria-label={`Why: ${entry.what}`}
                  placeholder="Why?"
                  defaultValue={entry.why}
                  onBlur={(e) => {
                    const why = e.target.value.trim();
                    if (why !== entry.why)
                      explain(log.map((other, i) => (i === at ? { ...other, why } : other)));
                  }}
                />
              </li>
            ))}
          </ol>
        )}
        <div className="dialog-foot">
          <p className="quiet">Undo takes back the last change; its entry goes with it.</p>
          <Spacer />
          <Button onClick={close}>Close</Button>
        </div>
      </div>
    </Dialog>
  );
}
