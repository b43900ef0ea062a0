import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import { Screen } from "./layout";

/** A screen with nothing on it yet: what belongs here, and where to begin. */
export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Screen sx={{ display: "grid", gap: 1.75, maxWidth: "70ch" }}>
      <Typography variant="h1">{title}</Typography>
      <Typography sx={{ fontFamily: "var(--serif)" }}>{children}</Typography>
    </Screen>
  );
}
