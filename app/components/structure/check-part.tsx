import { styled } from "@mui/material/styles";
import { Link } from "react-router";
import { Note } from "../ui/layout";

/** One part of the Checks screen. */
export const CheckPart = styled("section")({
  borderTop: "1px solid var(--ink)",
  paddingTop: 10,
  display: "grid",
  gap: 10,
  gridTemplateColumns: "minmax(0, 1fr)",
});

/** What was changed after the fact, and where both runs stand side by side. */
export const Tried = ({ change }: { change: string }) => (
  <Note role="status">
    Tried: {change}. The run before it is kept; <Link to="../compare">Compare</Link> puts every
    number that moved side by side. This is a change after the fact, and the log says so.
  </Note>
);
