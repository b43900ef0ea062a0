import { styled } from "@mui/material/styles";

const NARROW = "@media (max-width: 1160px)";

/** A picture with what is read and set beside it; beneath it where there is no room. */
export const Beside = styled("div")({
  display: "grid",
  gridTemplateColumns: "660px minmax(300px, 1fr)",
  gap: 32,
  alignItems: "start",
  [NARROW]: { gridTemplateColumns: "minmax(0, 1fr)" },
});

export const Side = styled("aside")({
  display: "grid",
  gridTemplateColumns: "minmax(0, 1fr)",
  gap: 14,
  alignContent: "start",
  minWidth: 0,
});

/** What is read at the handle: a number in large, and what it means. */
export const ReadingBox = styled("div")({
  borderTop: "1px solid var(--ink)",
  paddingTop: 8,
  "& .value": { font: "600 2.5rem/1.15 var(--serif)" },
  "& .serif": { fontSize: "1.12rem", lineHeight: 1.4 },
});

export const Controls = styled("div")({
  display: "flex",
  flexWrap: "wrap",
  alignItems: "center",
  gap: "8px 12px",
});

/** A sentence about the whole picture. */
export const Sentence = styled("blockquote")({
  margin: 0,
  borderLeft: "3px solid var(--petrol)",
  paddingLeft: 14,
  fontFamily: "var(--serif)",
  fontStyle: "italic",
  fontSize: "1.05rem",
  lineHeight: 1.42,
});

/** Panels side by side, in as many columns as are asked for. */
export const PanelGrid = styled("div")({
  display: "grid",
  gap: "22px 18px",
  overflowX: "auto",
  "& figure": { margin: 0 },
  "& figcaption": { display: "grid", fontSize: 14 },
  "&.two": { gridTemplateColumns: "max-content max-content" },
  "@media (max-width: 1260px)": { "&.two": { gridTemplateColumns: "max-content" } },
});

export const Planes = styled("div")({
  display: "grid",
  gridTemplateColumns: "max-content max-content",
  gap: 24,
  alignItems: "start",
  overflowX: "auto",
  "& > div": { display: "grid", gap: 10, justifyItems: "start" },
  "@media (max-width: 1260px)": { gridTemplateColumns: "max-content" },
});

export const PlaneNote = styled("p")({ maxWidth: 660, marginTop: 8 });
