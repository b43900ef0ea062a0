import { useEffect, useState } from "react";
import type { AnalysisState } from "../../analysis/analysis";
import { VERDICT_WORDS } from "../verdict";

/** Typing settles before anything is said of it. */
const PAUSE_MS = 800;

/** Tells screen readers the verdicts when they have changed and nothing is being made any more. */
export function Announcer({
  analysis: { evidence, status, problem },
}: {
  analysis: AnalysisState;
}) {
  const [said, setSaid] = useState("");
  const busy = status === "resampling" || status === "estimating";
  const words = problem
    ? problem.message
    : (evidence?.hypotheses ?? [])
        .map(({ label, verdict }) => `${label} ${VERDICT_WORDS[verdict]}`)
        .join("; ");
  useEffect(() => {
    if (busy) return;
    const timer = setTimeout(() => setSaid(words), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [busy, words]);
  return (
    <div className="visually-hidden" role="status" aria-live="polite">
      {said}
    </div>
  );
}
