import Button from "@mui/material/Button";
import { styled } from "@mui/material/styles";
import Typography from "@mui/material/Typography";
import type { LogEntry } from "../../../core";
import { TextInput } from "../ui/text-input";
import { Dialog } from "../ui/dialog";

interface Props {
  log: LogEntry[];
  /** Writes the reason of an entry. */
  explain: (log: LogEntry[]) => void;
  close: () => void;
}

const Log = styled("ol")({
  listStyle: "none",
  margin: 0,
  padding: 0,
  "& li": {
    display: "grid",
    gridTemplateColumns: "116px minmax(0, 1fr) 220px",
    gap: 14,
    alignItems: "baseline",
    padding: "7px 0",
    borderBottom: "1px solid var(--hair)",
    fontSize: 14,
  },
  "@media (max-width: 640px)": { "& li": { gridTemplateColumns: "minmax(0, 1fr)" } },
});

/** What was done to data, variables and measures, when and why; the newest first. */
export function LogDialog({ log, explain, close }: Props) {
  return (
    <Dialog
      title="What was done to these data"
      width="md"
      close={close}
      actions={
        <>
          <Typography variant="body2" color="textSecondary" sx={{ mr: "auto" }}>
            Undo takes back the last change; its entry goes with it.
          </Typography>
          <Button onClick={close}>Close</Button>
        </>
      }
    >
      {log.length === 0 ? (
        <p className="quiet">
          Nothing yet. Every change of a cell, a variable or a measure will stand here, with the
          time and the reason, and goes into the study file.
        </p>
      ) : (
        <Log reversed>
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
        </Log>
      )}
    </Dialog>
  );
}
