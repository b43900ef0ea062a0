import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import type { Complaint } from "../../../core";
import { Wrong } from "../ui/layout";
import { TextInput } from "../ui/text-input";
import { Line } from "./line";

interface Props {
  content: string;
  line: number;
  faults: Complaint[];
  change: (line: string | null) => void;
}

/** Any other line, as text; faults stand beneath it with a way to mend them. */
export function RawLine({ content, line, faults, change }: Props) {
  return (
    <Line
      minor
      name={content}
      line={line}
      remove={{ label: "Remove this line", act: () => change(null) }}
    >
      <Box
        sx={{
          "& .MuiInputBase-root": { width: "100%", fontFamily: "var(--serif)", fontSize: 15 },
          "& input": {
            p: "1px 0",
            borderBottom: faults.length > 0 ? "2px solid var(--rust)" : "1px dotted var(--quiet)",
          },
        }}
      >
        <TextInput
          bare
          aria-label="Sentence as text"
          aria-invalid={faults.length > 0}
          value={content}
          onChange={(e) => change(e.target.value)}
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
}: {
  fault: Complaint;
  content: string;
  change: (line: string) => void;
}) {
  const mended = fault.suggestion
    ? content.slice(0, fault.column - 1) +
      fault.suggestion +
      content.slice(fault.column - 1 + fault.length)
    : null;
  return (
    <Wrong>
      ◆ Line {fault.line}, column {fault.column}: {fault.message}{" "}
      {mended !== null && (
        <Button size="small" onClick={() => change(mended)}>
          Write “{fault.suggestion}”
        </Button>
      )}
    </Wrong>
  );
}
