import Box from "@mui/material/Box";
import Tooltip from "@mui/material/Tooltip";
import { createContext, useContext } from "react";
import { glossaryEntry } from "../../../core";

/** Opens the glossary at a term; null where there is none to open. */
export const GlossaryOpener = createContext<((term: string) => void) | null>(null);

/**
 * A term of the trade whose definition shows when it is pointed at; a click opens the glossary
 * there, and for the keyboard the list of commands does.
 */
export function Term({ children, of }: { children: string; of?: string }) {
  const entry = glossaryEntry(of ?? children);
  const open = useContext(GlossaryOpener);
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
      <Box
        component="span"
        onClick={() => open?.(entry.term)}
        sx={{ borderBottom: "1px dotted var(--quiet)", cursor: "help" }}
      >
        {children}
      </Box>
    </Tooltip>
  );
}
