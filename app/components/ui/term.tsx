import Box from "@mui/material/Box";
import Tooltip from "@mui/material/Tooltip";
import { glossaryEntry } from "../../../core";

/** A term of the trade whose definition shows when it is pointed at; the glossary has it for the keyboard. */
export function Term({ children, of }: { children: string; of?: string }) {
  const entry = glossaryEntry(of ?? children);
  if (!entry) return children;
  return (
    <Tooltip
      title={
        <>
          {entry.definition}
          {entry.formula && (
            <Box component="span" sx={{ display: "block", mt: 0.5, fontFamily: "var(--serif)" }}>
              {entry.formula}
            </Box>
          )}
        </>
      }
    >
      <Box component="span" sx={{ borderBottom: "1px dotted var(--quiet)", cursor: "help" }}>
        {children}
      </Box>
    </Tooltip>
  );
}
