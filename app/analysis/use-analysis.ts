import { useCallback, useSyncExternalStore } from "react";
import type { Analysis, AnalysisState } from "./analysis";

const whole = (state: AnalysisState): AnalysisState => state;

/**
 * What the analysis tells, read where it is shown: a component that asks for a part of it is drawn again when that part
 * changes, not with every batch of replicates.
 * @param select which part; it gives the same value (by identity) as long as nothing it looks at has changed
 */
export function useAnalysis(analysis: Analysis): AnalysisState;
export function useAnalysis<T>(analysis: Analysis, select: (state: AnalysisState) => T): T;
export function useAnalysis(
  analysis: Analysis,
  select: (state: AnalysisState) => unknown = whole,
): unknown {
  const read = useCallback(() => select(analysis.snapshot()), [analysis, select]);
  return useSyncExternalStore(analysis.subscribe, read, read);
}
