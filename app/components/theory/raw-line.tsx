import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import InputBase from "@mui/material/InputBase";
import type { Complaint } from "../../../core";
import { Wrong } from "../ui/layout";
import { Line } from "./line";

interface Props {
  content: string;
  line: number;
  faults: Complaint[];
  change: (line: string | null) => void;
}

/** Any other line, as text; faults stand beneath it with a way to mend them. */
export function RawLine({ content, line, faults, change }: Props) {
  // A sentence that waits for being mended keeps its number, and its place among the others.
  const label = faults.length > 0 ? /^\s*([^\s:]+)\s*:/.exec(content)?.[1] : undefined;
  return (
    <Line
      minor={label === undefined}
      {...(label !== undefined && { label })}
      name={content}
      line={line}
      remove={{ label: "Remove this line", act: () => change(null) }}
    >
      <Box
        sx={{
          "& .MuiInputBase-root": { width: "100%", fontFamily: "var(--serif)", fontSize: 15 },
          "& textarea": {
            p: "1px 0",
            borderBottom: faults.length > 0 ? "2px solid var(--rust)" : "1px dotted var(--quiet)",
          },
        }}
      >
        {/* All of it is in sight, however long; it stays one line of the text. */}
        <InputBase
          multiline
          inputProps={{ "aria-label": "Sentence as text", "aria-invalid": faults.length > 0 }}
          value={content}
          onChange={(e) => change(e.target.value.replace(/[\r\n]+/g, " "))}
        />
      </Box>
      {faults.map((fault) => (
        <Fault key={fault.message} fault={fault} content={content} change={change} />
      ))}
    </Line>
  );
}

/** A complaint about a line, and the word that may have been meant. */
export function Fault({
  fault,
  content,
  change,
  where = "",
}: {
  fault: Complaint;
  content: string;
  /** Where in a text; nothing beside the line itself. */
  where?: string;
  change: (line: string) => void;
}) {
  const mended = fault.suggestion
    ? content.slice(0, fault.column - 1) +
      fault.suggestion +
      content.slice(fault.column - 1 + fault.length)
    : null;
  return (
    <Wrong>
      ◆ {where !== "" && `${where} `}
      {fault.message}{" "}
      {mended !== null && (
        <Button size="small" onClick={() => change(mended)}>
          Write “{fault.suggestion}”
        </Button>
      )}
    </Wrong>
  );
}
