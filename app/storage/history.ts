import type { StoredHistory, StudyState } from "./database";

const MAX_HISTORY = 200;
/** So many characters of earlier definitions are kept; the oldest go first. */
const MAX_HISTORY_SIZE = 2_000_000;

export const emptyHistory = (id: string): StoredHistory => ({
  id,
  past: [],
  future: [],
  lastKind: "",
  lastAt: 0,
});

/** What of a study one can go back to. */
export const stateOf = ({ definition, dataKey, rows, columns }: StudyState): StudyState => ({
  definition,
  dataKey,
  rows,
  columns,
});

/** The newest states, as many as may be kept; at least one. */
export function boundedHistory(states: StudyState[]): StudyState[] {
  let size = 0;
  const kept = states.slice(-MAX_HISTORY);
  const first = kept.findLastIndex((state) => {
    size += JSON.stringify(state.definition).length;
    return size > MAX_HISTORY_SIZE;
  });
  return kept.slice(Math.min(first + 1, kept.length - 1));
}
