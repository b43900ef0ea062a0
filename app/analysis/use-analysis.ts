import { startTransition, useEffect, useState } from "react";
import type { Analysis, AnalysisState } from "./analysis";

const whole = (state: AnalysisState): AnalysisState => state;

/**
 * What the analysis tells, read where it is shown: a component that asks for a part of it is drawn
 * again when that part changes, not with every batch of replicates. What is told is drawn as a
 * transition: a letter typed meanwhile goes first.
 * @param analysis the same one as long as the component lives
 * @param select which part; it gives the same value (by identity) as long as nothing it looks at
 *   has changed
 */
export function useAnalysis(analysis: Analysis): AnalysisState;
export function useAnalysis<T>(analysis: Analysis, select: (state: AnalysisState) => T): T;
export function useAnalysis(
  analysis: Analysis,
  select: (state: AnalysisState) => unknown = whole,
): unknown {
  const [held, setHeld] = useState(analysis.snapshot);
  useEffect(() => {
    let drawn = held;
    const take = (): void => {
      const now = analysis.snapshot();
      if (Object.is(select(drawn), select(now))) return;
      drawn = now;
      startTransition(() => setHeld(now));
    };
    // Something may have been told between drawing and here.
    take();
    return analysis.subscribe(take);
    // What was held at first is where the comparison begins; later it follows what was told.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [analysis, select]);
  return select(held);
}
