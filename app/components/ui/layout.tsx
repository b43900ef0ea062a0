import Alert, { type AlertProps } from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Stack from "@mui/material/Stack";
import { styled } from "@mui/material/styles";

/** The body of a screen, with the margins that all have. */
export const Screen = styled("div")({
  padding: "18px 24px 40px",
  "@media (max-width: 720px)": { padding: "14px 12px 32px" },
});

/**
 * The head of a screen or of one of its parts: a title, and what can be done with it, in a row that
 * wraps.
 */
export const ScreenHead = styled("header")({
  display: "flex",
  alignItems: "center",
  gap: 12,
  flexWrap: "wrap",
});

/** Pushes what follows in a row to its end. */
export const Spacer = () => <Box component="span" sx={{ flex: 1 }} />;

/** A control with its name above it. */
export const Labelled = styled("label")({
  display: "grid",
  gap: 3,
  fontSize: 14,
  alignContent: "start",
  "& > span:first-of-type": { color: "var(--quiet)" },
});

const Noted = styled(Alert)({
  backgroundColor: "var(--rust-wash)",
  fontSize: 14,
  padding: "0 12px",
  "& .MuiAlert-action": { alignItems: "center", padding: "3px 0 3px 12px", marginRight: -4 },
});

/** What deserves a look, in the house's form. */
export const Note = (props: AlertProps) => <Noted severity="warning" icon={false} {...props} />;

/** What is wrong with an entry, beside it. */
export const Wrong = styled("p")({ color: "var(--rust)", fontSize: 14, marginTop: 5 });

/** Things in a row that wraps. */
export const Row = styled(Stack)({
  flexDirection: "row",
  flexWrap: "wrap",
  alignItems: "center",
  gap: 10,
});
