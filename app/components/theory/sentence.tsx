import type { ReactNode } from "react";
import type { Complaint, Evidence, HypothesisEvidence, Statement } from "../../../core";
import { pClause, plain } from "../../../core";
import { CloseIcon } from "../icons";
import { IntervalBar, type Scale } from "../interval-bar";
import { VerdictMark } from "../verdict";
import { replaceLine } from "./edit-text";

export interface SentenceProps {
  text: string;
  statements: Statement[];
  complaints: Complaint[];
  variables: string[];
  evidence: Evidence | null;
  change: (text: string) => void;
  focus: (hypothesis: HypothesisEvidence | null) => void;
}

/** What a sentence with a verdict is given. */
export interface ClaimProps<S extends Statement> extends SentenceProps {
  statement: S;
  scale: Scale;
}

/** The frame of a numbered sentence: its label, its words, what the data say of it, and a way to remove it. */
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
  const found = evidence?.hypotheses.find((h) => h.line === statement.line);
  return (
    <section
      className="sentence"
      aria-label={`Hypothesis ${statement.label}`}
      onMouseEnter={() => focus(found ?? null)}
      onMouseLeave={() => focus(null)}
    >
      <span className="sentence-label serif">{statement.label}</span>
      <div>
        <p className="sentence-text serif">{words}</p>
        {below}
        <Reading found={found} evidence={evidence} scale={scale} />
      </div>
      <RemoveButton
        label={`Remove ${statement.label}`}
        remove={() => change(replaceLine(text, statement.line, null))}
      />
    </section>
  );
}

export function RemoveButton({ label, remove }: { label: string; remove: () => void }) {
  return (
    <button
      type="button"
      className="button bare sentence-remove"
      aria-label={label}
      onClick={remove}
    >
      <CloseIcon />
    </button>
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
  if (!found || !evidence) return <p className="reading quiet">not estimated yet</p>;
  const { claim } = found;
  return (
    <div className="reading" title={found.reason}>
      <VerdictMark verdict={found.verdict} />
      {claim && claim.estimate !== null ? (
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
        {claim && claim.estimate !== null
          ? `${briefly(found.quantity)} ${plain(claim.estimate)}`
          : claim?.joint
            ? `joint test, ${pClause(claim.joint.p)}`
            : briefly(found.quantity)}
      </span>
    </div>
  );
}

/** “indirect effect” as “indirect”: beside a sentence there is little room. */
const briefly = (quantity: string): string =>
  quantity
    .replace(/ effects?$/, "")
    .replace("index of moderated mediation", "index")
    .replace(/^difference between.*/, "difference");
