import Typography from "@mui/material/Typography";
import { styled } from "@mui/material/styles";
import { useState } from "react";
import { GLOSSARY } from "../../../core";
import { Dialog } from "../ui/dialog";
import { Entry } from "../ui/field";

const List = styled("dl")({
  margin: "12px 0 0",
  "& dt": { fontFamily: "var(--serif)", fontWeight: 600, marginTop: 12 },
  "& dd": { margin: 0 },
});

/** Every term of the screens with its definition, formula and source. */
export function GlossaryDialog({ close }: { close: () => void }) {
  const [typed, setTyped] = useState("");
  const query = typed.trim().toLowerCase();
  const shown = GLOSSARY.filter(
    ({ term, definition }) =>
      term.toLowerCase().includes(query) || definition.toLowerCase().includes(query),
  );
  return (
    <Dialog title="Glossary" width="sm" close={close}>
      <Entry
        hidden
        label="Find a term"
        placeholder="Find a term"
        value={typed}
        onChange={setTyped}
      />
      <List>
        {shown.map(({ term, definition, formula, source }) => (
          <div key={term}>
            <dt>{term}</dt>
            <dd>
              {definition}
              {formula && (
                <Typography sx={{ fontFamily: "var(--serif)", fontStyle: "italic" }}>
                  {formula}
                </Typography>
              )}
              {source && (
                <Typography variant="caption" color="textSecondary">
                  {source}
                </Typography>
              )}
            </dd>
          </div>
        ))}
      </List>
      {shown.length === 0 && <p className="quiet">No term has these letters.</p>}
    </Dialog>
  );
}
