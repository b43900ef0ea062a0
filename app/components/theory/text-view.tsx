import Box from "@mui/material/Box";
import Skeleton from "@mui/material/Skeleton";
import { lazy, Suspense } from "react";
import type { Complaint } from "../../../core";
import { Disclosure } from "../ui/disclosure";
import { replaceLine } from "./edit-text";
import { Fault } from "./raw-line";

const fetchEditor = () => import("./theory-editor");
const TheoryEditor = lazy(fetchEditor);

/**
 * Fetches the editor ahead, so that it is there at once, also when the network has gone meanwhile.
 */
export const prepareEditor = (): void => void fetchEditor().catch(() => undefined);

interface Props {
  text: string;
  complaints: Complaint[];
  variables: string[];
  change: (text: string) => void;
}

const EXAMPLES = [
  "H1: hours raises belonging through confidence then friends",
  "H2: hours affects belonging through confidence and friends",
  "H3: hours lowers belonging only through confidence",
  "also noise to belonging",
  "H4: support strengthens hours to confidence",
  "H5: support with months alters hours to belonging through confidence on hours to confidence",
  "adjust confidence, belonging for age, months",
  "contrast H1 with H2",
  "covary conf1 with conf2",
  "hold confidence to conf2 equal to confidence to conf4",
  "groups by site with loadings equal",
  "model visits as poisson",
  "model confidence as ordered",
  "define share as H1 / total hours to belonging",
  "measure confidence averages conf1, conf2, reversed conf3",
];

/** The same theory as plain text: what a preregistration can contain. */
export function TextView({ text, complaints, variables, change }: Props) {
  const lines = text.split("\n");
  return (
    <Box sx={{ mt: 1.5, display: "grid", gap: 1 }}>
      <Suspense fallback={<Skeleton variant="rectangular" height={300} />}>
        <TheoryEditor text={text} complaints={complaints} variables={variables} change={change} />
      </Suspense>
      {complaints.map((fault) => (
        <Fault
          key={`${fault.line} ${fault.column} ${fault.message}`}
          fault={fault}
          where={`Line ${fault.line}, column ${fault.column}:`}
          content={lines[fault.line - 1] ?? ""}
          change={(line) => change(replaceLine(text, fault.line, line))}
        />
      ))}
      <Disclosure summary="How to write it">
        <Box component="ul" sx={{ fontFamily: "var(--serif)", fontSize: 14, m: 0, pl: 2.5 }}>
          {EXAMPLES.map((example) => (
            <li key={example}>{example}</li>
          ))}
        </Box>
        <Box component="p" sx={{ fontSize: 14, color: "var(--quiet)", mt: 1 }}>
          One sentence a line; names with spaces in quotation marks; # starts a comment. Increases,
          decreases, predicts, via, mediates and moderates are understood too.
        </Box>
      </Disclosure>
    </Box>
  );
}
