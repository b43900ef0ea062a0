import { useCallback } from "react";
import { useAsk } from "../actions/asking";
import type { RunsOutcome } from "../actions/runs-action";
import type { StudyContext } from "./use-study";

/**
 * Asks for something to be written beside the study (a run kept, a declaration, a step back); where
 * that fails it is said where failed changes are said.
 * @param key names the fetcher
 * @param place the screen whose action is asked, as the end of its address; empty for the study
 *   itself
 */
export function useTell(
  { study, writer }: Pick<StudyContext, "study" | "writer">,
  key: string,
  place = "",
): (body: object) => Promise<void> {
  const { id } = study;
  const ask = useAsk<RunsOutcome>(`${key} ${id}`);
  return useCallback(
    async (body) => {
      const outcome = await ask(body, `/study/${id}${place}`);
      if (outcome?.ok === false) writer.failed(outcome.message);
    },
    [ask, id, place, writer],
  );
}
