import Typography from "@mui/material/Typography";
import { styled } from "@mui/material/styles";
import { useState } from "react";
import { findTerms } from "../../../core";
import { Entry } from "../ui/field";

const List = styled("dl")({
  margin: "12px 0 0",
  "& dt": { fontFamily: "var(--serif)", fontWeight: 600, marginTop: 12 },
  "& dd": { margin: 0 },
});

/** Every term of the screens with its definition, formula and source, found by typing. */
export function Glossary({ at = "" }: { at?: string }) {
  const [typed, setTyped] = useState(at);
  const shown = findTerms(typed);
  return (
    <>
      <Entry
        hidden
        label="Find a term"
        placeholder="Find a term"
        value={typed}
        onChange={setTyped}
      />
      <List>
        {shown.map(({ term, also, definition, formula, source }) => (
          <div key={term}>
            <dt>
              {term}
              {also && (
                <Typography component="span" variant="caption" color="textSecondary">
                  {" "}
                  also {also.join(", ")}
                </Typography>
              )}
            </dt>
            <dd>
              {definition}
              {formula && (
                <Typography sx={{ fontFamily: "var(--serif)", fontStyle: "italic" }}>
                  {formula}
                </Typography>
              )}
              {source && (
                <Typography variant="caption" color="textSecondary" sx={{ display: "block" }}>
                  {source}
                </Typography>
              )}
            </dd>
          </div>
        ))}
      </List>
      {shown.length === 0 && <p className="quiet">No term has these letters.</p>}
    </>
  );
}
