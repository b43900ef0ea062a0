import Box from "@mui/material/Box";
import type { ReactNode } from "react";
import type { Complaint, Evidence, HypothesisEvidence, Statement } from "../../../core";
import { pClause, plain } from "../../../core";
import { IntervalBar, type Scale } from "../interval-bar";
import { CautionMark } from "../cautions";
import { VerdictMark } from "../verdict";
import { replaceLine } from "./edit-text";
import { Line, Words } from "./line";

export interface SentenceProps {
  text: string;
  statements: Statement[];
  complaints: Complaint[];
  variables: string[];
  /** Columns that may tell groups apart. */
  groupings: string[];
  evidence: Evidence | null;
  change: (text: string) => void;
  /** Brings out the path of the sentence on this line (1-based) in the picture, or of none. */
  focus: (line: number | null) => void;
}

/** What a sentence with a verdict is given. */
export interface ClaimProps<S extends Statement> extends SentenceProps {
  statement: S;
  scale: Scale;
}

/** A numbered sentence: its label, its words, what the data say of it, and a way to remove it. */
export function Claim({
  text,
  statement,
  evidence,
  change,
  focus,
  scale,
  words,
  below,
}: ClaimProps<Statement & { label: string }> & { words: ReactNode; below?: ReactNode }) {
  const { label, line } = statement;
  const found = evidence?.hypotheses.find((h) => h.line === line);
  return (
    <Line
      name={`Hypothesis ${label}`}
      label={label}
      line={line}
      point={(on) => focus(on ? line : null)}
      remove={{ label: `Remove ${label}`, act: () => change(replaceLine(text, line, null)) }}
    >
      <Words>{words}</Words>
      {below}
      <Reading found={found} evidence={evidence} scale={scale} />
    </Line>
  );
}

function Reading({
  found,
  evidence,
  scale,
}: {
  found: HypothesisEvidence | undefined;
  evidence: Evidence | null;
  scale: Scale;
}) {
  if (!found || !evidence)
    return (
      <Box component="p" sx={{ fontSize: 14, color: "var(--quiet)", mt: "4px" }}>
        not estimated yet
      </Box>
    );
  const { claim } = found;
  const known = claim !== null && claim.estimate !== null;
  return (
    <Box
      title={[found.reason, ...found.cautions.map((c) => c.message)].join("\n")}
      sx={{
        display: "grid",
        gridTemplateColumns: "112px 108px 1fr",
        alignItems: "center",
        whiteSpace: "nowrap",
        fontSize: 14,
        mt: "4px",
      }}
    >
      <VerdictMark verdict={found.verdict} />
      {known ? (
        <IntervalBar
          interval={claim}
          scale={scale}
          width={104}
          unsettled={found.verdict === "unsettled"}
        />
      ) : (
        <span />
      )}
      <span className="quiet">
        {known
          ? `${briefly(found.quantity)} ${plain(claim.estimate)}`
          : claim?.joint
            ? `joint test, ${pClause(claim.joint.p)}`
            : briefly(found.quantity)}
      </span>
      <Box component="span" sx={{ gridColumn: "1 / -1" }}>
        <CautionMark hypothesis={found} />
      </Box>
    </Box>
  );
}

/** “indirect effect” as “indirect”: beside a sentence there is little room. */
const briefly = (quantity: string): string =>
  quantity
    .replace(/ effects?$/, "")
    .replace("index of moderated mediation", "index")
    .replace(/^difference between.*/, "difference");
