import { VERDICT_WORDS } from "../../../core";
import { memo, useEffect, useState } from "react";
import type { Analysis } from "../../analysis/analysis";
import { useAnalysis } from "../../analysis/use-analysis";

/** Typing settles before anything is said of it. */
const PAUSE_MS = 800;

/** Tells screen readers the verdicts when they have changed and nothing is being made any more. */
export const Announcer = memo(function Announcer({ analysis }: { analysis: Analysis }) {
  const { evidence, status, problem } = useAnalysis(analysis);
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
});
