import { styled } from "@mui/material/styles";

/** What may be taken to the left, what was made of it to the right; one above the other on a phone. */
export const Sides = styled("div")({
  display: "grid",
  gridTemplateColumns: "250px minmax(0, 1fr)",
  minHeight: "100%",
  "@media (max-width: 800px)": { gridTemplateColumns: "minmax(0, 1fr)" },
});
