import Box from "@mui/material/Box";
import type { ReactNode } from "react";

/**
 * A frame around a table that may be wider than its place; it can be reached and scrolled by
 * keyboard.
 */
export function Wide({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Box tabIndex={0} role="region" aria-label={label} sx={{ overflowX: "auto", minWidth: 0 }}>
      {children}
    </Box>
  );
}
