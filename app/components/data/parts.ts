import { styled } from "@mui/material/styles";

/** The panel of the chosen column, beside the grid or beneath it. */
export const Panel = styled("aside")({
  width: 300,
  borderLeft: "1px solid var(--line)",
  padding: "14px 22px 24px",
  overflow: "auto",
  display: "grid",
  gridTemplateColumns: "minmax(0, 1fr)",
  gap: 13,
  alignContent: "start",
  "@media (max-width: 900px)": { width: "100%", borderLeft: 0 },
});

/** Names and values in two columns. */
export const Pairs = styled("dl")({
  display: "grid",
  gridTemplateColumns: "auto 1fr",
  gap: "2px 14px",
  margin: 0,
  fontSize: 14,
  "& dt": { color: "var(--quiet)" },
  "& dd": { margin: 0, textAlign: "right" },
});

/** A field of several controls, with its name above. */
export const Group = styled("div")({
  display: "grid",
  gap: 4,
  fontSize: 14,
  justifyItems: "start",
  "& > span:first-of-type, & > small": { color: "var(--quiet)" },
  "& > small[role=alert]": { color: "var(--rust)" },
});

/** A row of things above the grid. */
export const Bar = styled("div")({
  display: "flex",
  flexWrap: "wrap",
  alignItems: "center",
  gap: 8,
  padding: "0 24px 8px",
});

/** Two fields side by side, where there is room. */
export const Fields = styled("div")({
  display: "grid",
  gridTemplateColumns: "repeat(auto-fit, minmax(min(200px, 100%), 1fr))",
  gap: "14px 20px",
});
