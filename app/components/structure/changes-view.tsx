import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Steps } from "../ui/working-view";
import { changeWorking, pClause, type ChangeEvidence, type StructureSection } from "../../../core";

const FIRST = 8;

const nameOf = ({ group, arrow, kind }: ChangeEvidence): string => `${group} ${arrow} ${kind}`;

/** Score tests as changes of the theory, the largest first; each can be tried as a new run. */
export function ChangesView({
  section,
  apply,
}: {
  section: StructureSection;
  apply: (change: ChangeEvidence) => void;
}) {
  const [all, setAll] = useState(false);
  const [asked, setAsked] = useState<string | null>(null);
  const list = section.changes.filter((c) => c.p < 0.05);
  if (section.counts.df === 0)
    return (
      <Typography sx={{ fontFamily: "var(--serif)", maxWidth: "80ch" }}>
        The model leaves nothing out that could be added: it has no degrees of freedom.
      </Typography>
    );
  if (list.length === 0)
    return (
      <Typography sx={{ fontFamily: "var(--serif)", maxWidth: "80ch" }}>
        No single change would improve the fit noticeably (score tests, p below .05).
      </Typography>
    );
  return (
    <>
      <Typography sx={{ fontFamily: "var(--serif)", maxWidth: "80ch" }}>
        Changes made after the fact fit this sample, and often only this one. Take one only where it
        makes sense on other grounds, one at a time, and say so in the report; the log keeps it.
      </Typography>
      <Box component="ol" sx={{ listStyle: "none", m: 0, p: 0 }} aria-label="Changes">
        {list.slice(0, all ? list.length : FIRST).map((change) => (
          <Box
            component="li"
            key={nameOf(change)}
            sx={{
              display: "flex",
              gap: 2,
              alignItems: "baseline",
              flexWrap: "wrap",
              py: 0.75,
              borderBottom: "1px solid var(--hair)",
            }}
          >
            <Box component="span" sx={{ flex: "1 1 420px" }}>
              {change.words}{" "}
              <span className="quiet">
                {pClause(change.p, false)}
                {change.touches.length > 0 && `; touches ${change.touches.join(", ")}`}
              </span>
            </Box>
            <Button
              variant="text"
              aria-label={`Working: ${change.arrow}`}
              aria-expanded={asked === nameOf(change)}
              onClick={() => setAsked(asked === nameOf(change) ? null : nameOf(change))}
            >
              Working
            </Button>
            {change.change && (
              <Button
                variant="text"
                aria-label={`Try it: ${change.arrow}`}
                onClick={() => apply(change)}
              >
                Try it
              </Button>
            )}
            {asked === nameOf(change) && (
              <Box sx={{ flexBasis: "100%", borderLeft: "2px solid var(--petrol)", pl: 2 }}>
                <Steps working={changeWorking(change, section)} />
              </Box>
            )}
          </Box>
        ))}
      </Box>
      {list.length > FIRST && (
        <Button variant="text" sx={{ justifySelf: "start" }} onClick={() => setAll(!all)}>
          {all ? "Only the largest" : `All ${list.length} changes with p below .05`}
        </Button>
      )}
    </>
  );
}
